package org.sobercompass.bench;

import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.system.Grant;

/**
 * The yardstick: the flat organization counted by loops over plain arrays, on one thread, without
 * anything the product adds (no sight, no profile, no states, no proofs, no trees).
 */
final class PlainArrays {
  private PlainArrays() {}

  /** Pairs of account and group, and of account and permission. */
  record Counts(long pairs, long permissions) {}

  static Counts count(AccessModel model) {
    Facts facts = model.facts();
    IntRows up = facts.arrays().up();
    int systems = model.systems().size();
    int words = model.systems().stream().mapToInt(v -> v.rights().words()).max().orElse(1);
    long[][] given = given(model, systems, words);
    int[] stamp = new int[facts.subjects()];
    int[] queue = new int[facts.subjects()];
    long[] bits = new long[systems * words];
    long pairs = 0;
    long permissions = 0;
    for (int account = 0; account < facts.accounts(); account++) {
      int end = 0;
      queue[end++] = account;
      stamp[account] = account + 1;
      java.util.Arrays.fill(bits, 0);
      for (int at = 0; at < end; at++) {
        int subject = queue[at];
        long[] own = given[subject];
        if (own != null) {
          for (int w = 0; w < own.length; w++) {
            bits[w] |= own[w];
          }
        }
        for (int i = up.start(subject); i < up.end(subject); i++) {
          int group = up.at(i);
          if (stamp[group] != account + 1) {
            stamp[group] = account + 1;
            queue[end++] = group;
          }
        }
      }
      pairs += end - 1;
      for (long word : bits) {
        permissions += Long.bitCount(word);
      }
    }
    return new Counts(pairs, permissions);
  }

  private static long[] @org.jspecify.annotations.Nullable [] given(
      AccessModel model, int systems, int words) {
    long[][] given = new long[model.facts().subjects()][];
    for (SystemView view : model.systems()) {
      List<Grant> grants = view.grants();
      for (Grant grant : grants) {
        if (grant.subject() >= 0 && grant.activeAt(model.asOf().getEpochSecond())) {
          if (given[grant.subject()] == null) {
            given[grant.subject()] = new long[systems * words];
          }
          long[] allows = view.system().roles().get(grant.role()).allows();
          for (int w = 0; w < allows.length; w++) {
            given[grant.subject()][view.number() * words + w] |= allows[w];
          }
        }
      }
    }
    return given;
  }
}
