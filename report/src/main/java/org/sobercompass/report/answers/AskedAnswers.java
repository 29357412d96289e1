package org.sobercompass.report.answers;

import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.Routes;
import org.sobercompass.core.access.Unknown;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.data.AnswerTable;

/**
 * Answers about whatever may be asked: rights of a system, or admin actions on an object. Not
 * thread-safe.
 */
public final class AskedAnswers {
  private final RightAnswers rights;
  private final Asker asker;
  private final Supplier<PowerAnswers> maker;
  private @Nullable PowerAnswers acts;

  /**
   * Answers over a model.
   *
   * @param acts answers about admin actions, made when they are first needed
   */
  public AskedAnswers(AnswerContext ask, Supplier<PowerAnswers> acts) {
    this.rights = new RightAnswers(ask);
    this.asker = ask.model().asker();
    this.maker = acts;
  }

  private PowerAnswers acts() {
    if (acts == null) {
      acts = maker.get();
    }
    return acts;
  }

  /**
   * Whether an account can do it.
   *
   * @param brief for a terminal: without what the heading says
   */
  public AnswerTable can(int account, Asked asked, boolean brief) {
    if (asked instanceof Asked.Act act) {
      return acts().can(account, act.action(), act.object(), act.destination());
    }
    Asked.Use use = (Asked.Use) asked;
    int node = use.question().resource();
    if (use.isOfSeveral()) {
      return brief
          ? rights.canTogetherBrief(use.view(), account, use.question())
          : rights.canTogether(use.view(), account, use.question());
    }
    return brief
        ? rights.canBrief(use.view(), account, use.right(), node)
        : rights.can(use.view(), account, use.right(), node);
  }

  /**
   * Who can do it.
   *
   * @param below also who can only somewhere below; not asked of an admin action or several rights
   * @param brief for a terminal: without keys
   */
  public AnswerTable holders(Asked asked, boolean below, boolean brief) {
    if (asked instanceof Asked.Act act) {
      AnswerTable all = acts().who(act.action(), act.object(), act.destination());
      return brief ? all.without("key") : all;
    }
    Asked.Use use = (Asked.Use) asked;
    int node = use.question().resource();
    if (use.isOfSeveral()) {
      AnswerTable all = rights.together(use.view(), use.question());
      return brief ? all.without("key") : all;
    }
    return brief
        ? rights.holdersBrief(use.view(), use.right(), node, below)
        : rights.holders(use.view(), use.right(), node, below);
  }

  /** Every way in which an account can do it, and what stops others. */
  public AnswerTable routes(int account, Asked asked) {
    if (asked instanceof Asked.Act act) {
      return acts().can(account, act.action(), act.object(), act.destination());
    }
    Asked.Use use = (Asked.Use) asked;
    return rights.routes(use.view(), account, use.right(), use.question().resource());
  }

  /** What an account would meet that wants to do an admin action, and whether it comes through. */
  public AnswerTable trial(int account, Asked.Act act, Optional<String> from) {
    return acts().trial(account, act.action(), act.object(), act.destination(), from);
  }

  /** Whether it would come through. */
  public Truth ready(int account, Asked.Act act, Optional<String> from) {
    return acts().ready(account, act.action(), act.object(), act.destination(), from);
  }

  /** The reason of an answer on one line; empty where there is nothing to say. */
  public String reason(int account, Asked asked, Can can) {
    return asked instanceof Asked.Act act
        ? reason(account, act, can)
        : reason(account, (Asked.Use) asked);
  }

  private String reason(int account, Asked.Act act, Can can) {
    Verdict verdict = can.verdict();
    return can.held() != verdict
        ? String.join("; ", can.standing().reasons())
        : verdict == Verdict.UNDECIDED
            ? acts().unknown(account, act.action(), act.object())
            : verdict == Verdict.YES ? acts().way(account, act.action(), act.object()) : "";
  }

  private String reason(int account, Asked.Use use) {
    if (use.isOfSeveral()) {
      return rights.alone(use.view(), account, use.question());
    }
    int node = use.question().resource();
    Routes routes = new RouteFinder(asker, Limits.ONE).find(use.view(), account, use.right(), node);
    boolean undecided = routes.can().verdict() == Verdict.UNDECIDED;
    String state =
        String.join(
            "; ",
            undecided
                ? Unknown.reasons(asker, use.view(), account, use.right(), node, routes)
                : routes.can().standing().reasons());
    String route = rights.why(use.view(), routes).get(0);
    return state.isEmpty() ? route : state + "; " + route;
  }
}
