package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.removal.Goal.Still;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Verdict;

/**
 * What lets somebody do an admin action, as facts of which one has to go for it to end:
 * memberships, entries, admin roles. Not thread-safe, like the powers it asks.
 */
public final class ActFacts {
  private final Powers powers;
  private final List<int[]> edges = new ArrayList<>();
  private final List<Change.AssignmentRemoved> grants = new ArrayList<>();
  private final List<Change.Redefined> scopes = new ArrayList<>();
  private boolean exact = true;

  public ActFacts(Powers powers) {
    this.powers = powers;
  }

  /** The facts gathered so far. */
  public Still still() {
    return new Still(
        List.of(), List.copyOf(edges), List.copyOf(grants), List.copyOf(scopes), exact);
  }

  /** The same where nothing else ends it. */
  public Still stillExact() {
    return new Still(List.of(), List.copyOf(edges), List.copyOf(grants), List.copyOf(scopes), true);
  }

  public void add(Change.AssignmentRemoved removal) {
    grants.add(removal);
  }

  public List<int[]> edges() {
    return edges;
  }

  public List<Change.AssignmentRemoved> grants() {
    return grants;
  }

  public boolean isExact() {
    return exact;
  }

  /**
   * Gathers what lets an account or group do an action to any of some objects; the first of them.
   */
  public boolean act(int who, AdminAction action, BitSet objects) {
    for (int object = objects.nextSetBit(0); object >= 0; object = objects.nextSetBit(object + 1)) {
      // Of several objects, each would have to be excepted: that is hardly ever what is wanted.
      if (act(who, action, powers.thing(object), objects.cardinality() == 1)) {
        return true;
      }
    }
    return false;
  }

  /** The same for one object. */
  public boolean act(int who, AdminAction action, Powers.Thing thing) {
    return act(who, action, thing, true);
  }

  private boolean act(int who, AdminAction action, Powers.Thing thing, boolean exceptions) {
    if (powers.can(who, action, thing, Optional.empty()) != Verdict.YES) {
      return false;
    }
    List<Powers.Way> byList = new ArrayList<>();
    for (Powers.Way way : powers.ways(who, action, thing, Optional.empty())) {
      if (way.spot().isEmpty()) {
        role(who, way.grant(), exceptions ? thing.subject() : -1);
        return true;
      }
      if (way.gives()) {
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
  public void role(int who, int number) {
    role(who, number, -1);
  }

  /** The same, with the object over which it counts, which could be excepted from the scope. */
  public void role(int who, int number, int object) {
    AdminGrant grant = powers.roles().administration().grants().get(number);
    chain(powers.model().widest(), who, grant.subject());
    grants.add(powers.withdrawal(number));
    // Who or what is in the scope could be taken out of it.
    exact &= grant.scope() == AdminGrant.EVERYTHING;
    if (object >= 0 && grant.scope() != AdminGrant.EVERYTHING) {
      scopes.add(powers.exception(grant.scope(), object));
    }
  }

  private void entry(int who, Powers.Way way) {
    DirectoryTrees.Spot spot = way.spot().orElseThrow();
    Descriptor list = spot.tree().descriptor(spot.object()).orElseThrow();
    int entry = way.grant() - spot.tree().entryNumber(spot.object(), 0);
    String trustee = "";
    if (entry >= 0) {
      trustee = list.entries().get(entry).trustee();
      powers.lists().source(spot, entry).ifPresent(grants::add);
    } else if (list.dacl().isPresent()) {
      trustee = list.owner().orElse("");
    }
    trustee(who, trustee);
  }

  /** The memberships by which somebody counts as a trustee. */
  public void trustee(int who, String sid) {
    Optional<Integer> subject = powers.trees().subject(sid);
    if (subject.isPresent()) {
      chain(powers.lists().memberships(), who, subject.get());
    } else {
      exact &= sid.isEmpty() || sid.equals(WellKnown.SELF) || DirectoryTrees.isOfEverybody(sid);
    }
  }

  private void chain(Memberships memberships, int who, int subject) {
    List<MembershipPaths.Path> paths =
        new MembershipPaths(memberships).find(who, subject, 1).list();
    exact &= !paths.isEmpty();
    for (MembershipPaths.Path path : paths) {
      for (int i = 1; i < path.subjects().size(); i++) {
        edges.add(new int[] {path.subjects().get(i - 1), path.subjects().get(i)});
        // Everyone signed in is a member: nobody can be taken out alone.
        exact &= path.vias().get(i - 1) != Via.IMPLICIT;
      }
    }
  }

  /**
   * Gathers the acts by which an account could come to a power. The memberships of those acted upon
   * are left as they are, since they are to keep what they hold; so there may be cheaper ways.
   */
  public void steps(int account, List<Reach.Step> steps) {
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
