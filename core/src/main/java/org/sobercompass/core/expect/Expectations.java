package org.sobercompass.core.expect;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/** Checks what was stated against a model. Not thread-safe. O(holders) an expectation. */
public final class Expectations {
  private static final int SHOWN = 5;

  private final Assessment assessment;
  private final AccessModel model;
  private final Asker asker;
  private final Memberships.Walker widest;

  /** Over a model with its admin roles and persons. */
  public Expectations(Assessment assessment) {
    this.assessment = assessment;
    this.model = assessment.model();
    this.asker = model.asker();
    this.widest = model.widest().walker();
  }

  /** Who can, and of whom it is not known. */
  private record Able(BitSet yes, BitSet perhaps) {}

  /** What is stated both ways: no answer could satisfy it. */
  public void contradictions(List<Expectation> all, Problems problems) {
    for (int a = 0; a < all.size(); a++) {
      for (int b = a + 1; b < all.size(); b++) {
        Optional<Integer> between = contradiction(all.get(a), all.get(b));
        between = between.isEmpty() ? contradiction(all.get(b), all.get(a)) : between;
        if (between.isPresent()) {
          problems.add(
              Problem.error(
                  all.get(b).place(),
                  "the expectations "
                      + all.get(a).id()
                      + " and "
                      + all.get(b).id()
                      + " contradict each other for "
                      + Words.subject(model.facts(), between.get()),
                  "one of them, or other accounts in one"));
        }
      }
    }
  }

  /** An account that must be able by the one and must not by the other. */
  private Optional<Integer> contradiction(Expectation one, Expectation other) {
    boolean same = one.what().equals(other.what()) && one.node() == other.node();
    boolean must = one.kind() == Expectation.Kind.CAN || one.kind() == Expectation.Kind.ONLY;
    if (!same || !must) {
      return Optional.empty();
    }
    BitSet required = accounts(one.who());
    switch (other.kind()) {
      case CANNOT -> required.and(accounts(other.who()));
      case ONLY, NOBODY_OUTSIDE -> required.andNot(accounts(other.who()));
      case CAN, NOBODY_HOLDS -> required.clear();
    }
    return required.isEmpty() ? Optional.empty() : Optional.of(required.nextSetBit(0));
  }

  private BitSet accounts(List<Integer> subjects) {
    BitSet accounts = new BitSet();
    for (int subject : subjects) {
      IntList found = new IntList();
      widest.accounts(subject, found);
      for (int i = 0; i < found.size(); i++) {
        accounts.set(found.get(i));
      }
    }
    return accounts;
  }

  /** Checks one. */
  public Outcome check(Expectation expectation) {
    if (expectation.kind() == Expectation.Kind.NOBODY_HOLDS) {
      return together(expectation);
    }
    Able able = able(expectation.what().get(0), expectation);
    BitSet named = accounts(expectation.who());
    BitSet against = new BitSet();
    BitSet unknown = new BitSet();
    boolean all =
        expectation.kind() == Expectation.Kind.CAN || expectation.kind() == Expectation.Kind.ONLY;
    if (all) {
      against.or(named);
      against.andNot(able.yes);
      unknown.or(against);
      unknown.and(able.perhaps);
      against.andNot(able.perhaps);
    }
    BitSet more = (BitSet) able.yes.clone();
    BitSet perhapsMore = (BitSet) able.perhaps.clone();
    switch (expectation.kind()) {
      case CANNOT -> {
        more.and(named);
        perhapsMore.and(named);
      }
      case ONLY, NOBODY_OUTSIDE -> {
        more.andNot(named);
        perhapsMore.andNot(named);
      }
      case CAN, NOBODY_HOLDS -> {
        more.clear();
        perhapsMore.clear();
      }
    }
    return outcome(expectation, against, more, unknown, perhapsMore);
  }

  /**
   * The outcome, with a line for some of the accounts.
   *
   * @param against those who cannot and should
   * @param more those who can and should not
   * @param unknown those of whom it is not known whether they can what they should
   * @param perhapsMore those of whom it is not known whether they can what they should not
   */
  private Outcome outcome(
      Expectation expectation, BitSet against, BitSet more, BitSet unknown, BitSet perhapsMore) {
    List<String> lines = new ArrayList<>();
    against.stream()
        .limit(SHOWN)
        .forEach(a -> lines.add(name(a) + " cannot" + why(expectation, a)));
    more.stream().limit(SHOWN).forEach(a -> lines.add(name(a) + " can: " + how(expectation, a)));
    against.or(more);
    unknown.or(perhapsMore);
    unknown.stream().limit(SHOWN).forEach(a -> lines.add(name(a) + ": it is not known"));
    return outcome(expectation, against, unknown, lines);
  }

  private Outcome outcome(
      Expectation expectation, BitSet against, BitSet unknown, List<String> lines) {
    Verdict verdict =
        !against.isEmpty() ? Verdict.NO : unknown.isEmpty() ? Verdict.YES : Verdict.UNDECIDED;
    BitSet told = verdict == Verdict.UNDECIDED ? unknown : against;
    int count = told.cardinality();
    String who = count == 1 ? "1 account is" : count + " accounts are";
    String sentence =
        switch (verdict) {
          case YES -> "as expected";
          case NO -> who + " against it";
          case UNDECIDED -> "not known for " + (count == 1 ? "1 account" : count + " accounts");
        };
    return new Outcome(
        expectation, verdict, sentence, told.stream().boxed().toList(), List.copyOf(lines));
  }

