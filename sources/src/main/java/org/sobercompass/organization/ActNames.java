package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.delegation.CatalogueReader;
import org.sobercompass.sources.directory.DnForm;

/** Finds admin actions, objects and admin scopes by the names that people use. */
public final class ActNames {
  private final Powers powers;
  private final Facts facts;

  ActNames(Powers powers) {
    this.powers = powers;
    this.facts = powers.model().facts();
  }

  private Administration administration() {
    return powers.roles().administration();
  }

  /** An admin action of the catalogue, or a single right like {@code write=telephoneNumber}. */
  public AdminAction action(String id) {
    Optional<Requirement> single = CatalogueReader.single(id);
    if (single.isPresent()) {
      known(id, single.get());
      return new AdminAction(id, id.replace('=', ' '), List.of(), single.get(), 0);
    }
    List<String> ids = administration().actions().stream().map(AdminAction::id).toList();
    return administration()
        .action(id.toLowerCase(Locale.ROOT))
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no admin action "
                        + Problem.quote(id)
                        + Spelling.hint(id, ids)
                        + "\nthere are: "
                        + String.join(", ", ids)
                        + ", or a single right like write=mail, right=Send-As, create=user"));
  }

  /** Whether the directories know what a single right names; a misspelt one is told. */
  private void known(String text, Requirement need) {
    List<DsNames> all = powers.trees().all().stream().map(DirectoryTree::names).toList();
    boolean right = need instanceof Requirement.Control;
    boolean attribute = need instanceof Requirement.Attribute;
    String name =
        need instanceof Requirement.Control c
            ? c.name()
            : need instanceof Requirement.Attribute a
                ? a.name()
                : need instanceof Requirement.Child child ? child.objectClass() : "";
    boolean found =
        name.isEmpty()
            || all.stream()
                .anyMatch(
                    names ->
                        right
                            ? names.right(name).isPresent()
                            : attribute
                                ? names.attribute(name).isPresent()
                                : names.objectClass(name).isPresent());
    if (found || all.isEmpty() || !all.stream().allMatch(DsNames::isWhole)) {
      return;
    }
    List<String> known = all.stream().flatMap(names -> names(names, need).stream()).toList();
    throw new UnknownNameException(
        "there is no "
            + (right ? "extended right" : attribute ? "attribute" : "class")
            + " "
            + Problem.quote(name)
            + " in "
            + Problem.quote(text)
            + Spelling.hint(name, known));
  }

  /** What there is of the kind that is asked for. */
  private static List<String> names(DsNames names, Requirement need) {
    return need instanceof Requirement.Control
        ? names.rights().stream().map(right -> right.name()).toList()
        : need instanceof Requirement.Attribute
            ? names.attributes().stream().map(attribute -> attribute.name()).toList()
            : names.classes().stream().map(kind -> kind.name()).toList();
  }

  /** The admin scope with an id. */
  public int scope(String id) {
    List<String> ids = administration().scopes().stream().map(AdminScope::id).toList();
    return administration()
        .scope(id)
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no admin scope "
                        + Problem.quote(id)
                        + (ids.isEmpty() ? "" : "\nthere are: " + String.join(", ", ids))));
  }

  /**
   * An object by a name of its account, group or unit, its DN, or what it is called in its tree.
   */
  public Powers.Thing thing(String name) {
    return one(name, find(name));
  }

  private List<Powers.Thing> find(String name) {
    List<Powers.Thing> found = new ArrayList<>();
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP, SubjectKind.UNIT)) {
      for (int subject : NameResolver.find(facts, kind, name)) {
        found.add(powers.thing(subject));
      }
    }
    if (found.isEmpty()) {
      found.addAll(inTrees(name));
    }
    return found;
  }

  private Powers.Thing one(String name, List<Powers.Thing> found) {
    if (found.size() == 1) {
      return found.get(0);
    }
    throw new UnknownNameException(
        found.isEmpty()
            ? "there is no object " + Problem.quote(name) + near(name)
            : Problem.quote(name)
                + " fits "
                + found.size()
                + " objects; name one by its DN:\n"
                + list(found));
  }

  private String near(String name) {
    List<String> known = new ArrayList<>();
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP, SubjectKind.UNIT)) {
      facts.names().known(kind).forEach(known::add);
    }
    return Spelling.hint(name, known);
  }

  private String list(List<Powers.Thing> found) {
    return String.join(
        "\n",
        found.stream()
            .limit(8)
            .map(
                t ->
                    "  "
                        + (t.subject() >= 0
                            ? facts.dn(t.subject())
                            : t.spot().map(s -> s.tree().dn(s.object())).orElse("")))
            .toList());
  }

  private List<Powers.Thing> inTrees(String name) {
    String form = DnForm.of(name);
    List<Powers.Thing> found = new ArrayList<>();
    for (DirectoryTree tree : powers.trees().all()) {
      for (int object = 0; object < tree.size(); object++) {
        if (tree.label(object).equalsIgnoreCase(name) || tree.dnForm(object).equals(form)) {
          found.add(new Powers.Thing(-1, Optional.of(new DirectoryTrees.Spot(tree, object))));
        }
      }
    }
    return found;
  }

  /** The same, where a directory with lists is asked for. */
  public DirectoryTrees.Spot spot(String name) {
    List<Powers.Thing> found = find(name);
    List<Powers.Thing> there = found.stream().filter(t -> t.spot().isPresent()).toList();
    return one(name, there.isEmpty() ? found : there)
        .spot()
        .orElseThrow(
            () ->
                new UnknownNameException(
                    Problem.quote(name)
                        + " is in a directory whose access rules were not read; reading them"
                        + " comes later"));
  }
}
