package org.sobercompass.core.facts;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.TextTable;

/**
 * The references of one directory as they were written: who refers, how, and the number of the
 * spelling. References are most of a large export, so their spellings are numbered on another
 * thread, some thousands at a time and in their order, while the next entries are read. Not
 * thread-safe.
 */
final class FactsReferences {
  private static final int CHUNK = 8192;

  /** So many chunks at most wait to be numbered. */
  private static final int WAITING = 8;

  private final IntList from = new IntList(1024);
  private final IntList via = new IntList(1024);
  private final IntList to = new IntList(1024);
  private final TextTable spellings = new TextTable();
  private byte[][] texts = new byte[CHUNK][];
  private int count;

  /** One for each chunk handed on, each done when it and all before it are numbered. */
  private final List<CompletableFuture<Void>> chunks = new ArrayList<>();

  /** Notes a reference. */
  void add(int who, Via how, char prefix, byte[] text) {
    byte[] spelled = new byte[text.length + 1];
    spelled[0] = (byte) prefix;
    System.arraycopy(text, 0, spelled, 1, text.length);
    from.add(who);
    via.add(how.ordinal());
    texts[count++] = spelled;
    if (count == CHUNK) {
      handOn();
    }
  }

  private void handOn() {
    byte[][] full = texts;
    int before = chunks.size();
    if (before >= WAITING) {
      await(chunks.get(before - WAITING));
    }
    CompletableFuture<Void> last =
        before == 0 ? CompletableFuture.completedFuture(null) : chunks.get(before - 1);
    chunks.add(last.thenRunAsync(() -> number(full, CHUNK)));
    texts = new byte[CHUNK][];
    count = 0;
  }

  /** What went wrong there goes wrong here, as it is: the end of memory too. */
  private static void await(CompletableFuture<Void> chunk) {
    try {
      chunk.join();
    } catch (CompletionException e) {
      if (e.getCause() instanceof Error error) {
        throw error;
      }
      throw e;
    }
  }

  private void number(byte[][] some, int size) {
    int[] numbers = new int[size];
    spellings.intern(some, size, numbers);
    for (int number : numbers) {
      to.add(number);
    }
  }

  /** All references, numbered; nothing may be added afterwards. */
  All all() {
    if (!chunks.isEmpty()) {
      await(chunks.get(chunks.size() - 1));
    }
    number(texts, count);
    return new All(from, via, to, spellings);
  }

  /**
   * References, by their place.
   *
   * @param from the rows that refer
   * @param via how, by number
   * @param to the number of the spelling each refers to
   */
  record All(IntList from, IntList via, IntList to, TextTable spellings) {}
}
