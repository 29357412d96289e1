package org.sobercompass.bench;

import java.io.BufferedOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.system.Grant;

/**
 * The yardstick: everything counted by loops over plain arrays, on one thread, without anything the
 * product adds (no sight, no profile, no states, no proofs). It can count where grants only add up
 * and none of them reaches down.
 */
final class PlainArrays {
  private final IntRows up;
  private final int accounts;
  private final int subjects;
  private final int cells;
  private final int[] start;
  private final int[] word;
  private final long[] mask;

  /** Pairs of account and group, and of account and permission on a node. */
  record Counts(long pairs, long permissions) {}

  private PlainArrays(AccessModel model) {
    Facts facts = model.facts();
    up = facts.arrays().up();
    accounts = facts.accounts();
    subjects = facts.subjects();
    IntList subject = new IntList();
    IntList number = new IntList();
    IntList cell = new IntList();
    long[] masks = new long[1024];
    int first = 0;
    for (SystemView view : model.systems()) {
      int words = view.rights().words();
      for (Grant grant : view.grants()) {
        if (grant.subject() >= 0 && grant.activeAt(model.asOf().getEpochSecond())) {
          long[] allows = view.system().roles().get(grant.role()).allows();
          for (int w = 0; w < words; w++) {
            if (allows[w] != 0) {
              if (cell.size() == masks.length) {
                masks = Arrays.copyOf(masks, masks.length * 2);
              }
              masks[cell.size()] = allows[w];
              subject.add(grant.subject());
              number.add(cell.size());
              cell.add(first + grant.resource() * words + w);
            }
          }
        }
      }
      first += view.resources().size() * words;
    }
    cells = first;
    IntRows rows = IntRows.ofPairs(subjects, subject, number);
    start = rows.rawOffsets();
    word = new int[rows.items()];
    mask = new long[rows.items()];
    for (int i = 0; i < word.length; i++) {
      word[i] = cell.get(rows.at(i));
      mask[i] = masks[rows.at(i)];
    }
  }

  /** Whether it can count an organization. */
  static boolean canCount(AccessModel model) {
    return model.systems().stream()
        .allMatch(
            view ->
                view.decider().isMonotone()
                    && (view.resources().size() == 1
                        || view.grants().stream().noneMatch(Grant::descends)));
  }

  /** The arrays of a model. */
  static PlainArrays of(AccessModel model) {
    return new PlainArrays(model);
  }

  static Counts count(AccessModel model) {
    return of(model).count();
  }

  /** Pairs of account and group. */
  long pairs() {
    int[] stamp = new int[subjects];
    int[] queue = new int[subjects];
    long pairs = 0;
    for (int account = 0; account < accounts; account++) {
      pairs += walk(account, stamp, queue) - 1;
    }
    return pairs;
  }

  Counts count() {
    int[] stamp = new int[subjects];
    int[] queue = new int[subjects];
    long[] bits = new long[cells];
    int[] touched = new int[cells];
    long pairs = 0;
    long permissions = 0;
    for (int account = 0; account < accounts; account++) {
      int end = walk(account, stamp, queue);
      int count = 0;
      for (int at = 0; at < end; at++) {
        int subject = queue[at];
        for (int i = start[subject]; i < start[subject + 1]; i++) {
          if (bits[word[i]] == 0) {
            touched[count++] = word[i];
          }
          bits[word[i]] |= mask[i];
        }
      }
      pairs += end - 1;
      for (int i = 0; i < count; i++) {
        permissions += Long.bitCount(bits[touched[i]]);
        bits[touched[i]] = 0;
      }
    }
    return new Counts(pairs, permissions);
  }

  private int walk(int account, int[] stamp, int[] queue) {
    int end = 0;
    queue[end++] = account;
    stamp[account] = account + 1;
    for (int at = 0; at < end; at++) {
      int subject = queue[at];
      for (int i = up.start(subject); i < up.end(subject); i++) {
        int group = up.at(i);
        if (stamp[group] != account + 1) {
          stamp[group] = account + 1;
          queue[end++] = group;
        }
      }
    }
    return end;
  }

  /** Writes the arrays for the program in C++: little-endian, each array after its length. */
  void write(Path file) throws IOException {
    try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file), 1 << 20);
        DataOutputStream data = new DataOutputStream(out)) {
      for (int number : List.of(accounts, subjects, cells)) {
        data.writeInt(Integer.reverseBytes(number));
      }
      for (int[] ints : List.of(up.rawOffsets(), up.rawTargets(), start, word)) {
        data.writeInt(Integer.reverseBytes(ints.length));
        ByteBuffer bytes = ByteBuffer.allocate(ints.length * 4).order(ByteOrder.LITTLE_ENDIAN);
        bytes.asIntBuffer().put(ints);
        data.write(bytes.array());
      }
      ByteBuffer bytes = ByteBuffer.allocate(mask.length * 8).order(ByteOrder.LITTLE_ENDIAN);
      bytes.asLongBuffer().put(mask);
      data.write(bytes.array());
    }
  }
}
