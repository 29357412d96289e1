package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.EntryWords;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.delegation.TreePatch;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Counting;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Redefinition;
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
  public Optional<String> entryText(int grant) {
    int entry = grants.entry(grant);
    int object = facts.tree().objectOfEntry(grant);
    boolean stands =
        entry >= 0
            && facts.tree().descriptor(object).isPresent()
            && HandedDown.stands(facts.tree(), object, entry);
    return facts
        .tree()
        .descriptor(object)
        .filter(list -> stands)
        .map(list -> Sddl.text(list.entries().get(entry)));
  }

  @Override
  public List<ListWish.Edit> entryFor(int grant, int subject) {
    int object = facts.tree().objectOfEntry(grant);
    return entryText(grant)
        .flatMap(text -> facts.tree().descriptor(object))
        .map(list -> list.entries().get(grants.entry(grant)))
        .map(ace -> Sddl.text(ace.with(ace.flags(), ace.mask(), sid(subject))))
        .map(text -> List.of(new ListWish.Edit(object, text, true)))
        .orElse(List.of());
  }

  @Override
  public String entryWords(String text) {
    try {
      Ace ace = Sddl.readEntry(text, Optional.empty());
      return new EntryWords(facts.tree().names()).of(ace) + " for " + name(ace.trustee());
    } catch (MalformedException e) {
      return text;
    }
  }

  private String name(String sid) {
    return facts
        .trees()
        .subject(sid)
        .map(facts.trees().facts()::title)
        .orElseGet(() -> WellKnown.name(sid).orElse(sid));
  }

  @Override
  public OptionalInt entryOf(int resource, String text) {
    List<Ace> entries =
        facts.tree().descriptor(resource).map(Descriptor::entries).orElse(List.of());
    for (int i = 0; i < entries.size(); i++) {
      if (!entries.get(i).isInherited() && Sddl.text(entries.get(i)).equals(text)) {
        return OptionalInt.of(grants.grant(resource, i));
      }
    }
    return OptionalInt.empty();
  }

  @Override
  public AccessSystem redefined(Redefinition how) {
    return how.byKind(
        super::redefined, super::redefined, super::redefined, this::giving, super::redefined);
  }

  /** The same with one more entry, for a trustee that is there. */
  private AccessSystem giving(Redefinition.ListItem more) {
    Ace ace = entry(more.text());
    if (facts.trees().subject(ace.trustee()).isEmpty() && WellKnown.name(ace.trustee()).isEmpty()) {
      throw new IllegalArgumentException("nobody in " + name() + " has the SID " + ace.trustee());
    }
    DirectoryTree changed = TreePatch.withMore(facts.tree(), more.resource(), ace);
    return new DirectorySystem(
        definition(),
        DirectoryFacts.of(changed, facts.trees(), (ActionRights) facts.rights()),
        counting,
        new EntryRoles(changed, facts.rights().words()));
  }

  @Override
  public List<ListWish.Edit> giving(ListWish wish) {
    List<AdminAction> actions =
        wish.rights().stream().map(((ActionRights) facts.rights())::action).toList();
    return new WishedEntries(facts.tree(), sid(wish.subject()))
        .of(actions, wish.resource(), wish.below());
  }

  /** All entries there that give a part of what is to go, and are written there. */
  @Override
  public List<ListWish.Edit> taking(ListWish wish) {
    String sid = sid(wish.subject());
    List<AdminAction> actions =
        wish.rights().stream().map(((ActionRights) facts.rights())::action).toList();
    List<ListWish.Edit> edits = new ArrayList<>();
    String above = "";
    for (Ace ace :
        facts.tree().descriptor(wish.resource()).map(Descriptor::entries).orElse(List.of())) {
      boolean gives =
          ace.allows() && ace.trustee().equals(sid) && facts.gives(ace, actions, wish.resource());
      if (gives && !ace.isInherited()) {
        edits.add(new ListWish.Edit(wish.resource(), Sddl.text(ace), false));
      } else if (gives) {
        above = ", but one further up does";
      }
    }
    if (edits.isEmpty()) {
      throw new IllegalArgumentException(
          "no entry at " + facts.tree().dn(wish.resource()) + " itself gives it" + above);
    }
    return edits;
  }

  private String sid(int subject) {
    Facts all = facts.trees().facts();
    String sid =
        all.kind(subject) != SubjectKind.IMPLICIT
            ? facts.trees().sid(subject)
            : subject == all.implicit(Implicit.SIGNED_IN)
                ? WellKnown.AUTHENTICATED
                : WellKnown.EVERYONE;
    if (sid.isEmpty() || all.kind(subject) == SubjectKind.UNIT) {
      throw new IllegalArgumentException(
          all.title(subject)
              + " has no SID, so no list of "
              + facts.tree().directory()
              + " can name it");
    }
    return sid;
  }

  private static Ace entry(String text) {
    try {
      Ace ace = Sddl.readEntry(text, Optional.empty());
      if (ace.isInherited()) {
        throw new IllegalArgumentException(
            "the entry " + text + " says that it is inherited: add it where it comes from");
      }
      return ace;
    } catch (MalformedException e) {
      throw new IllegalArgumentException(
          Problem.quote(text) + " is no entry: " + e.getMessage() + "; expected " + e.expected(),
          e);
    }
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
