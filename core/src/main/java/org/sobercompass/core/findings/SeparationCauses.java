package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.SeparationRule.Permission;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/** Looks for the most general cause of one account breaking one separation rule. */
final class SeparationCauses {
  private final FindingContext context;
  private final SeparationRule rule;
  private final int account;
  private final List<Carrier> carriers = new ArrayList<>();

  /** A grant of the account that gives at least one side: which, by whom. */
  private record Carrier(SystemView view, int role, int subject, long sides) {}

  /** A role that has enough sides by itself. */
  record RoleCause(SystemView view, int role) {}

  SeparationCauses(FindingContext context, SeparationRule rule, int account) {
    this.context = context;
    this.rule = rule;
    this.account = account;
    for (SystemView view : context.model.systems()) {
      collect(view);
    }
  }

  private void collect(SystemView view) {
    boolean concerned =
        rule.sides().stream()
            .flatMap(List::stream)
            .anyMatch(permission -> permission.system().equals(view.id()));
    if (!concerned) {
      return;
    }
    IntList grants = view.decider().grantsOf(context.asker.token(view, account));
    long asOf = context.model.asOf().getEpochSecond();
    for (int i = 0; i < grants.size(); i++) {
      Grant grant = view.grants().get(grants.get(i));
      long sides = grant.activeAt(asOf) ? sides(view, view.system().roles().get(grant.role())) : 0;
      if (sides != 0) {
        carriers.add(new Carrier(view, grant.role(), grant.subject(), sides));
      }
    }
  }

  private long sides(SystemView view, RoleInfo role) {
    long sides = 0;
    for (int side = 0; side < rule.sides().size(); side++) {
      for (Permission permission : rule.sides().get(side)) {
        if (permission.system().equals(view.id()) && role.allows(permission.right())) {
          sides |= 1L << side;
        }
      }
    }
    return sides;
  }

  Optional<RoleCause> role() {
    return carriers.stream()
        .filter(carrier -> enough(carrier.sides))
        .findFirst()
        .map(carrier -> new RoleCause(carrier.view, carrier.role));
  }

  /** A group all of whose members get enough sides; of several the one furthest up. */
  Optional<Integer> group() {
    BitSet groups = new BitSet();
    for (Carrier carrier : carriers) {
      IntList own = context.asker.memberships(carrier.view, account).sure();
      for (int i = 0; i < own.size(); i++) {
        if (context.facts.kind(own.get(i)) == SubjectKind.GROUP) {
          groups.set(own.get(i));
        }
      }
    }
    int best = -1;
    for (int group = groups.nextSetBit(0); group >= 0; group = groups.nextSetBit(group + 1)) {
      if (enough(sidesOf(group)) && (best < 0 || isAbove(group, best))) {
        best = group;
      }
    }
    return best < 0 ? Optional.empty() : Optional.of(best);
  }

  private long sidesOf(int group) {
    long sides = 0;
    for (Carrier carrier : carriers) {
      if (context.facts.kind(carrier.subject) == SubjectKind.GROUP
          && (carrier.subject == group || leads(carrier.view, group, carrier.subject))) {
        sides |= carrier.sides;
      }
    }
    return sides;
  }

  private boolean isAbove(int group, int other) {
    return leads(carriers.get(0).view, other, group) && !leads(carriers.get(0).view, group, other);
  }

  private boolean leads(SystemView view, int from, int to) {
    return context.leads(view, from, to);
  }

  private boolean enough(long sides) {
    return Long.bitCount(sides) >= rule.atLeast();
  }
}
