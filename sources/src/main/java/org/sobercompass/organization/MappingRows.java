package org.sobercompass.organization;

import java.nio.file.Path;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TableText;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.workspace.Workspace;

/** The rows of tables of assignments and registers that a proposal adds, changes and takes out. */
final class MappingRows {
  private final Path root;
  private final ZoneId zone;
  private final AccessModel model;
  private final Facts facts;
  private final WrittenFiles files;
  private final Problems problems;

  MappingRows(Workspace workspace, AccessModel model, WrittenFiles files, Problems problems) {
    this.root = workspace.root();
    this.zone = workspace.zone();
    this.model = model;
    this.facts = model.facts();
    this.files = files;
    this.problems = problems;
  }

  /**
   * What a table says of who gives something.
   *
   * @param by who, or empty
   * @param reason why, or empty
   */
  record Why(String by, String reason) {}

  Boolean register(SystemView view, Redefinition.RegisterLine how) {
    Enrolment line = how.line();
    if (!how.added()) {
      Map<String, String> expected = Map.of("subject", line.subjectText());
      return take(line.place(), expected);
    }
    Optional<String> file = named(view, node -> node.text("register"));
    if (file.isEmpty()) {
      problems.error(
          Place.of(view.id()),
          view.system().name() + " names no register",
          "register: and a CSV file, in the application's file");
      return false;
    }
    TableText table = files.table(file.get());
    Map<String, String> row = new HashMap<>();
    row.put("kind", facts.key(line.subject()).kind().word());
    row.put("subject", name(facts, line.subject()));
    row.put(
        "provider",
        line.provider().equals("directory") && !table.has("provider") ? "" : line.provider());
    row.put("active", line.active() ? table.has("active") ? "yes" : "" : "no");
    row.put("second factor", line.secondFactor() ? "yes" : table.has("second factor") ? "no" : "");
    row.put("place", line.at());
    table.append(row, problems);
    files.changed(file.get());
    return true;
  }

  Grant row(Change.AssignmentRemoved taken) {
    return model.view(taken.system()).grants().get(taken.grant());
  }

  /** What is given in place of the same at another time, or switched otherwise. */
  Map<Change, Change.AssignmentRemoved> moved(List<Change> changes) {
    Map<List<Object>, Change.AssignmentRemoved> taken = new HashMap<>();
    Map<Change, Change.AssignmentRemoved> moved = new HashMap<>();
    for (Change change : changes) {
      if (change instanceof Change.AssignmentRemoved gone
          && !model.view(gone.system()).system().isOfLists()) {
        Grant row = row(gone);
        int node = scopeOrNode(gone);
        taken.put(List.of(gone.system(), row.role(), row.subject(), node, row.descends()), gone);
      }
    }
    for (Change change : changes) {
      if (change instanceof Change.AssignmentAdded added) {
        Change.AssignmentRemoved gone =
            taken.remove(
                List.<Object>of(
                    added.system(), added.role(), added.subject(), added.node(), added.descends()));
        if (gone != null) {
          moved.put(added, gone);
        }
      }
    }
    return moved;
  }

  private int scopeOrNode(Change.AssignmentRemoved gone) {
    return model.view(gone.system()).system() instanceof AdminRoles roles
        ? roles.given().get(gone.grant()).scope()
        : row(gone).resource();
  }

  /** The row of an assignment that is given at another time, or switched otherwise. */
  Boolean change(Change.AssignmentAdded added, Change.AssignmentRemoved was, Why why) {
    Grant row = row(was);
    TableText table = files.table(row.place().file());
    Map<String, String> values = when(added, table);
    if (!why.by().isEmpty()) {
      values.put("granted by", why.by());
    }
    if (!why.reason().isEmpty()) {
      values.put("reason", why.reason());
    }
    boolean changed = table.change(row.place().line(), expected(was), values, problems);
    files.changed(row.place().file());
    return changed || moved(row.place());
  }

  private boolean moved(Place place) {
    problems.error(
        place,
        "the row does not say any more what was read",
        "the same command again, on what stands there now");
    return false;
  }

