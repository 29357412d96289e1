package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Act;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Side.RoleHeld;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.RightBits;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Token;

/** Separation rules made ready for a sweep: for each system what its rights and roles count for. */
final class SeparationTests {
  final List<SeparationRule> rules;
  final OfRights[][] rights;
  final OfRoles[][] roles;

  /**
   * For each system and rule where its tests begin; those of the next rule begin where they end.
   */
  private final int[][] rightsOf;

  private final int[][] rolesOf;
  final List<OfAct> acts = new ArrayList<>();

  /** The numbers of the systems of whose rights a rule asks. */
  final BitSet ofRights = new BitSet();

  /** The systems of whose roles a rule asks. */
  final List<SystemView> ofRoles = new ArrayList<>();

  private final List<List<SystemView>> systemsOf = new ArrayList<>();
  private final Assessment assessment;
  private @Nullable SharedNodes nodes;

  /** The rights of one system on one side of one rule. */
  record OfRights(int rule, int side, long[] bits) {}

  /** The roles of one system on one side of one rule, with those that include them. */
  record OfRoles(int rule, int side, BitSet roles) {}

  /** Who can do what stands on one side of one rule, and of whom it is not known. */
  record OfAct(int rule, int side, Act act, Crowd who) {
    /** Whether an account can do it, surely or perhaps. */
    boolean may(int account) {
      return who.yes().get(account) || who.perhaps().get(account);
    }

    boolean can(int account) {
      return who.yes().get(account);
    }

    /** The action that it is. */
    AdminAction action(Assessment assessment) {
      return assessment.powers().roles().administration().action(act.action()).orElseThrow();
    }

    /** Whether it is about an act that stands on its side. */
    boolean asks(Act act, List<SeparationRule> rules) {
      return rules.get(rule).sides().get(side).contains(act);
    }
  }

  SeparationTests(Assessment assessment) {
    this.assessment = assessment;
    this.rules = assessment.rules().separation();
    List<SystemView> systems = assessment.model().systems();
    rights = new OfRights[systems.size()][];
    roles = new OfRoles[systems.size()][];
    rightsOf = new int[systems.size()][];
    rolesOf = new int[systems.size()][];
    for (SystemView view : systems) {
      List<OfRights> ofRights = new ArrayList<>();
      List<OfRoles> ofRoles = new ArrayList<>();
      int[] firstRights = new int[rules.size() + 1];
      int[] firstRoles = new int[rules.size() + 1];
      for (int r = 0; r < rules.size(); r++) {
        for (int s = 0; s < rules.get(r).sides().size(); s++) {
          collect(view, r, s, ofRights, ofRoles);
        }
        firstRights[r + 1] = ofRights.size();
        firstRoles[r + 1] = ofRoles.size();
      }
      rightsOf[view.number()] = firstRights;
      rolesOf[view.number()] = firstRoles;
      rights[view.number()] = ofRights.toArray(OfRights[]::new);
      this.ofRights.set(view.number(), !ofRights.isEmpty());
      roles[view.number()] = ofRoles.toArray(OfRoles[]::new);
      if (!ofRoles.isEmpty()) {
        this.ofRoles.add(view);
      }
    }
    for (int r = 0; r < rules.size(); r++) {
      int rule = r;
      systemsOf.add(systems.stream().filter(view -> names(view, rule)).toList());
      for (int s = 0; s < rules.get(r).sides().size(); s++) {
        acts(r, s);
      }
    }
  }

  private boolean names(SystemView view, int rule) {
    int number = view.number();
    return rightsOf[number][rule] < rightsOf[number][rule + 1]
        || rolesOf[number][rule] < rolesOf[number][rule + 1];
  }

  /** The systems that have a right or a role on a side of a rule. */
  List<SystemView> systems(int rule) {
    return systemsOf.get(rule);
  }

  /** The nodes of all systems, made when first asked for. */
  synchronized SharedNodes nodes() {
    SharedNodes made = nodes;
    if (made == null) {
      made = new SharedNodes(assessment.model().systems());
      nodes = made;
    }
    return made;
  }

  private void collect(
      SystemView view, int rule, int side, List<OfRights> ofRights, List<OfRoles> ofRoles) {
    long[] bits = new long[view.rights().words()];
    BitSet held = new BitSet();
    for (Side item : rules.get(rule).sides().get(side)) {
      if (item instanceof Permission p && p.system().equals(view.id())) {
        bits[p.right() >> 6] |= 1L << p.right();
      } else if (item instanceof RoleHeld h && h.system().equals(view.id())) {
        held.or(RoleInfo.including(view.system().roles(), h.role()));
      }
    }
    if (!RightBits.isEmpty(bits)) {
      ofRights.add(new OfRights(rule, side, bits));
    }
    if (!held.isEmpty()) {
      ofRoles.add(new OfRoles(rule, side, held));
    }
  }

  /**
   * The grants of an account.
   *
   * @param perhaps also those of which it is not known whether they reach it
   */
  static IntList grants(
      SystemView view, int account, SubjectSet subjects, long asOf, boolean perhaps) {
    IntList all = view.decider().grantsOf(new Token(account, subjects, asOf));
    if (perhaps && !subjects.perhaps().isEmpty()) {
      SubjectSet open = new SubjectSet();
      for (int i = 0; i < subjects.perhaps().size(); i++) {
        open.sure().add(subjects.perhaps().get(i));
      }
      IntList more = view.decider().grantsOf(new Token(account, open, asOf));
      for (int i = 0; i < more.size(); i++) {
        all.add(more.get(i));
      }
    }
    return all;
  }

  private void acts(int rule, int side) {
    for (Side item : rules.get(rule).sides().get(side)) {
      if (item instanceof Act act) {
        acts.add(new OfAct(rule, side, act, act.who(assessment.powers())));
      }
    }
  }

  /** Which sides of a rule a role of a system gives, by its rights and by itself. */
  long sides(SystemView view, int role, int rule) {
    long sides = 0;
    RoleInfo info = view.system().roles().get(role);
    int number = view.number();
    for (int i = rightsOf[number][rule]; i < rightsOf[number][rule + 1]; i++) {
      OfRights test = rights[number][i];
      if (RightBits.meet(info.allows(), test.bits)) {
        sides |= 1L << test.side;
      }
    }
    for (int i = rolesOf[number][rule]; i < rolesOf[number][rule + 1]; i++) {
      OfRoles test = roles[number][i];
      if (test.roles.get(role)) {
        sides |= 1L << test.side;
      }
    }
    return sides;
  }

  boolean enough(int rule, long sides) {
    return Long.bitCount(sides) >= rules.get(rule).atLeast();
  }

  /** What a side asks for, in words. */
  String words(Side side) {
    if (side instanceof Permission p) {
      return assessment
          .model()
          .system(p.system())
          .map(view -> p.system() + ":" + view.rights().text(p.right()))
          .orElse(p.system());
    }
    if (side instanceof RoleHeld h) {
      return assessment
          .model()
          .system(h.system())
          .map(view -> "role " + h.system() + ":" + view.system().roles().get(h.role()).id())
          .orElse(h.system());
    }
    Act act = (Act) side;
    return "act " + act.action();
  }
}
