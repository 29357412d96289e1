package org.sobercompass.core.system.directory;

import java.util.List;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.EntryActions;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Trustees;

/**
 * What a directory's lists say and whom they name.
 *
 * @param tree the objects with their lists
 * @param trees all directories, with the subjects that their objects are
 * @param trustees whom the lists name, by SID
 * @param rights the admin actions
 */
record DirectoryFacts(
    DirectoryTree tree, DirectoryTrees trees, Trustees trustees, ActionRights rights) {

  /** Of the lists of one directory. O(entries of distinct lists). */
  static DirectoryFacts of(DirectoryTree tree, DirectoryTrees trees, ActionRights rights) {
    Facts facts = trees.facts();
    Trustees.Builder builder = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
    for (String sid : tree.trustees()) {
      if (!sid.isEmpty()) {
        add(builder, sid, trees);
      }
    }
    return new DirectoryFacts(tree, trees, builder.build(), rights);
  }

  private static void add(Trustees.Builder builder, String sid, DirectoryTrees trees) {
    if (DirectoryTrees.isOfEverybody(sid)) {
      int everybody = trees.facts().implicit(Implicit.SIGNED_IN);
      builder.add(sid, WellKnown.name(sid).orElse(sid), everybody);
      return;
    }
    int subject = trees.subject(sid).orElse(Grant.MISSING);
    int trustee = builder.add(sid, sid, subject);
    trees.bearers(sid).stream().filter(s -> s != subject).forEach(s -> builder.also(trustee, s));
    if (trees.isStranger(sid)) {
      builder.open(trustee);
    }
    if (WellKnown.name(sid).isPresent()) {
      builder.known(trustee);
    }
  }

  /** The same with other lists of as many entries, which name nobody else. */
  DirectoryFacts with(DirectoryTree patched) {
    return new DirectoryFacts(patched, trees, trustees, rights);
  }

  /** Whether an entry gives what some actions need, or a part of it, on an object or below it. */
  boolean gives(Ace ace, List<AdminAction> actions, int object) {
    EntryActions alone = new EntryActions(tree.names(), actions);
    return !alone.possible(List.of(ace), tree.objectClass(object)).isEmpty()
        || alone.covered(ace, actions) != 0;
  }

  /** The account or group that an object is, or -1: nobody is an organizational unit. */
  int subject(int object) {
    int subject = trees.subject(tree, object);
    return subject >= 0 && trees.facts().kind(subject) == SubjectKind.UNIT ? -1 : subject;
  }

  /** The number of a trustee, or -1. */
  int trustee(String sid) {
    return sid.isEmpty() ? -1 : trustees.find(sid);
  }
}
