package org.sobercompass.core.review;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/**
 * Everything that is given and can be taken away by itself: assignments, entries of lists, admin
 * roles, and who is listed in groups that carry rights. O(grants + memberships). Not thread-safe.
 */
final class ItemFinder {
  private static final Set<Origin> ADDED = EnumSet.of(Origin.ADDED, Origin.CLAIMED);

  private final AccessModel model;
  private final Facts facts;
  private final long asOf;

  ItemFinder(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
    this.asOf = model.asOf().getEpochSecond();
  }

  /** Tells what is given by applications, lists and admin scopes. */
  void grants(Consumer<Change.AssignmentRemoved> out) {
    for (SystemView view : model.systems()) {
      for (int grant = 0; grant < view.grants().size(); grant++) {
        if (isItem(view, grant)) {
          out.accept(new Change.AssignmentRemoved(view.number(), grant));
        }
      }
    }
    for (SystemView view : model.delegated()) {
      if (!view.system().isOfLists()) {
        for (int grant = 0; grant < view.grants().size(); grant++) {
          if (isItem(view, grant)) {
            out.accept(new Change.AssignmentRemoved(view.number(), grant));
          }
        }
      }
    }
  }

  /** Not what is over, or handed down from above: that ends where it stands. */
  private boolean isItem(SystemView view, int number) {
    Grant grant = view.grants().get(number);
    return grant.on()
        && asOf < grant.until()
        && view.system().isRemovable(number, view.basis())
        && (!view.system().isOfLists() || view.system().entryText(number).isPresent());
  }

  /**
   * Tells who is listed in a group that carries rights, or is in one that does; who is listed by
   * several attributes is told once.
   */
  void memberships(Consumer<List<Change>> out) {
    MembershipGraph graph = model.graph();
    BitSet carrying = carrying();
    for (int group = carrying.nextSetBit(0); group >= 0; group = carrying.nextSetBit(group + 1)) {
      Map<Integer, List<Change>> listed = new LinkedHashMap<>();
      for (int i = 0; i < graph.downCount(group); i++) {
        Via via = graph.downVia(group, i);
        if (via.isListed()) {
          int member = graph.downMember(group, i);
          listed
              .computeIfAbsent(member, k -> new ArrayList<>())
              .add(new Change.MembershipRemoved(member, group, via));
        }
      }
      listed.values().forEach(out);
    }
  }

  /** The groups that something is given to, and all groups in them. */
  private BitSet carrying() {
    BitSet all = new BitSet();
    ArrayDeque<Integer> open = new ArrayDeque<>();
    for (SystemView view : model.systems()) {
      carried(view, all, open);
    }
    for (SystemView view : model.delegated()) {
      carried(view, all, open);
    }
    MembershipGraph graph = model.graph();
    while (!open.isEmpty()) {
      int group = open.remove();
      for (int i = 0; i < graph.downCount(group); i++) {
        add(graph.downMember(group, i), all, open);
      }
    }
    return all;
  }

  private void carried(SystemView view, BitSet all, ArrayDeque<Integer> open) {
    view.system().carried(view.basis(), asOf).keySet().forEach(subject -> add(subject, all, open));
  }

  /** Tells what was added to the lists of directories' objects: neither default nor inherited. */
  void delegations(Powers powers, BiConsumer<DirectoryTree, Delegation> out) {
    for (DirectoryTree tree : powers.trees().all()) {
      Delegations lister =
          new Delegations(
              tree, new Origins(tree, Optional.empty()), powers.roles().administration().actions());
      for (int object = 0; object < tree.size(); object++) {
        lister.on(object, ADDED).forEach(one -> out.accept(tree, one));
      }
    }
  }

  private void add(int subject, BitSet all, ArrayDeque<Integer> open) {
    if (subject >= 0 && facts.kind(subject) == SubjectKind.GROUP && !all.get(subject)) {
      all.set(subject);
      open.add(subject);
    }
  }
}
