package org.sobercompass.core.access;

import java.util.ArrayDeque;
import java.util.BitSet;
import java.util.Deque;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Token;

/**
 * Work over all accounts, in chunks of a thousand, on all processors, with results in the order of
 * accounts. At most a few chunks are kept at a time, so memory does not grow with the answer.
 */
public final class Bulk {
  /** As many threads as there are processors. */
  static final int ALL = 0;

  private static final int CHUNK = 1000;

  private final AccessModel model;
  private final int threads;
  private final int chunk;
  private final int most;

  Bulk(AccessModel model, int threads) {
    this(
        model,
        threads == ALL ? Runtime.getRuntime().availableProcessors() : threads,
        CHUNK,
        Integer.MAX_VALUE);
  }

  private Bulk(AccessModel model, int threads, int chunk, int most) {
    this.most = most;
    this.model = model;
    this.threads = threads;
    this.chunk = chunk;
  }

  /** The same on this many threads. */
  public Bulk on(int wantedThreads) {
    return new Bulk(model, wantedThreads, chunk, most);
  }

  /** The same in chunks of this many accounts, for work whose results are large. */
  public Bulk inChunksOf(int accounts) {
    return new Bulk(model, threads, accounts, most);
  }

  /** The same over the first accounts only. */
  public Bulk upTo(int accounts) {
    return new Bulk(model, threads, chunk, accounts);
  }

  /** A run of accounts, {@code from} up to {@code to} exclusive. */
  public record Range(int from, int to) {}

  /**
   * Computes something for each run of accounts, in parallel, and hands the results on in order.
   *
   * @param work gets an asker of its own thread and a run
   * @param take gets the results in order, on the calling thread
   */
  public <T> void inOrder(BiFunction<Asker, Range, T> work, Consumer<T> take) {
    each(Math.min(most, model.facts().accounts()), work, take);
  }

  /** The same over any numbered things, from 0 up to {@code accounts} exclusive. */
  public <T> void each(int accounts, BiFunction<Asker, Range, T> work, Consumer<T> take) {
    model.systems().forEach(view -> view.memberships().prepare());
    if (accounts <= chunk) {
      // One run: to start threads for it would cost more than the work of a small organization.
      if (accounts > 0) {
        take.accept(work.apply(model.asker(), new Range(0, accounts)));
      }
      return;
    }
    if (threads == 1) {
      inTurn(accounts, work, take);
      return;
    }
    ThreadLocal<Asker> askers = ThreadLocal.withInitial(model::asker);
    ExecutorService pool = Executors.newFixedThreadPool(threads);
    try {
      Deque<Future<T>> running = new ArrayDeque<>();
      int done = 0;
      for (int from = 0; from < accounts; from += chunk) {
        Range range = new Range(from, Math.min(accounts, from + chunk));
        running.add(pool.submit(() -> work.apply(askers.get(), range)));
        if (running.size() > threads * 3) {
          take.accept(result(running.remove()));
          done += chunk;
          model.progress().at(done, accounts);
        }
      }
      while (!running.isEmpty()) {
        take.accept(result(running.remove()));
        done += chunk;
        model.progress().at(Math.min(done, accounts), accounts);
      }
    } finally {
      pool.shutdownNow();
    }
  }

  private <T> void inTurn(int accounts, BiFunction<Asker, Range, T> work, Consumer<T> take) {
    Asker own = model.asker();
    for (int from = 0; from < accounts; from += chunk) {
      int to = Math.min(accounts, from + chunk);
      take.accept(work.apply(own, new Range(from, to)));
      model.progress().at(to, accounts);
    }
  }

  /**
   * Waits for work of another thread, and gives its result; what went wrong there is thrown here.
   */
  public static <T> T result(Future<T> future) {
    try {
      return future.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted", e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException cause) {
        throw cause;
      }
      throw new IllegalStateException(e.getCause());
    }
  }

  /** Takes what accounts hold: first of whom and where, then cell by cell. */
  public interface Cells extends GrantSink {
    /** The cells that follow are of this account in this system. */
    void at(int account, SystemView view);
  }

  /**
   * Sweeps a run of accounts, accounts ascending, systems ascending: all that each holds, usable or
   * not, without reasons. Systems that do not name any of an account's subjects cost nothing.
   */
  public static void cells(Asker asker, Range range, Cells out) {
    cells(asker, range, NamedSubjects.all(asker.model()), out);
  }

  /**
   * The same in some systems only: the others cost little, even where they have millions of
   * resources.
   *
   * @param systems the numbers of the systems
   */
  public static void cells(Asker asker, Range range, BitSet systems, Cells out) {
    new Sweeper(asker).cells(range, systems, out);
  }

  /** Gets the projection of one account in one system. */
  public interface Visitor {
    /** One account with grants in one system; {@code who} is not empty. */
    void visit(int account, SystemView view, Projected who);
  }

  /** Projects a run of accounts: in each system that grants the account something, in order. */
  public static void project(Asker asker, Range range, Visitor visitor) {
    long asOf = asker.model().asOf().getEpochSecond();
    route(
        asker,
        range,
        (account, view, subjects) -> {
          Projected who = view.decider().project(new Token(account, subjects, asOf));
          if (!who.isEmpty()) {
            visitor.visit(account, view, who);
          }
        });
  }

  /** Gets the subjects of an account that one system names. */
  public interface SubjectVisitor {
    /** One account in one system that names it, or a group of it; valid during the call only. */
    void visit(int account, SystemView view, SubjectSet subjects);

    /** All systems of an account were visited, or none names it; called for every account. */
    default void done(int account) {}
  }

  /** The same, before anything is decided: also accounts whose grants do not hold now. */
  public static void route(Asker asker, Range range, SubjectVisitor visitor) {
    new Sweeper(asker).route(range, visitor);
  }
}
