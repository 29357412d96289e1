package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.membership.Counting;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;

/** The lists of one directory as a system. Frozen and thread-safe. */
public final class DirectorySystem extends ListedSystem implements DirectoryLists {
  /** The kind, as it is registered. */
  public static final String KIND = "directory-lists";

  private final DirectoryFacts facts;
  private final Counting counting;
  private final EntryRoles roles;
  private final DirectoryGrants grants;

  private DirectorySystem(
      Definition definition, DirectoryFacts facts, Counting counting, EntryRoles roles) {
    super(definition);
    this.facts = facts;
    this.counting = counting;
    this.roles = roles;
    this.grants = new DirectoryGrants(facts, roles);
  }

  /** The systems of some directories, which know each other's accounts. O(objects). */
  public static List<AccessSystem> of(DirectoryTrees trees, ActionRights rights) {
    Counting counting = new ListMemberships(trees);
    List<AccessSystem> systems = new ArrayList<>();
    for (DirectoryTree tree : trees.all()) {
      Definition definition =
          new Definition(
              "directory " + tree.directory(),
              "the lists of " + tree.directory(),
              Sight.all(tree.directory()),
              new Admission(trees.facts(), false, Set.of(), Optional.empty()),
              List.of());
      systems.add(
          new DirectorySystem(
              definition,
              DirectoryFacts.of(tree, trees, rights),
              counting,
              new EntryRoles(tree, rights.words())));
    }
    return List.copyOf(systems);
  }

  @Override
  protected AccessSystem defined(Definition other) {
    return new DirectorySystem(other, facts, counting, roles);
  }

  @Override
  public DirectoryTree tree() {
    return facts.tree();
  }

  @Override
  public String kind() {
    return KIND;
  }

  @Override
  public Counting counting() {
    return counting;
  }

  @Override
  public String combining() {
    return "the first entry that speaks of a right decides";
  }

  @Override
  public Rights rights() {
    return facts.rights();
  }

  @Override
  public Resources resources() {
    return facts.tree();
  }

  @Override
  public List<RoleInfo> roles() {
    return roles.all();
  }

  @Override
  public List<Grant> grants(Basis basis) {
    return grants;
  }

  @Override
  public Map<Integer, Integer> carried(Basis basis, long asOf) {
    return grants.carried();
  }

  @Override
  public boolean isRemovable(int grant, Basis basis) {
    return grants.entry(grant) >= 0;
  }

  @Override
  public OptionalInt entry(int grant) {
    int entry = grants.entry(grant);
    return entry < 0 ? OptionalInt.empty() : OptionalInt.of(entry);
  }

  @Override
  public Decider decider(Basis basis) {
    return new DirectoryDecider(facts, grants);
  }

  @Override
  public Decider decider(DirectoryTree other) {
    DirectoryFacts changed = facts.with(other);
    return new DirectoryDecider(changed, new DirectoryGrants(changed, roles));
  }

  @Override
  protected AccessSystem without(int grant) {
    return without(List.of(grant));
  }

  @Override
  protected AccessSystem without(List<Integer> taken) {
    return new DirectorySystem(definition(), facts.with(grants.without(taken)), counting, roles);
  }
}
