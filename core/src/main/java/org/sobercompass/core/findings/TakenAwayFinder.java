package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Stopped;

/**
 * Assignments that take away what others give: by a deny, or because a nearer one decides. A role
 * that gives nothing is there to take away and is told only where the workspace asks for it.
 */
final class TakenAwayFinder {
  private final FindingContext context;

  TakenAwayFinder(FindingContext context) {
    this.context = context;
  }

  /** What one assignment takes from whom. */
  private static final class Taken {
    final BitSet accounts = new BitSet();
    final List<String> shown = new ArrayList<>();
    boolean denied;
  }

  void find(Consumer<Finding> out) {
    for (SystemView view : context.model.systems()) {
      boolean asked =
          !view.system().isOfLists()
              && !view.admission().isOpen()
              && !view.decider().isMonotone()
              && canTake(view);
      if (asked) {
        find(view, out);
      }
    }
  }

  private boolean canTake(SystemView view) {
    return view.grants().stream().anyMatch(grant -> isAsked(view, grant));
  }

  private boolean isAsked(SystemView view, Grant grant) {
    RoleInfo role = view.system().roles().get(grant.role());
    boolean gives = Arrays.stream(role.allows()).anyMatch(w -> w != 0);
    return gives || context.rules.blockingRoles();
  }

  private void find(SystemView view, Consumer<Finding> out) {
    Map<Integer, Taken> taken = new TreeMap<>();
    long asOf = context.model.asOf().getEpochSecond();
    Bulk.route(
        context.asker,
        new Bulk.Range(0, context.facts.accounts()),
        context.model.bulk().trusteeIndex(),
        (account, of, subjects) -> {
          if (of.number() == view.number()) {
            account(view, account, subjects, asOf, taken);
          }
        });
    taken.forEach((number, what) -> out.accept(finding(view, number, what)));
  }

  /** Asks at the nodes of an account's assignments for the rights that they give. */
  private void account(
      SystemView view, int account, SubjectSet subjects, long asOf, Map<Integer, Taken> taken) {
    IntList all = view.decider().grantsOf(context.asker.token(view, account));
    List<Integer> active = new ArrayList<>();
    for (int i = 0; i < all.size(); i++) {
      if (view.grants().get(all.get(i)).activeAt(asOf)) {
        active.add(all.get(i));
      }
    }
    if (active.size() < 2 || active.stream().noneMatch(g -> isAsked(view, view.grants().get(g)))) {
      return;
    }
    for (int given : active) {
      for (int other : active) {
        if (given != other) {
          pair(view, account, given, other, taken);
        }
      }
    }
  }

  /** Whether one grant stops what another gives, at the deeper of their nodes. */
  private void pair(SystemView view, int account, int given, int other, Map<Integer, Taken> taken) {
    Grant giving = view.grants().get(given);
    Grant taking = view.grants().get(other);
    int node = Math.max(giving.resource(), taking.resource());
    if (!isAsked(view, taking) || !reaches(view, giving, node) || !reaches(view, taking, node)) {
      return;
    }
    RoleInfo gives = view.system().roles().get(giving.role());
    RoleInfo takes = view.system().roles().get(taking.role());
    for (int right = 0; right < view.rights().size(); right++) {
      boolean may = gives.allows(right) && (takes.denies(right) || !takes.allows(right));
      if (may && isStopped(view, account, node, right, given, other)) {
        Taken what = taken.computeIfAbsent(other, o -> new Taken());
        what.accounts.set(account);
        what.denied |= takes.denies(right);
        if (what.shown.size() < FindingContext.SHOWN && view.rights().isStrongest(right)) {
          what.shown.add(
              Words.subject(context.facts, account)
                  + ": "
                  + view.rights().text(right)
                  + " at "
                  + view.resources().id(node)
                  + ", which "
                  + context.describe(view, giving)
                  + " would give");
        }
      }
    }
  }

  private static boolean reaches(SystemView view, Grant grant, int node) {
    return grant.resource() == node
        || (grant.descends() && view.resources().covers(grant.resource(), node));
  }

  private boolean isStopped(SystemView view, int account, int node, int right, int given, int by) {
    return context
        .asker
        .explain(view, account, Question.of(node, right), Limits.USUAL)
        .stopped()
        .stream()
        .anyMatch(
            stop ->
                stop.grant() == given
                    && stop.by().orElse(-1) == by
                    && (stop.reason() == Stopped.Reason.DENIED
                        || stop.reason() == Stopped.Reason.NEARER));
  }

  private Finding finding(SystemView view, int number, Taken what) {
    Grant grant = view.grants().get(number);
    List<Evidence> evidence = new ArrayList<>(List.of(context.line(view, grant)));
    what.shown.forEach(line -> evidence.add(Evidence.of(line)));
    return new Finding(
        FindingKind.GRANT_TAKES_AWAY,
        "",
        context.grantKey(view, grant),
        Weight.LOW,
        List.of(
            what.denied ? "what is denied is taken away everywhere" : "the nearer one decides",
            FindingContext.count(what.accounts.cardinality(), "account loses", "accounts lose")
                + " something"),
        "giving "
            + context.describe(view, grant)
            + " takes from "
            + FindingContext.count(what.accounts.cardinality(), "account", "accounts")
            + " what another assignment gives",
        view.id(),
        context.keys(what.accounts),
        evidence,
        "give both at the same place, or decide which is meant and withdraw the other",
        List.of(new Change.AssignmentRemoved(view.number(), number)));
  }
}
