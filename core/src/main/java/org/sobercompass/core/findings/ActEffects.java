package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.admin.AdminGrant;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Tokens;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;

/**
 * Which admin actions changes end and give: the accounts and objects they can concern are asked
 * before and after.
 *
 * @param ends what could be done before and cannot, or less surely, after
 * @param gives what can be done after and could not, or less surely, before
 */
public record ActEffects(List<Act> ends, List<Act> gives) {
  /** None. */
  public static final ActEffects NONE = new ActEffects(List.of(), List.of());

  /**
   * One action of one account to one object.
   *
   * @param account the number of the account
   * @param action the action
   * @param object the key of the object
   * @param label its name
   */
  public record Act(int account, AdminAction action, Key object, String label) {}

  /** Whether nothing differs. */
  public boolean isNone() {
    return ends.isEmpty() && gives.isEmpty();
  }

  /** The effects of changes. O(objects + accounts concerned x objects concerned x actions). */
  public static ActEffects of(Judged judged, List<Change> changes) {
    Powers before = judged.powers();
    boolean nothing =
        before.tokens().trees().isEmpty() && before.roles().administration().grants().isEmpty();
    if (nothing || changes.stream().allMatch(c -> c instanceof Change.AssignmentRemoved)) {
      return NONE;
    }
    return new Work(before, judged.with(changes).powers()).compare(changes);
  }

  /** Not thread-safe. */
  private static final class Work {
    private final Powers before;
    private final Powers after;
    private final BitSet accounts = new BitSet();
    private final ObjectKeys keys;
    private final Map<AdminAction, BitSet> byRole = new HashMap<>();
    private final List<Act> ends = new ArrayList<>();
    private final List<Act> gives = new ArrayList<>();

    Work(Powers before, Powers after) {
      this.before = before;
      this.keys = new ObjectKeys(before);
      this.after = after;
    }

    ActEffects compare(List<Change> changes) {
      changes.forEach(this::concerned);
      scopes();
      for (int a = accounts.nextSetBit(0); a >= 0; a = accounts.nextSetBit(a + 1)) {
        int account = a;
        byRole(account);
        for (int t = 0; t < before.tokens().trees().size(); t++) {
          byList(account, before.tokens().trees().get(t), after.tokens().trees().get(t));
        }
      }
      return new ActEffects(List.copyOf(ends), List.copyOf(gives));
    }

    private void concerned(Change change) {
      if (change instanceof Change.MembershipRemoved removed) {
        below(removed.member());
      } else if (change instanceof Change.MembershipAdded added) {
        below(added.member());
      } else if (change instanceof Change.AdminRoleRemoved removed) {
        below(before.roles().administration().grants().get(removed.grant()).subject());
      } else if (change instanceof Change.EntryRemoved removed) {
        DirectoryTree tree = DelegatedFacts.tree(before, removed);
        Descriptor list = tree.descriptor(removed.object()).orElseThrow();
        // What one entry denies others may give, and the other way: all whom the list names.
        accounts.or(before.tokens().accounts(list.entries().get(removed.entry()).trustee()));
      }
    }

    private void below(int subject) {
      if (subject >= 0) {
        IntList found = new IntList();
        before.model().widest().walker().accounts(subject, found);
        for (int i = 0; i < found.size(); i++) {
          accounts.set(found.get(i));
        }
      }
    }

    /** Who is set over a scope that holds others than before. */
    private void scopes() {
      for (AdminGrant grant : before.roles().administration().grants()) {
        boolean differs =
            grant.scope() >= 0
                && !before
                    .roles()
                    .scopes()
                    .objects(grant.scope())
                    .equals(after.roles().scopes().objects(grant.scope()));
        if (differs) {
          below(grant.subject());
        }
      }
    }

    private void byRole(int account) {
      byRole.clear();
      for (AdminAction action : before.roles().administration().actions()) {
        BitSet differ = before.roles().objects(account, action.id());
        differ.xor(after.roles().objects(account, action.id()));
        byRole.put(action, differ);
        differ.stream()
            .forEach(subject -> ask(account, action, before.thing(subject), after.thing(subject)));
      }
    }

    /** Objects whose list, or the list above, is another or names what the account is no more. */
    private void byList(int account, DirectoryTree was, DirectoryTree is) {
      Set<String> moved = new HashSet<>(before.tokens().of(account));
      Set<String> now = after.tokens().of(account);
      Set<String> both = new HashSet<>(moved);
      both.retainAll(now);
      moved.addAll(now);
      moved.removeAll(both);
      BitSet naming = new BitSet();
      for (int d = 0; d < was.descriptors() && !moved.isEmpty(); d++) {
        naming.set(d, names(was.descriptorOf(d), moved));
      }
      BitSet concerned = new BitSet();
      for (int object = 0; object < was.size(); object++) {
        int own = was.descriptorNumber(object);
        int above = was.parent(object);
        boolean asked = own >= 0 && (naming.get(own) || own != is.descriptorNumber(object));
        if (asked || (above >= 0 && concerned.get(above))) {
          concerned.set(object, asked);
          object(account, was, is, object);
        }
      }
    }

    private static boolean names(Descriptor list, Set<String> sids) {
      return list.owner().filter(sids::contains).isPresent()
          || list.entries().stream().anyMatch(ace -> sids.contains(ace.trustee()));
    }

    private void object(int account, DirectoryTree was, DirectoryTree is, int object) {
      int subject = keys.subject(was, object);
      Powers.Thing then = new Powers.Thing(subject, Optional.of(new Tokens.Spot(was, object)));
      Powers.Thing now = new Powers.Thing(subject, Optional.of(new Tokens.Spot(is, object)));
      for (AdminAction action : before.roles().administration().actions()) {
        boolean told = subject >= 0 && byRole.getOrDefault(action, new BitSet()).get(subject);
        if (!told) {
          ask(account, action, then, now);
        }
      }
    }

    private void ask(int account, AdminAction action, Powers.Thing then, Powers.Thing now) {
      int was = before.can(account, action, then, Optional.empty()).ordinal();
      int is = after.can(account, action, now, Optional.empty()).ordinal();
      if (was != is) {
        (is < was ? ends : gives).add(act(account, action, then));
      }
    }

    private Act act(int account, AdminAction action, Powers.Thing thing) {
      if (thing.subject() >= 0) {
        Key key = before.model().facts().key(thing.subject());
        return new Act(account, action, key, before.model().facts().label(thing.subject()));
      }
      Tokens.Spot spot = thing.spot().orElseThrow();
      Key key = keys.key(spot.tree(), spot.object());
      return new Act(account, action, key, spot.tree().label(spot.object()));
    }
  }
}
