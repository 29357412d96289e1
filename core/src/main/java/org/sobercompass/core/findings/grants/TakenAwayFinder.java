package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GrantDetails;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RightBits;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/**
 * Assignments that take away what others give: by a deny, or because a nearer one decides. A role
 * that gives nothing is there to take away and is told only where the workspace asks for it.
 */
public final class TakenAwayFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS = EnumSet.of(FindingKind.ASSIGNMENT_REMOVES_RIGHTS);

  private final FindingContext context;

  public TakenAwayFinder(FindingContext context) {
    this.context = context;
  }

  /** What one assignment takes from whom, ascending. */
  private record Taken(SystemView view, int grant, IntList accounts) {}

  @Override
  public void find(Consumer<Finding> out) {
    boolean[] asked = new boolean[context.model.systems().size()];
    boolean any = false;
    for (SystemView view : context.model.systems()) {
      asked[view.number()] =
          !view.assigned().isEmpty()
              && !view.admission().isOpen()
              && !view.decider().isMonotone()
              && canTake(view);
      any |= asked[view.number()];
    }
    if (!any) {
      return;
    }
    Map<Integer, Map<Integer, Taken>> all = new TreeMap<>();
    Consumer<List<int[]>> gather =
        part ->
            part.forEach(
                one ->
                    all.computeIfAbsent(one[0], s -> new TreeMap<>())
                        .computeIfAbsent(one[1], grant -> taken(one[0], grant))
                        .accounts
                        .add(one[2]));
    if (context.focus().isPresent()) {
      context.focus().get().accounts().stream()
          .mapToObj(account -> new Bulk.Range(account, account + 1))
          .forEach(one -> gather.accept(chunk(context.asker, one, asked)));
    } else {
      context.model.bulk().inOrder((asker, range) -> chunk(asker, range, asked), gather);
    }
    List<Taken> taken = new ArrayList<>();
    all.values().forEach(of -> taken.addAll(of.values()));
    context.each(
        taken,
        own -> {
          TakenAwayFinder finder = new TakenAwayFinder(own);
          return one -> Optional.of(finder.finding(one));
        },
        out);
  }

  /** Each as system, grant that takes, account it takes from. */
  private List<int[]> chunk(Asker asker, Bulk.Range range, boolean[] asked) {
    List<int[]> found = new ArrayList<>();
    long asOf = context.model.asOf().getEpochSecond();
    Bulk.route(
        asker,
        range,
        (account, view, subjects) -> {
          if (asked[view.number()]) {
            Token token = new Token(account, subjects, asOf);
            IntList taking = view.decider().taking(view.decider().project(token));
            for (int i = 0; i < taking.size(); i++) {
              if (isAsked(view, view.grants().get(taking.get(i)))) {
                found.add(new int[] {view.number(), taking.get(i), account});
              }
            }
          }
        });
    return found;
  }

  private Taken taken(int system, int grant) {
    return new Taken(context.model.systems().get(system), grant, new IntList());
  }

  private boolean canTake(SystemView view) {
    return view.grants().stream().anyMatch(grant -> isAsked(view, grant));
  }

  private boolean isAsked(SystemView view, Grant grant) {
    RoleInfo role = view.system().roles().get(grant.role());
    return !RightBits.isEmpty(role.allows()) || context.rules.blockingRoles();
  }

  /** A right that one account loses, and the grant that would give it. */
  private Optional<Evidence> example(SystemView view, int number, int account) {
    Grant taking = view.grants().get(number);
    for (int right : view.rights().byText()) {
      boolean maybe = view.rights().isStrongest(right);
      int node = taking.resource();
      Decision decision =
          maybe
              ? context.asker.explain(view, account, Question.of(node, right), Limits.USUAL)
              : Decision.of(Verdict.NO);
      for (Stopped stop : decision.stopped()) {
        boolean taken =
            stop.reason() == Stopped.Reason.DENIED || stop.reason() == Stopped.Reason.NEARER;
        if (taken && decision.verdict() != Verdict.YES && stop.grant() != number) {
          Grant by = view.grants().get(stop.grant());
          return Optional.of(new Evidence.Lost(account, view.number(), right, node, by));
        }
      }
    }
    return Optional.empty();
  }

  private Finding finding(Taken what) {
    SystemView view = what.view;
    int number = what.grant;
    Grant grant = view.grants().get(number);
    List<Evidence> evidence = new ArrayList<>();
    evidence.add(FindingContext.assigned(view, grant));
    example(view, number, what.accounts.get(0)).ifPresent(evidence::add);
    boolean denies = !RightBits.isEmpty(view.system().roles().get(grant.role()).denies());
    return context.finding(
        FindingKind.ASSIGNMENT_REMOVES_RIGHTS,
        "",
        context.grantKey(view, grant),
        Weight.LOW,
        new GrantDetails.TakesAway(view.number(), grant, denies, what.accounts.size()),
        evidence,
        view.id(),
        context.facts.keys(what.accounts.toArray()),
        FindingContext.ending(context.removal(view, number)));
  }
}
