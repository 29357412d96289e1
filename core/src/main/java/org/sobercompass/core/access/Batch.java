package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import org.sobercompass.core.system.Question;

/**
 * Many questions at once: grouped by account inside, so that each account's subjects are found
 * once, and answered in the order asked. Not thread-safe, like its asker.
 */
public final class Batch {
  private static final int SHARED = 20_000;

  private final Asker asker;

  /** Asks with this asker. */
  public Batch(Asker asker) {
    this.asker = asker;
  }

  /** One question. */
  public record Item(int account, SystemView view, Question question) {
    /** For one right. */
    public Item(int account, SystemView view, int right, int resource) {
      this(account, view, Question.of(resource, right));
    }

    /** The right asked for, the first of several. */
    public int right() {
      return question.allOf()[0];
    }

    /** The resource asked about. */
    public int resource() {
      return question.resource();
    }
  }

  /**
   * The answers, in the order of the questions. O(n log n + n decisions); many questions are shared
   * among the processors, each with an asker of its own.
   */
  public List<Can> answer(List<Item> items) {
    long[] order = new long[items.size()];
    for (int i = 0; i < order.length; i++) {
      order[i] = (long) items.get(i).account() << 32 | i;
    }
    Arrays.sort(order);
    Can[] answers = new Can[order.length];
    int parts = order.length < SHARED ? 1 : Runtime.getRuntime().availableProcessors();
    List<CompletableFuture<Void>> running = new ArrayList<>();
    for (int part = 1; part < parts; part++) {
      int from = (int) ((long) order.length * part / parts);
      int to = (int) ((long) order.length * (part + 1) / parts);
      running.add(
          CompletableFuture.runAsync(
              () -> answer(items, order, from, to, asker.model().asker(), answers)));
    }
    answer(items, order, 0, order.length / parts, asker, answers);
    running.forEach(CompletableFuture::join);
    return List.of(answers);
  }

  private static void answer(
      List<Item> items, long[] order, int from, int to, Asker asker, Can[] answers) {
    for (int i = from; i < to; i++) {
      Item item = items.get((int) order[i]);
      answers[(int) order[i]] = asker.can(item.view(), item.account(), item.question());
    }
  }
}
