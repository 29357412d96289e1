package org.sobercompass.organization;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TableText;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Writes proposals into the tables of assignments of a workspace: a row for what is given, none any
 * more for what is withdrawn; all else in the tables stays byte for byte. Not thread-safe.
 */
public final class MappingFiles {
  private final Workspace workspace;
  private final AccessModel model;
  private final Facts facts;
  private final Problems problems = new Problems();
  private final Map<String, TableText> tables = new LinkedHashMap<>();
  private final Map<String, Integer> lines = new LinkedHashMap<>();

  MappingFiles(Workspace workspace, AccessModel model) {
    this.workspace = workspace;
    this.model = model;
    this.facts = model.facts();
  }

  /**
   * Writes what changes something; several files one after the other, after all were looked at.
   *
   * @param by who gives it, for the column {@code granted by}, or empty
   * @param reason why, for the column {@code reason}, or empty
   * @return how many rows were added or taken out, by file
   * @throws org.sobercompass.core.problem.BadInputException when a step cannot be written here;
   *     nothing is written then
   */
  Map<String, Integer> write(Proposal proposal, String by, String reason) {
    Bound bound = proposal.on(model);
    for (Bound.Note note : bound.notes()) {
      if (note.isWrong()) {
        problems.error(
            Place.of("step " + (note.step() + 1)), note.what(), "a step that can be made");
      }
    }
    for (Change change : bound.changes()) {
      change.<Boolean>fold(
          this::membership,
          own ->
              own.byKind(
                  added -> add(added, by, reason), taken -> take(taken.system(), taken.grant())));
    }
    problems.throwIfErrors();
    tables.values().forEach(TableText::unchanged);
    tables.values().forEach(TableText::write);
    return Map.copyOf(lines);
  }

  private Boolean membership(Change.OfMembership moved) {
    String directory = facts.source(moved.group());
    problems.error(
        Place.of(directory),
        "memberships of " + directory + " are only read here: " + facts.label(moved.group()),
        "the change made in the directory itself, then a new export or survey");
    return false;
  }

  private Boolean add(Change.AssignmentAdded added, String by, String reason) {
    SystemView view = model.systems().get(added.system());
    Optional<String> file = table(view);
    if (file.isEmpty()) {
      return false;
    }
    TableText table = open(file.get());
    Map<String, String> row = new HashMap<>();
    Key key = facts.key(added.subject());
    row.put("role", view.system().roles().get(added.role()).id());
    row.put("kind", key.kind().word());
    row.put("subject", name(added.subject()));
    boolean named = view.resources().size() > 1 && (added.node() > 0 || table.has("node"));
    row.put("node", named ? view.resources().id(added.node()) : "");
    row.put("descendants", added.descends() ? table.has("descendants") ? "yes" : "" : "no");
    row.put("on", table.has("on") ? "yes" : "");
    row.put("from", added.from().map(at -> Words.day(at, workspace.zone(), false)).orElse(""));
    row.put("until", added.until().map(at -> Words.day(at, workspace.zone(), true)).orElse(""));
    row.put("granted by", by);
    row.put("reason", reason);
    table.append(row, problems);
    lines.merge(file.get(), 1, Integer::sum);
    return true;
  }

  /** The first table that the application's file names for the assignments that are used. */
  private Optional<String> table(SystemView view) {
    Basis basis = view.basis();
    for (String file : view.system().files()) {
      Optional<Node> read = YamlReader.read(workspace.root().resolve(file), file, problems);
      Optional<String> table =
          read.flatMap(node -> node.get("assignments"))
              .flatMap(node -> node.texts(basis.word()).stream().findFirst());
      if (table.isPresent()) {
        return table;
      }
    }
    problems.error(
        Place.of(view.id()),
        view.system().name() + " names no table of " + basis.word() + " assignments",
        "assignments: " + basis.word() + ": and a CSV file, in the application's file");
    return Optional.empty();
  }

  private TableText open(String file) {
    return tables.computeIfAbsent(file, f -> TableText.read(workspace.root().resolve(f), f));
  }

  private Boolean take(int system, int number) {
    SystemView view = model.systems().get(system);
    Grant grant = view.grants().get(number);
    if (view.system().isOfLists()) {
      problems.error(
          grant.place(),
          "the entries of " + view.system().name() + " are only read here",
          "the change made there, then a new collection");
      return false;
    }
    String file = grant.place().file();
    Map<String, String> expected =
        Map.of(
            "role", view.system().roles().get(grant.role()).id(), "subject", grant.subjectText());
    boolean taken = open(file).remove(grant.place().line(), expected);
    if (!taken) {
      problems.error(
          grant.place(),
          "the row does not say any more what was read",
          "the same command again, on what stands there now");
    }
    lines.merge(file, 1, Integer::sum);
    return taken;
  }

  /** A name that fits this subject only: what people call it, else its id. */
  private String name(int subject) {
    SubjectKind kind = facts.kind(subject);
    if (kind == SubjectKind.IMPLICIT) {
      return facts.key(subject).id();
    }
    for (String name : List.of(facts.login(subject), facts.label(subject), facts.dn(subject))) {
      List<Integer> found = name.isEmpty() ? List.of() : NameResolver.find(facts, kind, name);
      if (found.size() == 1 && found.get(0) == subject) {
        return name;
      }
    }
    return facts.key(subject).id();
  }
}