  private String name(int account) {
    return Words.subject(model.facts(), account);
  }

  private Able able(Side side, Expectation of) {
    BitSet yes = new BitSet();
    BitSet perhaps = new BitSet();
    if (side instanceof Side.Permission permission) {
      SystemView view = model.system(permission.system()).orElseThrow();
      int node = Math.max(of.node(), 0);
      for (Holders.Holder holder :
          new Holders(asker).find(view, permission.right(), node, of.node() < 0)) {
        boolean blocked = of.held() && holder.state() == Standing.State.BLOCKED;
        Question held = Question.of(holder.resource(), permission.right());
        boolean sure = !blocked || asker.decide(view, holder.account(), held) == Verdict.YES;
        Standing.State state = sure ? holder.state() : Standing.State.UNDECIDED;
        note(holder.account(), state, of, yes, perhaps);
      }
    } else if (side instanceof Side.RoleHeld role) {
      role(model.system(role.system()).orElseThrow(), role.role(), of, yes, perhaps);
    } else {
      Crowd who = ((Side.Act) side).who(assessment.powers());
      yes.or(who.yes());
      perhaps.or(who.perhaps());
    }
    perhaps.andNot(yes);
    return new Able(yes, perhaps);
  }

  /** Who is given a role, or one that includes it, at the node that is asked about. */
  private void role(SystemView view, int role, Expectation of, BitSet yes, BitSet perhaps) {
    BitSet roles = RoleInfo.including(view.system().roles(), role);
    Set<Integer> subjects = new HashSet<>();
    for (Grant grant : view.grants()) {
      boolean covers =
          of.node() < 0
              || grant.resource() == of.node()
              || (grant.descends() && view.resources().covers(grant.resource(), of.node()));
      if (covers
          && roles.get(grant.role())
          && grant.subject() >= 0
          && grant.activeAt(model.asOf().getEpochSecond())) {
        subjects.add(grant.subject());
      }
    }
    for (int account = 0; account < model.facts().accounts(); account++) {
      SubjectSet own = asker.subjects(view, account);
      Standing.State state = asker.standing(view, account).state();
      if (isAny(own.sure(), subjects)) {
        note(account, state, of, yes, perhaps);
      } else if (isAny(own.perhaps(), subjects) && (of.held() || state != Standing.State.BLOCKED)) {
        perhaps.set(account);
      }
    }
  }

  private static boolean isAny(IntList these, Set<Integer> those) {
    for (int i = 0; i < these.size(); i++) {
      if (those.contains(these.get(i))) {
        return true;
      }
    }
    return false;
  }

  private static void note(
      int account, Standing.State state, Expectation of, BitSet yes, BitSet perhaps) {
    if (state == Standing.State.USABLE || (of.held() && state == Standing.State.BLOCKED)) {
      yes.set(account);
    } else if (state == Standing.State.UNDECIDED) {
      perhaps.set(account);
    }
  }

  /** Persons who hold all of it, over all their accounts. */
  private Outcome together(Expectation expectation) {
    List<Able> sides = new ArrayList<>();
    expectation.what().forEach(side -> sides.add(able(side, expectation)));
    BitSet against = new BitSet();
    BitSet unknown = new BitSet();
    BitSet first = (BitSet) sides.get(0).yes.clone();
    first.or(sides.get(0).perhaps);
    first.stream()
        .forEach(
            account -> {
              List<Integer> person = assessment.persons().accounts(account);
              boolean yes = true;
              boolean perhaps = true;
              for (Able side : sides) {
                yes &= person.stream().anyMatch(side.yes::get);
                perhaps &= person.stream().anyMatch(a -> side.yes.get(a) || side.perhaps.get(a));
              }
              (yes ? against : unknown).set(account, yes || perhaps);
            });
    List<String> lines = new ArrayList<>();
    against.stream()
        .limit(SHOWN)
        .forEach(
            a -> {
              List<String> routes = new ArrayList<>();
              for (Side side : expectation.what()) {
                for (int own : assessment.persons().accounts(a)) {
                  route(side, expectation, own).ifPresent(routes::add);
                }
              }
              lines.add(name(a) + " holds all of it: " + String.join("; ", routes));
            });
    return outcome(expectation, against, unknown, lines);
  }

  private String how(Expectation of, int account) {
    Side side = of.what().get(0);
    return side instanceof Side.Act act
        ? act.route(assessment.powers(), account).orElse(act.action())
        : route(side, of, account).orElse("by a role");
  }

  private Optional<String> route(Side side, Expectation of, int account) {
    if (!(side instanceof Side.Permission permission)) {
      return Optional.empty();
    }
    SystemView view = model.system(permission.system()).orElseThrow();
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    return asker.holdings(view, account).stream()
        .filter(
            holding ->
                holding.right() == permission.right()
                    && (of.node() < 0 || view.resources().covers(holding.resource(), of.node())))
        .findFirst()
        .flatMap(
            holding ->
                finder.first(
                    view,
                    account,
                    permission.right(),
                    of.node() < 0 ? holding.resource() : of.node()))
        .map(route -> Words.route(model, view, route));
  }

  /** Why somebody who should be able is not: blocked, or nothing that gives it. */
  private String why(Expectation of, int account) {
    if (of.what().get(0) instanceof Side.Permission permission) {
      SystemView view = model.system(permission.system()).orElseThrow();
      Standing standing = asker.standing(view, account);
      if (standing.state() != Standing.State.USABLE) {
        return ": " + String.join(", ", standing.reasons());
      }
    }
    return ": nothing gives it";
  }
}
