package org.sobercompass.core.admin;

import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Climb;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Verdict;

/**
 * Rights that lead to rights: who could give himself a power by what he holds. From those who hold
 * it backwards: whoever can set the password of an account, or change its permissions or owner, can
 * act as it; whoever can edit a group can be in it. Equal lists are followed once, so the cost is
 * O(distinct lists x accounts / 64 + memberships), not of objects. Breadth first, so that each
 * chain is a shortest one. What is not known gives nobody anything, and the answer says where
 * something is not known. Not thread-safe.
 */
public final class Reach {
  private final Powers powers;
  private final Facts facts;
  private final MembershipGraph graph;

  /** By subject the first step from it; null where it was not reached. */
  private final @Nullable Step[] steps;

  private final BitSet held = new BitSet();
  private final BitSet unknown = new BitSet();
  private final BitSet byList = new BitSet();

  /** The subjects reached, in that order; those from {@code next} on are to be followed. */
  private final IntList reached = new IntList();

  private int next;

  /** Those by whom somebody climbs by a system's own rules; they are not followed by themselves. */
  private final IntList climbed = new IntList();

  private final Set<Followed> followed = new HashSet<>();

  private final Leads leads;

  /** Whether no directory has lists, so that nothing is known of what they give. */
  private final boolean unlisted;

  /** Room for accounts to be put in order; empty in between. */
  private final BitSet sorted = new BitSet();

  /** To whom those are given that were. */
  private final Set<Integer> givenTo = new HashSet<>();

  private record Followed(DirectoryTree tree, int descriptor, int kind, String action) {}

  /**
   * One step of a chain: by an action on a subject, or, without one, by being in a group.
   *
   * @param to the account or group that is had by it
   * @param action what is done to it; empty for a membership
   * @param how by which of a system's own rules; empty where an action or a membership does it
   */
  public record Step(int to, Optional<AdminAction> action, String how) {
    /** By an action, or, without one, by a membership. */
    public Step(int to, Optional<AdminAction> action) {
      this(to, action, "");
    }
  }

  /**
   * Who has a power, and who could have it.
   *
   * @param held the accounts that hold it
   * @param within those that do not, and could give it to themselves
   * @param unknown the accounts and groups on the way of which it is not known, or not of all, who
   *     can act on them: more accounts may be within
   */
  public record Answer(BitSet held, BitSet within, BitSet unknown) {}

  /** Follows one power. */
  public Reach(Powers powers, NamedPower power) {
    this.powers = powers;
    this.facts = powers.model().facts();
    this.graph = powers.model().graph();
    this.steps = new Step[facts.subjects()];
    this.unlisted = powers.trees().all().isEmpty();
    this.leads = new Leads(powers);
    powers.walker().begin();
    for (int trustee : power.trustees()) {
      hold(trustee);
    }
    for (Climb climb : power.climbs()) {
      if (climb.by() >= 0) {
        if (steps[climb.by()] == null) {
          steps[climb.by()] = new Step(climb.by(), Optional.empty());
          climbed.add(climb.by());
        }
        reach(climb.account(), new Step(climb.by(), Optional.empty(), climb.how()));
      }
    }
    while (next < reached.size()) {
      follow(reached.get(next++));
    }
  }

  /** A trustee holds the power, and all groups and accounts in it do. */
  private void hold(int trustee) {
    Step step = new Step(trustee, Optional.empty());
    reach(trustee, step);
    accounts(trustee, step).setIn(held);
  }

  /** Reaches the accounts that count as a subject, ascending; those found before are left out. */
  private IntList accounts(int subject, Step step) {
    IntList inside = new IntList();
    powers.walker().more(subject, inside);
    if (inside.size() == 1) {
      reach(inside.get(0), step);
      return inside;
    }
    inside.setIn(sorted);
    for (int a = sorted.nextSetBit(0); a >= 0; a = sorted.nextSetBit(a + 1)) {
      reach(a, step);
    }
    sorted.clear();
    return inside;
  }

  /** Notes a subject to be followed, unless it was reached before, by a chain as short. */
  private void reach(int subject, Step by) {
    if (steps[subject] == null) {
      steps[subject] = by;
      reached.add(subject);
    }
  }

  private void follow(int subject) {
    SubjectKind kind = facts.kind(subject);
    if (kind == SubjectKind.UNIT) {
      return;
    }
    if (kind == SubjectKind.GROUP) {
      inside(subject);
    }
    Powers.Thing thing =
        unlisted ? new Powers.Thing(subject, Optional.empty()) : powers.thing(subject);
    boolean usual = kind != SubjectKind.IMPLICIT;
    for (Leads.Lead lead : leads.to(kind)) {
      if (usual && thing.spot().isEmpty() ? lead.fits() : powers.fits(lead.action(), thing)) {
        lists(thing, lead.action());
        roles(subject, lead);
      }
    }
  }

