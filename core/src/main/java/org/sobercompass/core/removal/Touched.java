package org.sobercompass.core.removal;

import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Enrolment;

/**
 * Which applications a change of memberships can matter to: those that give something to the group
 * or to a group above it, or enrol one, before or after. Systems of lists are always asked, since
 * what they name stands for more, and so are those in which more than the member counts. Not
 * thread-safe.
 */
final class Touched {
  private final AccessModel before;
  private final AccessModel after;
  private final Map<Integer, BitSet> above = new HashMap<>();
  private final Map<Integer, BitSet> named = new HashMap<>();

  Touched(AccessModel before, AccessModel after) {
    this.before = before;
    this.after = after;
  }

  boolean is(SystemView view, Change.OfMembership moved) {
    IntList whom = view.decider().impact(moved).subjects();
    boolean forItself = whom.size() == 1 && whom.get(0) == moved.member();
    if (view.system().isOfLists() || !forItself) {
      return true;
    }
    BitSet groups = above.computeIfAbsent(moved.group(), this::above);
    return groups.intersects(named.computeIfAbsent(view.number(), this::named));
  }

  /** The group and all groups that it is in, surely or perhaps. */
  private BitSet above(int group) {
    BitSet all = new BitSet();
    for (AccessModel model : List.of(before, after)) {
      SubjectSet subjects = new SubjectSet();
      model.widest().walker().subjects(group, subjects);
      set(subjects.sure(), all);
      set(subjects.perhaps(), all);
    }
    all.set(group);
    return all;
  }

  /** Whom an application gives something or enrols. */
  private BitSet named(int system) {
    BitSet all = new BitSet();
    for (AccessModel model : List.of(before, after)) {
      SystemView view = model.systems().get(system);
      set(view.decider().trustees(), all);
      for (Enrolment line : view.admission().register().orElse(List.of())) {
        if (line.subject() >= 0) {
          all.set(line.subject());
        }
      }
    }
    return all;
  }

  private static void set(IntList subjects, BitSet into) {
    for (int i = 0; i < subjects.size(); i++) {
      if (subjects.get(i) >= 0) {
        into.set(subjects.get(i));
      }
    }
  }
}