  private Map<String, String> when(Change.AssignmentAdded added, TableText table) {
    Map<String, String> values = new HashMap<>();
    values.put("on", added.on() ? table.has("on") ? "yes" : "" : "no");
    values.put("from", added.from().map(at -> Words.day(at, zone, false)).orElse(""));
    values.put("until", added.until().map(at -> Words.day(at, zone, true)).orElse(""));
    return values;
  }

  Boolean add(Change.AssignmentAdded added, Why why) {
    SystemView view = model.view(added.system());
    Optional<String> file = assignments(view);
    if (file.isEmpty()) {
      return false;
    }
    TableText table = files.table(file.get());
    Map<String, String> row = new HashMap<>();
    Key key = facts.key(added.subject());
    row.put("role", view.system().roles().get(added.role()).id());
    row.put("kind", key.kind().word());
    row.put("subject", name(facts, added.subject()));
    if (view.system() instanceof AdminRoles roles) {
      row.put("scope", added.node() < 0 ? "everything" : roles.defined().get(added.node()).id());
    } else {
      boolean named = view.resources().size() > 1 && (added.node() > 0 || table.has("node"));
      row.put("node", named ? view.resources().id(added.node()) : "");
      row.put("descendants", added.descends() ? table.has("descendants") ? "yes" : "" : "no");
    }
    row.putAll(when(added, table));
    row.put("granted by", why.by());
    row.put("reason", why.reason());
    table.append(row, problems);
    files.changed(file.get());
    return true;
  }

  /** The first table that the application's file names for the assignments that are used. */
  private Optional<String> assignments(SystemView view) {
    if (view.system() instanceof AdminRoles roles) {
      return adminTable(roles);
    }
    Basis basis = view.basis();
    Optional<String> table =
        named(
            view,
            node ->
                node.get("assignments")
                    .flatMap(all -> all.texts(basis.word()).stream().findFirst()));
    if (table.isEmpty()) {
      problems.error(
          Place.of(view.id()),
          view.system().name() + " names no table of " + basis.word() + " assignments",
          "assignments: " + basis.word() + ": and a CSV file, in the application's file");
    }
    return table;
  }

  /** The first table that the file of the admin roles names. */
  private Optional<String> adminTable(AdminRoles roles) {
    Optional<String> file = roles.defined().stream().map(scope -> scope.place().file()).findFirst();
    Optional<String> table =
        file.flatMap(f -> YamlReader.read(root.resolve(f), f, problems))
            .flatMap(node -> node.texts("assignments").stream().findFirst());
    if (table.isEmpty()) {
      problems.error(
          Place.of(file.orElse("admin")),
          "there is no table of admin roles",
          "assignments: and a CSV file");
    }
    return table;
  }

  /** What one of the files of an application names. */
  private Optional<String> named(SystemView view, Function<Node, Optional<String>> what) {
    return view.system().files().stream()
        .flatMap(f -> YamlReader.read(root.resolve(f), f, problems).stream())
        .flatMap(node -> what.apply(node).stream())
        .findFirst();
  }

  Boolean take(Change.AssignmentRemoved taken) {
    SystemView view = model.view(taken.system());
    if (view.system().isOfLists()) {
      problems.error(
          row(taken).place(),
          "the entries of " + view.system().name() + " are only read here",
          "the change made there, then a new collection");
      return false;
    }
    return take(row(taken).place(), expected(taken));
  }

  /** What the row of an assignment is expected to say still. */
  private Map<String, String> expected(Change.AssignmentRemoved taken) {
    Grant grant = row(taken);
    SystemView view = model.view(taken.system());
    return Map.of(
        "role", view.system().roles().get(grant.role()).id(), "subject", grant.subjectText());
  }

  /** Takes out the row at a place, if it still says what is expected. */
  private Boolean take(Place place, Map<String, String> expected) {
    boolean taken = files.table(place.file()).remove(place.line(), expected);
    files.changed(place.file());
    return taken || moved(place);
  }

  /** A name that fits this subject only: what people call it, else its id. */
  static String name(Facts facts, int subject) {
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
