package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/**
 * Asks questions of a model, one account at a time. Keeps the subjects of the last account, so
 * questions grouped by account are cheap. Not thread-safe; make one a thread.
 */
public final class Asker {
  private static final int NONE = -2;
  private static final SubjectSet NO_SUBJECTS = new SubjectSet();

  private final AccessModel model;
  private final Memberships.Walker[] walkers;
  private final SubjectSet[] contextSubjects;
  private final int[] contextAccount;
  private final SubjectSet[] systemSubjects;
  private final int[] systemAccount;
  private final Projected[] projections;
  private final int[] projectedAccount;
  private @Nullable NamedSubjects named;

  Asker(AccessModel model) {
    this.model = model;
    int systems = model.systemCount();
    walkers = new Memberships.Walker[systems];
    contextSubjects = new SubjectSet[systems];
    contextAccount = filled(systems);
    systemSubjects = new SubjectSet[systems];
    systemAccount = filled(systems);
    projections = new Projected[systems];
    projectedAccount = filled(systems);
    for (int i = 0; i < systems; i++) {
      contextSubjects[i] = new SubjectSet();
      systemSubjects[i] = new SubjectSet();
    }
  }

  private static int[] filled(int size) {
    int[] out = new int[size];
    java.util.Arrays.fill(out, NONE);
    return out;
  }

  /** The model asked. */
  public AccessModel model() {
    return model;
  }

  /**
   * What an account counts as in a system, without implicit groups. Valid until the next account.
   */
  public SubjectSet memberships(SystemView view, int account) {
    int context = view.context();
    if (contextAccount[context] != account) {
      if (walkers[context] == null) {
        walkers[context] = view.memberships().walker();
      }
      walkers[context].subjects(account, contextSubjects[context]);
      contextAccount[context] = account;
    }
    return contextSubjects[context];
  }

  /** What an account counts as in a system, implicit groups included. */
  public SubjectSet subjects(SystemView view, int account) {
    SubjectSet own = systemSubjects[view.number()];
    if (systemAccount[view.number()] != account) {
      if (model.facts().isAbsent(account)) {
        own.clear();
      } else if (view.admission().isOpen()) {
        view.admission().anybody(own);
      } else {
        own.setTo(memberships(view, account));
        view.admission().addImplicit(own);
      }
      systemAccount[view.number()] = account;
    }
    return own;
  }

  /** What systems name of an account; makes the index of trustees of the model if need be. */
  NamedSubjects named() {
    named = named == null ? new NamedSubjects(this) : named;
    return named;
  }

  /**
   * The token of an account in a system: with what the system names of it, where that is known, or
   * else with all that it counts as. Valid until the next account.
   */
  public Token token(SystemView view, int account) {
    boolean known = model.knowsTrustees() && named().knows(view);
    SubjectSet subjects = known ? named().of(view, account) : subjects(view, account);
    return new Token(account, subjects, model.asOf().getEpochSecond());
  }

  /** The projection of an account in a system. */
  public Projected projected(SystemView view, int account) {
    int system = view.number();
    if (projectedAccount[system] != account) {
      projections[system] = view.decider().project(token(view, account));
      projectedAccount[system] = account;
    }
    return projections[system];
  }

  /** Decides one question, whatever the standing of the account. */
  public Verdict decide(SystemView view, int account, Question question) {
    return view.decider().decide(projected(view, account), question);
  }

  /** Whether the account may use what it holds in a system. */
  public Standing standing(SystemView view, int account) {
    if (view.admission().isOpen()) {
      return Standing.USABLE;
    }
    SubjectSet subjects =
        view.admission().register().isPresent() ? subjects(view, account) : NO_SUBJECTS;
    return view.admission().standing(account, subjects, model.asOf().getEpochSecond());
  }

  /** Decides one question and says why. */
  public Decision explain(SystemView view, int account, Question question, Limits limits) {
    return view.decider().explain(token(view, account), question, limits);
  }

  /** The answer to "can the account do this there?", with the state. */
  public Can can(SystemView view, int account, int right, int resource) {
    return can(view, account, Question.of(resource, right));
  }

  /** The same for several rights that are asked for together. */
  public Can can(SystemView view, int account, Question question) {
    Verdict verdict = decide(view, account, question);
    return Can.of(verdict, verdict == Verdict.NO ? Standing.USABLE : standing(view, account));
  }

  /** All holdings of an account in all systems, by system, right and resource. */
  public List<Holding> holdings(int account) {
    List<Holding> all = new ArrayList<>();
    for (SystemView view : model.systems()) {
      all.addAll(holdings(view, account));
    }
    return all;
  }

  /** All holdings of an account in one system, by right and resource. */
  public List<Holding> holdings(SystemView view, int account) {
    Projected who = projected(view, account);
    return who.isEmpty()
        ? List.of()
        : new Outcome(view, who).holdings(account, standing(view, account));
  }
}
