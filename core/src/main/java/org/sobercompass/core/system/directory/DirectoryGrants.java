package org.sobercompass.core.system.directory;

import java.util.AbstractList;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.RandomAccess;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.delegation.TreePatch;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/**
 * All entries of all objects as grants, made when they are asked for; before the entries of an
 * object comes its ownership, or that it has no list. Thread-safe.
 */
final class DirectoryGrants extends AbstractList<Grant> implements RandomAccess {
  private final DirectoryFacts facts;
  private final DirectoryTree tree;
  private final EntryRoles roles;

  DirectoryGrants(DirectoryFacts facts, EntryRoles roles) {
    this.facts = facts;
    this.tree = facts.tree();
    this.roles = roles;
  }

  /** What entries say, each once. */
  List<RoleInfo> roles() {
    return roles.all();
  }

  /** The grant that the ownership of an object is, or that it has no list. */
  int ownership(int object) {
    return tree.entryNumber(object, -1);
  }

  /** The grant that an entry is. */
  int grant(int object, int entry) {
    return tree.entryNumber(object, entry);
  }

  /** The number in its list of the entry that a grant is, or -1. */
  int entry(int grant) {
    return grant - tree.entryNumber(tree.objectOfEntry(grant), 0);
  }

  /** The tree without some grants. */
  DirectoryTree without(List<Integer> grants) {
    List<HandedDown.Entry> gone = new ArrayList<>();
    for (int grant : grants) {
      if (entry(grant) < 0) {
        throw new IllegalArgumentException("ownership is no entry; give it another owner");
      }
      gone.add(new HandedDown.Entry(tree.objectOfEntry(grant), entry(grant)));
    }
    return TreePatch.without(tree, gone);
  }

  @Override
  public Grant get(int number) {
    if (number < 0 || number >= size()) {
      throw new IndexOutOfBoundsException(number);
    }
    int object = tree.objectOfEntry(number);
    int entry = entry(number);
    Descriptor list = tree.descriptor(object).orElse(null);
    String id = tree.directory() + " " + tree.dnForm(object) + " " + entry;
    if (list == null || list.dacl().isEmpty()) {
      int everyone = facts.trees().facts().implicit(Implicit.EVERYONE);
      return grant(id, EntryRoles.NO_LIST, everyone, "everyone", object, true);
    }
    if (entry < 0) {
      String owner = list.owner().orElse("");
      return grant(id, EntryRoles.OWNER, subject(owner), owner, object, true);
    }
    Ace ace = list.entries().get(entry);
    Grant made = grant(id, roles.of(ace), subject(ace.trustee()), ace.trustee(), object, false);
    return ace.type().effect() == AceType.Effect.NONE ? made.withdrawn() : made;
  }

  private int subject(String sid) {
    int trustee = facts.trustee(sid);
    return trustee < 0 ? Grant.MISSING : facts.trustees().subject(trustee);
  }

  private Grant grant(String id, int role, int subject, String text, int object, boolean declared) {
    return new Grant(
        id,
        role,
        subject,
        text,
        object,
        true,
        Long.MIN_VALUE,
        Long.MAX_VALUE,
        true,
        "",
        "",
        Place.of(tree.dn(object)),
        declared);
  }

  /** How many entries name each subject: those written in distinct lists, not those handed on. */
  Map<Integer, Integer> carried() {
    Map<Integer, Integer> carried = new HashMap<>();
    for (int d = 0; d < tree.descriptors(); d++) {
      for (Ace ace : tree.descriptorOf(d).entries()) {
        int subject = subject(ace.trustee());
        if (!ace.isInherited() && ace.allows() && subject >= 0) {
          carried.merge(subject, 1, Integer::sum);
        }
      }
    }
    return carried;
  }

  @Override
  public int size() {
    return tree.entryNumbers();
  }
}
