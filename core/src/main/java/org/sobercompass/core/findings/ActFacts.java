package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.admin.AdminGrant;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.delegation.ActionCheck;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.delegation.Tokens;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.removal.Goal.Still;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Verdict;

/**
 * What lets somebody do an admin action, as facts of which one has to go for it to end:
 * memberships, entries, admin roles. Not thread-safe, like the powers it asks.
 */
final class ActFacts {
  private final Powers powers;
  private final List<int[]> edges = new ArrayList<>();
  private final List<Change.OfDirectory> delegated = new ArrayList<>();
  private boolean exact = true;

  ActFacts(Powers powers) {
    this.powers = powers;
  }

  /** The facts gathered so far. */
  Still still() {
    return new Still(List.of(), List.copyOf(edges), List.copyOf(delegated), exact);
  }

  /** The same where nothing else ends it. */
  Still stillExact() {
    return new Still(List.of(), List.copyOf(edges), List.copyOf(delegated), true);
  }

  void add(Change.OfDirectory removal) {
    delegated.add(removal);
  }

  List<int[]> edges() {
    return edges;
  }

  List<Change.OfDirectory> delegated() {
    return delegated;
  }

  boolean isExact() {
    return exact;
  }

  /**
   * Gathers what lets an account or group do an action to any of some objects; the first of them.
   */
  boolean act(int who, AdminAction action, BitSet objects) {
    for (int object = objects.nextSetBit(0); object >= 0; object = objects.nextSetBit(object + 1)) {
      if (act(who, action, powers.thing(object))) {
        return true;
      }
    }
    return false;
  }

  /** The same for one object. */
  boolean act(int who, AdminAction action, Powers.Thing thing) {
    if (powers.can(who, action, thing, Optional.empty()) != Verdict.YES) {
      return false;
    }
    List<Powers.Way> byList = new ArrayList<>();
    for (Powers.Way way : powers.ways(who, action, thing, Optional.empty())) {
      if (way.grant().isPresent()) {
        role(who, way.grant().get());
        return true;
      }
      if (way.ground().map(ActionCheck.Ground::gives).orElse(false)) {
        byList.add(way);
      }
    }
    // Of one right each entry is enough by itself; of several, they are needed together.
    int wanted = isOneRight(action.need()) ? Math.min(1, byList.size()) : byList.size();
    exact &= !byList.isEmpty();
    byList.subList(0, wanted).forEach(way -> entry(who, way));
    return true;
  }

  private static boolean isOneRight(Requirement need) {
    return need instanceof Requirement.Simple simple
        ? Integer.bitCount(simple.mask()) == 1
        : need instanceof Requirement.Attribute attribute
            ? Integer.bitCount(attribute.mask()) == 1
            : need instanceof Requirement.Control;
  }

  /** An admin role, and how somebody comes to it. */
  void role(int who, int number) {
    AdminGrant grant = powers.roles().administration().grants().get(number);
    chain(powers.model().widest(), who, grant.subject());
    delegated.add(new Change.AdminRoleRemoved(number));
    // Who or what is in the scope could be taken out of it.
    exact &= grant.scope() == AdminGrant.EVERYTHING;
  }

  private void entry(int who, Powers.Way way) {
    ActionCheck.Ground ground = way.ground().orElseThrow();
    DirectoryTree tree = way.spot().orElseThrow().tree();
    Descriptor list = tree.descriptor(ground.object()).orElseThrow();
    String trustee = "";
    if (ground.entry() >= 0) {
      Ace ace = list.entries().get(ground.entry());
      trustee = ace.trustee();
      HandedDown.removal(tree, ground.object(), ground.entry()).ifPresent(delegated::add);
    } else if (list.dacl().isPresent()) {
      trustee = list.owner().orElse("");
    }
    trustee(who, trustee);
  }

  /** The memberships by which somebody counts as a trustee. */
  void trustee(int who, String sid) {
    Optional<Integer> subject = powers.tokens().subject(sid);
    if (subject.isPresent()) {
      chain(powers.tokens().memberships(), who, subject.get());
    } else {
      exact &= sid.isEmpty() || sid.equals(WellKnown.SELF) || Tokens.isOfEverybody(sid);
    }
  }

  private void chain(Memberships memberships, int who, int subject) {
    List<MembershipPaths.Path> paths =
        new MembershipPaths(memberships).find(who, subject, 1).list();
    exact &= !paths.isEmpty();
    for (MembershipPaths.Path path : paths) {
      for (int i = 1; i < path.subjects().size(); i++) {
        edges.add(new int[] {path.subjects().get(i - 1), path.subjects().get(i)});
      }
    }
  }

  /**
   * Gathers the acts by which an account could come to a power. The memberships of those acted upon
   * are left as they are, since they are to keep what they hold; so there may be cheaper ways.
   */
  void steps(int account, List<Reach.Step> steps) {
    int at = account;
    for (Reach.Step step : steps) {
      if (step.action().isPresent()) {
        act(at, step.action().get(), powers.thing(step.to()));
      }
      at = step.to();
    }
    exact = false;
  }
}
