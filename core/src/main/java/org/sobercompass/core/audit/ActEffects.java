package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.ObjectKeys;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;

/**
 * Which admin actions changes end and give: the objects they can concern are asked about before and
 * after, with sets of accounts.
 *
 * @param ends what could be done before and cannot, or less surely, after
 * @param gives what can be done after and could not, or less surely, before
 * @param asked how many objects were asked about: at most {@link #MOST}
 * @param concerned how many the changes can concern; more than {@code asked} when there may be more
 *     to tell
 */
public record ActEffects(List<Act> ends, List<Act> gives, int asked, int concerned) {
  /** At most so many objects are asked about; the first of them. */
  public static final int MOST = 1_000;

  /** None. */
  public static final ActEffects NONE = new ActEffects(List.of(), List.of(), 0, 0);

  /**
   * One action of one account to one object.
   *
   * @param account the number of the account
   * @param action the action
   * @param object the key of the object
   * @param label its name
   */
  public record Act(int account, AdminAction action, Key object, String label) {}

  /** Whether nothing differs, as far as was asked. */
  public boolean isNone() {
    return ends.isEmpty() && gives.isEmpty() && asked == concerned;
  }

  /** The effects of changes. O(objects + objects asked x actions x entries x accounts / 64). */
  public static ActEffects of(Assessment assessment, List<Change> changes) {
    Powers before = assessment.powers();
    int applications = assessment.model().systems().size();
    boolean applicationsOnly =
        changes.stream()
            .allMatch(
                c ->
                    c.<Boolean>fold(
                        moved -> false,
                        own -> own.system() < applications,
                        self -> self.byKind(account -> true, presence -> false)));
    if (applicationsOnly) {
      return NONE;
    }
    Powers after = assessment.with(changes).powers();
    boolean nothing = before.trees().isEmpty() && after.roles().administration().grants().isEmpty();
    return nothing ? NONE : new Work(before, after).compare(changes);
  }

  /** Not thread-safe. */
  private static final class Work {
    private final Powers before;
    private final Powers after;
    private final ObjectKeys keys;
    private final List<Act> ends = new ArrayList<>();
    private final List<Act> gives = new ArrayList<>();
    private int asked;
    private int concerned;

    Work(Powers before, Powers after) {
      this.before = before;
      this.after = after;
      this.keys = new ObjectKeys(before);
    }

    ActEffects compare(List<Change> changes) {
      BitSet subjects = byRole();
      Set<String> moved = moved(changes);
      for (int t = 0; t < before.trees().all().size(); t++) {
        DirectoryTree was = before.trees().all().get(t);
        DirectoryTree is = after.trees().all().get(t);
        BitSet objects = byList(was, is, moved);
        for (int object = 0; object < was.size() && !subjects.isEmpty(); object++) {
          int subject = keys.subject(was, object);
          objects.set(object, objects.get(object) || (subject >= 0 && subjects.get(subject)));
        }
        objects.stream().forEach(object -> ask(thing(was, object), thing(is, object)));
      }
      subjects.stream()
          .filter(subject -> before.trees().object(subject).isEmpty())
          .forEach(subject -> ask(before.thing(subject), after.thing(subject)));
      return new ActEffects(List.copyOf(ends), List.copyOf(gives), asked, concerned);
    }

    private Powers.Thing thing(DirectoryTree tree, int object) {
      DirectoryTrees.Spot spot = new DirectoryTrees.Spot(tree, object);
      DirectoryTree known = before.trees().of(tree.directory());
      return new Powers.Thing(keys.subject(known, object), Optional.of(spot));
    }

    /** The subjects that somebody has other admin roles over than before. */
    private BitSet byRole() {
      BitSet subjects = new BitSet();
      // Those that a change gives stand after those that were there.
      int grants = after.roles().administration().grants().size();
      for (int g = 0; g < grants; g++) {
        BitSet was = RoleReach.accounts(before, g);
        BitSet is = RoleReach.accounts(after, g);
        BitSet over = RoleReach.over(before, g);
        BitSet overNow = RoleReach.over(after, g);
        if (!was.equals(is) || !actions(before, g).equals(actions(after, g))) {
          subjects.or(over);
          subjects.or(overNow);
        } else if (!was.isEmpty()) {
          over.xor(overNow);
          subjects.or(over);
        }
      }
      return subjects;
    }

