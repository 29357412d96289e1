package org.sobercompass.core.access;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Token;

/**
 * Work over all accounts, in chunks of a thousand, on all processors, with results in the order of
 * accounts. At most a few chunks are kept at a time, so memory does not grow with the answer.
 */
public final class Bulk {
  private static final int CHUNK = 1000;

  private final AccessModel model;
  private final int threads;
  private final int chunk;
  private final int most;

  Bulk(AccessModel model) {
    this(model, Runtime.getRuntime().availableProcessors(), CHUNK, Integer.MAX_VALUE);
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
    ThreadLocal<Asker> askers = ThreadLocal.withInitial(model::asker);
    ExecutorService pool = Executors.newFixedThreadPool(threads);
    try {
      Deque<Future<T>> running = new ArrayDeque<>();
      for (int from = 0; from < accounts; from += chunk) {
        Range range = new Range(from, Math.min(accounts, from + chunk));
        running.add(pool.submit(() -> work.apply(askers.get(), range)));
        if (running.size() > threads * 3) {
          take.accept(get(running.remove()));
        }
      }
      while (!running.isEmpty()) {
        take.accept(get(running.remove()));
      }
    } finally {
      pool.shutdownNow();
    }
  }

  private static <T> T get(Future<T> future) {
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

  /** Gets the sweep of one system for one account. */
  public interface Visitor {
    /** One account with grants in one system; {@code who} is not empty. */
    void visit(int account, SystemView view, Projected who);
  }

  /**
   * Sweeps a run of accounts: calls the visitor for each account and each system that grants it
   * something, accounts ascending, systems ascending. Systems that do not name any of an account's
   * subjects cost nothing.
   */
  public static void sweep(Asker asker, Range range, TrusteeIndex index, Visitor visitor) {
    long asOf = asker.model().asOf().getEpochSecond();
    route(
        asker,
        range,
        index,
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
  public static void route(Asker asker, Range range, TrusteeIndex index, SubjectVisitor visitor) {
    new Sweeper(asker, index).run(range, visitor);
  }

  /** Which systems name a subject, for {@link #sweep}. */
  public TrusteeIndex trusteeIndex() {
    return new TrusteeIndex(model);
  }

  /** For each subject the systems that name it. Frozen and thread-safe. */
  public static final class TrusteeIndex {
    private final IntRows systems;
    private final int contexts;

    TrusteeIndex(AccessModel model) {
      IntList subject = new IntList();
      IntList system = new IntList();
      int most = 0;
      for (SystemView view : model.systems()) {
        IntList trustees = view.decider().trustees();
        for (int i = 0; i < trustees.size(); i++) {
          subject.add(trustees.get(i));
          system.add(view.number());
        }
        most = Math.max(most, view.context() + 1);
      }
      systems = IntRows.ofPairs(model.facts().subjects(), subject, system);
      contexts = most;
    }
  }

  /** Hands each subject of an account only to the systems that name it. */
  private static final class Sweeper {
    private final Asker asker;
    private final AccessModel model;
    private final IntRows systemsOf;
    private final SystemView[] views;
    private final SubjectSet[] perSystem;
    private final SystemView[] firstOfContext;
    private final boolean[] asksImplicit;
    private final boolean oneContext;

    Sweeper(Asker asker, TrusteeIndex index) {
      this.asker = asker;
      this.model = asker.model();
      this.systemsOf = index.systems;
      views = model.systems().toArray(SystemView[]::new);
      perSystem = new SubjectSet[views.length];
      oneContext = index.contexts == 1;
      firstOfContext = new SystemView[index.contexts];
      asksImplicit = new boolean[perSystem.length];
      for (SystemView view : model.systems()) {
        perSystem[view.number()] = new SubjectSet();
        asksImplicit[view.number()] = view.admission().isOpen() || names(view);
        if (firstOfContext[view.context()] == null) {
          firstOfContext[view.context()] = view;
        }
      }
    }

    void run(Range range, SubjectVisitor visitor) {
      for (int account = range.from; account < range.to; account++) {
        for (SystemView first : firstOfContext) {
          SubjectSet subjects = asker.memberships(first, account);
          route(subjects.sure(), first.context(), true);
          route(subjects.perhaps(), first.context(), false);
        }
        for (SystemView view : views) {
          SubjectSet own = perSystem[view.number()];
          implicit(view, account, own);
          if (!own.sure().isEmpty() || !own.perhaps().isEmpty()) {
            visitor.visit(account, view, own);
            own.clear();
          }
        }
        visitor.done(account);
      }
    }

    private void route(IntList subjects, int context, boolean sure) {
      for (int i = 0; i < subjects.size(); i++) {
        int subject = subjects.get(i);
        for (int at = systemsOf.start(subject); at < systemsOf.end(subject); at++) {
          int system = systemsOf.at(at);
          if (oneContext || views[system].context() == context) {
            SubjectSet own = perSystem[system];
            (sure ? own.sure() : own.perhaps()).add(subject);
          }
        }
      }
    }

    /** Implicit groups depend on the whole set, so it is asked only where the system names one. */
    private void implicit(SystemView view, int account, SubjectSet own) {
      if (asksImplicit[view.number()]) {
        SubjectSet whole = asker.subjects(view, account);
        own.clear();
        copy(whole.sure(), own.sure());
        copy(whole.perhaps(), own.perhaps());
      }
    }

    private boolean names(SystemView view) {
      int first = model.facts().firstGroup() + model.facts().groups();
      for (int subject = first; subject < model.facts().firstUnit(); subject++) {
        for (int at = systemsOf.start(subject); at < systemsOf.end(subject); at++) {
          if (systemsOf.at(at) == view.number()) {
            return true;
          }
        }
      }
      return false;
    }

    private static void copy(IntList from, IntList to) {
      for (int i = 0; i < from.size(); i++) {
        to.add(from.get(i));
      }
    }
  }
}
