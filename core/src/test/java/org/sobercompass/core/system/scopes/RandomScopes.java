package org.sobercompass.core.system.scopes;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.contract.SmallFacts;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Verdict;

/** Admin scopes and roles at random, and what they give as a plain program. */
final class RandomScopes {
  static final int ACCOUNTS = 5;
  static final int GROUPS = 3;
  static final long NOW = 1000;
  private static final List<String> ACTIONS = List.of("reset", "unlock", "rename");

  private final Random random;
  final Facts facts;
  final List<AdminScope> scopes = new ArrayList<>();
  final List<AdminRole> roles = new ArrayList<>();
  final List<AdminGrant> grants = new ArrayList<>();

  RandomScopes(long seed) {
    random = new Random(seed);
    facts = SmallFacts.of(random, ACCOUNTS, GROUPS);
    for (int s = 0; s < 3; s++) {
      Place place = Place.of("scope " + s);
      scopes.add(new AdminScope("s" + s, "s" + s, items(s), items(s), place));
    }
    for (int r = 0; r < 2; r++) {
      Set<String> some = new TreeSet<>(ACTIONS);
      some.removeIf(action -> random.nextInt(3) == 0);
      roles.add(new AdminRole("r" + r, "r" + r, some, true, Place.of("role " + r)));
    }
    for (int g = random.nextInt(6); g > 0; g--) {
      int subject = random.nextInt(ACCOUNTS + GROUPS + 2);
      grants.add(
          new AdminGrant(
              random.nextInt(2),
              subject < ACCOUNTS + GROUPS
                  ? subject
                  : subject == ACCOUNTS + GROUPS ? Grant.MISSING : Grant.UNREAD,
              "somebody",
              random.nextInt(4) - 1,
              random.nextInt(5) == 0 ? NOW + 1 : Long.MIN_VALUE,
              random.nextInt(5) == 0 ? NOW : Long.MAX_VALUE,
              random.nextInt(8) > 0,
              Place.of("grant " + g)));
    }
  }

  static List<AdminAction> actions() {
    return ACTIONS.stream()
        .map(id -> new AdminAction(id, id, List.of(), new Requirement.Simple(1), 0))
        .toList();
  }

  /** Lines of a scope; of scopes only those before it, so that there is no circle. */
  private List<ScopeItem> items(int scope) {
    List<ScopeItem> items = new ArrayList<>();
    for (int i = random.nextInt(3); i > 0; i--) {
      Place place = Place.of("line " + i);
      Optional<GroupMeaning> meaning =
          Optional.of(
              new GroupMeaning(random.nextBoolean(), random.nextBoolean(), random.nextBoolean()));
      int subject = random.nextInt(ACCOUNTS + GROUPS);
      items.add(
          switch (random.nextInt(4)) {
            case 0 -> new ScopeItem.Subtree(facts.dn(subject), meaning, place, "below");
            case 1 ->
                new ScopeItem.Rule(
                    "d",
                    FilterParser.parse(
                        random.nextBoolean() ? "(!(cn=nobody))" : "(!(unknown-attribute=3))"),
                    meaning,
                    place,
                    "rule");
            case 2 ->
                scope == 0
                    ? new ScopeItem.Listed(List.of(subject), meaning, place, "one")
                    : new ScopeItem.Other("s" + random.nextInt(scope), place, "another");
            default -> new ScopeItem.Listed(List.of(subject, 0), meaning, place, "two");
          });
    }
    return items;
  }

  /** As a plain program: a role that holds, has the action, reaches him, over the object. */
  Verdict decide(MembershipGraph graph, Set<Integer> subjects, int right, int object) {
    Verdict best = Verdict.NO;
    for (AdminGrant grant : grants) {
      int unread = facts.implicit(Implicit.UNREAD);
      int whom = grant.subject() == Grant.UNREAD ? unread : grant.subject();
      boolean gives =
          whom >= 0
              && subjects.contains(whom)
              && grant.on()
              && grant.from() <= NOW
              && NOW < grant.until()
              && roles.get(grant.role()).actions().contains(ACTIONS.get(right));
      if (gives) {
        best = best.or(inside(graph, grant.scope(), object));
      }
    }
    return best;
  }

  /** Whether an object is in a scope: in what it includes and in nothing that it excepts. */
  private Verdict inside(MembershipGraph graph, int scope, int object) {
    if (scope < 0) {
      return Verdict.YES;
    }
    Verdict in = Verdict.NO;
    for (ScopeItem item : scopes.get(scope).include()) {
      in = in.or(inside(graph, item, object));
    }
    for (ScopeItem item : scopes.get(scope).except()) {
      in = in.and(not(inside(graph, item, object)));
    }
    return in;
  }

  private static Verdict not(Verdict verdict) {
    return verdict == Verdict.YES
        ? Verdict.NO
        : verdict == Verdict.NO ? Verdict.YES : Verdict.UNDECIDED;
  }

  private Verdict inside(MembershipGraph graph, ScopeItem item, int object) {
    if (item instanceof ScopeItem.Other other) {
      return inside(graph, Integer.parseInt(other.scope().substring(1)), object);
    }
    Optional<GroupMeaning> meaning =
        item instanceof ScopeItem.Subtree subtree
            ? subtree.groups()
            : item instanceof ScopeItem.Rule rule
                ? rule.groups()
                : ((ScopeItem.Listed) item).groups();
    Verdict best = isGroup(object) ? Verdict.NO : itself(item, object);
    for (int group = ACCOUNTS; group < ACCOUNTS + GROUPS; group++) {
      boolean stands =
          (group == object && meaning.orElseThrow().object())
              || (meaning.orElseThrow().members() && !isGroup(object) && isIn(graph, object, group))
              || (meaning.orElseThrow().nested() && isGroup(object) && isIn(graph, object, group));
      if (stands) {
        best = best.or(itself(item, group));
      }
    }
    return best;
  }

  private static boolean isGroup(int object) {
    return object >= ACCOUNTS && object < ACCOUNTS + GROUPS;
  }

  /** Whether a line names an object itself. */
  private Verdict itself(ScopeItem item, int object) {
    if (item instanceof ScopeItem.Rule rule) {
      boolean undefined = rule.filter().toString().contains("unknown");
      return object >= ACCOUNTS + GROUPS ? Verdict.NO : undefined ? Verdict.UNDECIDED : Verdict.YES;
    }
    boolean named =
        item instanceof ScopeItem.Subtree subtree
            ? facts.dn(object).equals(subtree.dnForm())
            : ((ScopeItem.Listed) item).subjects().contains(object);
    return named ? Verdict.YES : Verdict.NO;
  }

  /** Whether somebody is in a group, directly or through others. */
  private static boolean isIn(MembershipGraph graph, int member, int group) {
    Set<Integer> reached = new TreeSet<>(Set.of(member));
    for (int before = 0; before != reached.size(); ) {
      before = reached.size();
      for (int at : List.copyOf(reached)) {
        for (int i = 0; i < graph.upCount(at); i++) {
          reached.add(graph.upGroup(at, i));
        }
      }
    }
    return member != group && reached.contains(group);
  }
}