    /** What the role of an assignment allows. */
    private static Set<String> actions(Powers powers, int number) {
      Administration all = powers.roles().administration();
      return number < all.grants().size()
          ? all.roles().get(all.grants().get(number).role()).actions()
          : Set.of();
    }

    /** The ids by which somebody does not count any more, or counts now. */
    private Set<String> moved(List<Change> changes) {
      Set<String> sids = new HashSet<>();
      for (Change change : changes) {
        change.fold(
            moved ->
                moved.byKind(
                    added -> sids.addAll(after.lists().sids(added.group())),
                    removed -> sids.addAll(before.lists().sids(removed.group()))),
            own -> false,
            self -> self.byKind(account -> false, presence -> sids.addAll(of(presence))));
      }
      sids.removeIf(DirectoryTrees::isOfEverybody);
      return sids;
    }

    /** The ids of who comes or goes, and those by which it counts. */
    private Set<String> of(Change.PresenceChanged presence) {
      Powers there = presence.isThere() ? after : before;
      SubjectSet subjects = new SubjectSet();
      there.model().widest().walker().subjects(presence.subject(), subjects);
      Set<String> sids = new HashSet<>(there.lists().sids(presence.subject()));
      for (IntList some : List.of(subjects.sure(), subjects.perhaps())) {
        for (int i = 0; i < some.size(); i++) {
          sids.addAll(there.lists().sids(some.get(i)));
        }
      }
      return sids;
    }

    /** Objects whose list is another or names such an id, and those right below them. */
    private static BitSet byList(DirectoryTree was, DirectoryTree is, Set<String> moved) {
      BitSet naming = new BitSet();
      for (int d = 0; d < was.descriptors() && !moved.isEmpty(); d++) {
        naming.set(d, names(was.descriptorOf(d), moved));
      }
      BitSet own = new BitSet();
      BitSet all = new BitSet();
      for (int object = 0; object < was.size(); object++) {
        int list = was.descriptorNumber(object);
        boolean here = list >= 0 && (naming.get(list) || list != is.descriptorNumber(object));
        int above = was.parent(object);
        own.set(object, here);
        all.set(object, here || (above >= 0 && own.get(above)));
      }
      return all;
    }

    private static boolean names(Descriptor list, Set<String> sids) {
      return list.owner().filter(sids::contains).isPresent()
          || list.entries().stream().anyMatch(ace -> sids.contains(ace.trustee()));
    }

    private void ask(Powers.Thing then, Powers.Thing now) {
      concerned++;
      if (asked >= MOST) {
        return;
      }
      asked++;
      for (AdminAction action : before.roles().administration().actions()) {
        if (before.fits(action, then)) {
          Crowd was = before.who(action, then, Optional.empty());
          Crowd is = after.who(action, now, Optional.empty());
          if (!was.equals(is)) {
            differ(action, then, was, is);
          }
        }
      }
    }

    private void differ(AdminAction action, Powers.Thing thing, Crowd was, Crowd is) {
      BitSet all = (BitSet) was.yes().clone();
      all.or(was.perhaps());
      all.or(is.yes());
      all.or(is.perhaps());
      for (int account = all.nextSetBit(0); account >= 0; account = all.nextSetBit(account + 1)) {
        int then = rank(was, account);
        int now = rank(is, account);
        if (then != now) {
          (now < then ? ends : gives).add(act(account, action, thing));
        }
      }
    }

    private static int rank(Crowd answer, int account) {
      return answer.yes().get(account) ? 2 : answer.perhaps().get(account) ? 1 : 0;
    }

    private Act act(int account, AdminAction action, Powers.Thing thing) {
      if (thing.subject() >= 0) {
        Key key = before.model().facts().key(thing.subject());
        return new Act(account, action, key, before.model().facts().label(thing.subject()));
      }
      DirectoryTrees.Spot spot = thing.spot().orElseThrow();
      Key key = keys.key(spot.tree(), spot.object());
      return new Act(account, action, key, spot.tree().label(spot.object()));
    }
  }
}
