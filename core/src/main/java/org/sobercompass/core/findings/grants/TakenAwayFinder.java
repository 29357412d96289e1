package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
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
    List<BitSet> takers = new ArrayList<>();
    for (SystemView view : context.model.systems()) {
      boolean asked =
          !view.assigned().isEmpty() && !view.admission().isOpen() && !view.decider().isMonotone();
      takers.add(asked ? takers(view) : new BitSet());
    }
    if (takers.stream().allMatch(BitSet::isEmpty)) {
      return;
    }
    IntList[][] accounts = new IntList[takers.size()][];
    Consumer<IntList> gather = part -> gather(part, accounts);
    if (context.focus().isPresent()) {
      context.focus().get().accounts().stream()
          .mapToObj(account -> new Bulk.Range(account, account + 1))
          .forEach(one -> gather.accept(chunk(context.asker, one, takers)));
    } else {
      context.model.bulk().inOrder((asker, range) -> chunk(asker, range, takers), gather);
    }
    context.each(
        taken(accounts),
        own -> {
          TakenAwayFinder finder = new TakenAwayFinder(own);
          return one -> Optional.of(finder.finding(one));
        },
        out);
  }

  /** Of each that is taken from: system, assignment that takes, account; one after the other. */
  private IntList chunk(Asker asker, Bulk.Range range, List<BitSet> takers) {
    IntList found = new IntList();
    long asOf = context.model.asOf().getEpochSecond();
    Bulk.route(
        asker,
        range,
        (account, view, subjects) -> {
          if (meets(subjects.sure(), takers.get(view.number()))) {
            Token token = new Token(account, subjects, asOf);
            IntList taking = view.decider().taking(view.decider().project(token));
            for (int i = 0; i < taking.size(); i++) {
              if (isAsked(view, view.grants().get(taking.get(i)))) {
                found.add(view.number());
                found.add(taking.get(i));
                found.add(account);
              }
            }
          }
        });
    return found;
  }

  /** Adds the accounts of a chunk to those of each system and assignment. */
  private void gather(IntList part, IntList[][] accounts) {
    for (int i = 0; i < part.size(); i += 3) {
      int system = part.get(i);
      if (accounts[system] == null) {
        accounts[system] = new IntList[context.model.systems().get(system).grants().size()];
      }
      IntList[] ofSystem = accounts[system];
      int grant = part.get(i + 1);
      ofSystem[grant] = ofSystem[grant] == null ? new IntList(4) : ofSystem[grant];
      ofSystem[grant].add(part.get(i + 2));
    }
  }

  private List<Taken> taken(IntList[][] accounts) {
    List<Taken> taken = new ArrayList<>();
    for (int system = 0; system < accounts.length; system++) {
      SystemView view = context.model.systems().get(system);
      for (int grant = 0; accounts[system] != null && grant < accounts[system].length; grant++) {
        if (accounts[system][grant] != null) {
          taken.add(new Taken(view, grant, accounts[system][grant]));
        }
      }
    }
    return taken;
  }

  /** To whom assignments are given that could take away, and that are asked for. */
  private BitSet takers(SystemView view) {
    BitSet takers = new BitSet();
    for (int number = 0; number < view.grants().size(); number++) {
      Grant grant = view.grants().get(number);
      if (grant.subject() >= 0 && view.decider().mayTake(number) && isAsked(view, grant)) {
        takers.set(grant.subject());
      }
    }
    return takers;
  }

  private static boolean meets(IntList subjects, BitSet takers) {
    for (int i = 0; i < subjects.size(); i++) {
      if (takers.get(subjects.get(i))) {
        return true;
      }
    }
    return false;
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