  /**
   * Groups in a group. Accounts in it were found where it was reached, each by its own decision:
   * some may be denied.
   */
  private void inside(int group) {
    for (int i = 0; i < graph.downCount(group); i++) {
      int member = graph.downMember(group, i);
      if (member >= facts.firstGroup()
          && steps[member] == null
          && facts.kind(member) == SubjectKind.GROUP
          && graph.downVia(group, i).isSure()) {
        byList.set(member, byList.get(group));
        reach(member, new Step(group, Optional.empty()));
      }
    }
  }

  private void lists(Powers.Thing thing, AdminAction action) {
    int subject = thing.subject();
    Optional<DirectoryTrees.Spot> spot = thing.spot();
    if (spot.isEmpty()) {
      unknown.set(subject);
      return;
    }
    DirectoryTree tree = spot.get().tree();
    int object = spot.get().object();
    Followed key =
        new Followed(tree, tree.descriptorNumber(object), tree.kind(object), action.id());
    if (key.descriptor() < 0) {
      unknown.set(subject);
    }
    if (key.descriptor() < 0 || !followed.add(key)) {
      return;
    }
    Step step = new Step(subject, Optional.of(action));
    trustees(spot.get(), action, step);
    Crowd answer = powers.lists().byList(action, spot.get());
    BitSet who = answer.yes();
    if (!answer.perhaps().isEmpty()) {
      unknown.set(subject);
    }
    for (int a = who.nextSetBit(0); a >= 0; a = who.nextSetBit(a + 1)) {
      if (a != subject && !isDenied(a, subject)) {
        reach(a, step);
      }
    }
  }

  /**
   * Whether an account that put itself into a group would still be kept from what the group has by
   * a list, since an entry there denies it. Asked only of lists that deny anything.
   */
  private boolean isDenied(int account, int group) {
    if (!byList.get(group)) {
      return false;
    }
    SubjectSet counted = new SubjectSet();
    int at = group;
    Step step = steps[at];
    while (step != null && step.action().isEmpty() && step.to() != at) {
      counted.sure().add(at);
      at = step.to();
      step = steps[at];
    }
    counted.sure().add(at);
    if (step == null || step.action().isEmpty()) {
      return false;
    }
    DirectoryTrees.Spot spot = powers.trees().object(step.to()).orElseThrow();
    Descriptor list = spot.tree().descriptor(spot.object()).orElseThrow();
    if (list.entries().stream().noneMatch(Ace::denies)) {
      return false;
    }
    IntList own = powers.lists().subjects(account).sure();
    for (int i = 0; i < own.size(); i++) {
      counted.sure().add(own.get(i));
    }
    return powers.lists().byList(counted, step.action().get(), spot) != Verdict.YES;
  }

  /** Groups named in the list that give the action by themselves: to be in one is enough. */
  private void trustees(DirectoryTrees.Spot spot, AdminAction action, Step step) {
    Descriptor descriptor = spot.tree().descriptor(spot.object()).orElseThrow();
    Set<Integer> named = new TreeSet<>();
    for (Ace ace : descriptor.entries()) {
      powers.trees().subject(ace.trustee()).ifPresent(named::add);
    }
    for (int group : named) {
      if (facts.kind(group) == SubjectKind.GROUP && steps[group] == null) {
        SubjectSet only = new SubjectSet();
        only.sure().add(group);
        if (powers.lists().byList(only, action, spot) == Verdict.YES) {
          byList.set(group);
          reach(group, step);
        }
      }
    }
  }

  /**
   * Who has an admin role over a subject. Whoever one is given to is followed once: then he is
   * within reach, whatever else is given to him.
   */
  private void roles(int subject, Leads.Lead lead) {
    if (lead.grants().isEmpty()) {
      return;
    }
    Step step = new Step(subject, Optional.of(lead.action()));
    lead.grants()
        .removeIf(
            grant -> {
              boolean gives =
                  grant.subject() != subject
                      && !givenTo.contains(grant.subject())
                      && powers.roles().scopes().contains(grant.scope(), subject);
              if (gives) {
                givenTo.add(grant.subject());
                reach(grant.subject(), step);
                accounts(grant.subject(), step);
              }
              return givenTo.contains(grant.subject());
            });
  }

  /** Who has it, and who could. */
  public Answer answer() {
    BitSet within = new BitSet();
    for (IntList some : List.of(reached, climbed)) {
      for (int i = 0; i < some.size(); i++) {
        if (facts.kind(some.get(i)) == SubjectKind.ACCOUNT && !held.get(some.get(i))) {
          within.set(some.get(i));
        }
      }
    }
    return new Answer((BitSet) held.clone(), within, (BitSet) unknown.clone());
  }

  /**
   * A shortest chain from an account to the power: what it does to whom, one after the other. Empty
   * when it is not within reach, or held already.
   */
  public List<Step> chain(int account) {
    return ReachChains.chain(account, subject -> steps[subject]);
  }

  /** The chains of some accounts, without all else that was followed. */
  public ReachChains chains(BitSet accounts) {
    Map<Integer, Step> kept = new HashMap<>();
    for (int account : accounts.stream().toArray()) {
      int at = account;
      Step step = steps[at];
      while (step != null && kept.putIfAbsent(at, step) == null) {
        at = step.to();
        step = steps[at];
      }
    }
    return new ReachChains(kept);
  }
}
