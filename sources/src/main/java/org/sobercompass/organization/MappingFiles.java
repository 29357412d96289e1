package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
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
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.WrittenRole;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.text.EditedFile;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TableText;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.text.YamlText;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Writes proposals into the workspace's own files: its tables of assignments and registers, its
 * admin scopes, and the roles of its applications. All else in the files stays byte for byte. Not
 * thread-safe.
 */
public final class MappingFiles {
  private final Workspace workspace;
  private final AccessModel model;
  private final Facts facts;
  private final Problems problems = new Problems();
  private final Map<String, EditedFile> files = new LinkedHashMap<>();
  private final Map<String, Set<Integer>> steps = new HashMap<>();
  private final Map<String, Integer> lines = new LinkedHashMap<>();
  private final Map<List<String>, List<Integer>> taken = new HashMap<>();
  private final Map<List<String>, Integer> appended = new HashMap<>();
  private int step;

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
    Collection<EditedFile> edited = edited(proposal, by, reason);
    edited.forEach(EditedFile::unchanged);
    edited.forEach(EditedFile::write);
    return Map.copyOf(lines);
  }

  /** The files as they would be written; nothing is written. Otherwise as {@link #write}. */
  Collection<EditedFile> edited(Proposal proposal, String by, String reason) {
    Bound bound = proposal.on(model);
    for (Bound.Note note : bound.notes()) {
      if (note.isWrong()) {
        problems.error(
            Place.of("step " + (note.step() + 1)), note.what(), "a step that can be made");
      }
    }
    for (Bound.Made made : bound.made()) {
      step = made.step();
      made.change()
          .<Boolean>fold(
              this::membership,
              own ->
                  own.byKind(
                      added -> add(added, by, reason),
                      taken -> take(taken.system(), taken.grant()),
                      redefined -> redefine(model.view(redefined.system()), redefined.how())),
              this::self);
    }
    problems.throwIfErrors();
    return List.copyOf(files.values());
  }

  /** The numbers of the steps that changed a file. */
  Set<Integer> steps(EditedFile file) {
    return steps.getOrDefault(file.name(), Set.of());
  }

  private Boolean membership(Change.OfMembership moved) {
    String directory = facts.source(moved.group());
    problems.error(
        Place.of(directory),
        "memberships of " + directory + " are only read here: " + facts.label(moved.group()),
        "an amendment, which sober amend makes, or the change made there by hand");
    return false;
  }

  private Boolean self(Change.OfSubject changed) {
    String directory = facts.source(changed.subject());
    String kind = facts.kind(changed.subject()).words();
    problems.error(
        Place.of(directory),
        kind + "s of " + directory + " are only read here: " + facts.label(changed.subject()),
        "an amendment, which sober amend makes, or the change made there by hand");
    return false;
  }

  private Boolean redefine(SystemView view, Redefinition how) {
    return how.byKind(
        line -> line((AdminRoles) view.system(), line),
        register -> register(view, register),
        role -> role(view, role),
        item -> {
          problems.error(
              Place.of(view.id()),
              "the entries of " + view.system().name() + " are only read here",
              "an amendment of it, which sober amend makes");
          return false;
        });
  }

  /** A line of a scope stands in the file of the scopes. */
  private Boolean line(AdminRoles roles, Redefinition.ScopeLine line) {
    AdminScope scope = roles.defined().get(line.scope());
    String file = scope.place().file();
    List<String> path = List.of("scopes", scope.id(), line.excepted() ? "except" : "include");
    lines.merge(file, 1, Integer::sum);
    if (line.added()) {
      Map<String, String> item = new LinkedHashMap<>();
      item.put(facts.key(line.subject()).kind().word(), name(line.subject()));
      if (!line.groups().isEmpty()) {
        item.put("groups", line.groups());
      }
      yaml(file).append(path, item);
      appended.merge(path, 1, Integer::sum);
      return true;
    }
    ScopeItem there = scope.line(line.excepted(), line.subject()).orElseThrow();
    List<ScopeItem> all = line.excepted() ? scope.except() : scope.include();
    // Earlier steps of the proposal may have taken lines out above this one, or added some.
    List<Integer> gone = taken.computeIfAbsent(path, p -> new ArrayList<>());
    int at = all.indexOf(there);
    if (all.size() - gone.size() + appended.getOrDefault(path, 0) == 1) {
      yaml(file).clear(path);
    } else {
      yaml(file).remove(path, at - (int) gone.stream().filter(before -> before < at).count());
    }
    gone.add(at);
    return true;
  }

  /** What a role allows in an area, or includes, stands in the file of its application. */
  private Boolean role(SystemView view, Redefinition.RoleText how) {
    WrittenRole role = view.system().written().get(how.role());
    String file = role.place().file();
    List<String> path =
        how.area().isEmpty()
            ? List.of("roles", role.id(), "includes")
            : List.of("roles", role.id(), "allows", how.area());
    lines.merge(file, 1, Integer::sum);
    if (how.words().isEmpty()) {
      yaml(file).clear(path);
    } else {
      yaml(file).set(path, how.words());
    }
    return true;
  }

  private Boolean register(SystemView view, Redefinition.RegisterLine how) {
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
    TableText table = table(file.get());
    Map<String, String> row = new HashMap<>();
    row.put("kind", facts.key(line.subject()).kind().word());
    row.put("subject", name(line.subject()));
    row.put(
        "provider",
        line.provider().equals("directory") && !table.has("provider") ? "" : line.provider());
    row.put("active", line.active() ? table.has("active") ? "yes" : "" : "no");
    row.put("second factor", line.secondFactor() ? "yes" : table.has("second factor") ? "no" : "");
    row.put("place", line.at());
    table.append(row, problems);
    lines.merge(file.get(), 1, Integer::sum);
    return true;
  }

  private Boolean add(Change.AssignmentAdded added, String by, String reason) {
    SystemView view = model.view(added.system());
    Optional<String> file = assignments(view);
    if (file.isEmpty()) {
      return false;
    }
    TableText table = table(file.get());
    Map<String, String> row = new HashMap<>();
    Key key = facts.key(added.subject());
    row.put("role", view.system().roles().get(added.role()).id());
    row.put("kind", key.kind().word());
    row.put("subject", name(added.subject()));
    if (view.system() instanceof AdminRoles roles) {
      row.put("scope", added.node() < 0 ? "everything" : roles.defined().get(added.node()).id());
    } else {
      boolean named = view.resources().size() > 1 && (added.node() > 0 || table.has("node"));
      row.put("node", named ? view.resources().id(added.node()) : "");
      row.put("descendants", added.descends() ? table.has("descendants") ? "yes" : "" : "no");
    }
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
        file.flatMap(f -> YamlReader.read(workspace.root().resolve(f), f, problems))
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
        .flatMap(f -> YamlReader.read(workspace.root().resolve(f), f, problems).stream())
        .flatMap(node -> what.apply(node).stream())
        .findFirst();
  }

  private TableText table(String file) {
    steps.computeIfAbsent(file, f -> new TreeSet<>()).add(step);
    return (TableText)
        files.computeIfAbsent(file, f -> new TableText(workspace.root().resolve(f), f));
  }

  private YamlText yaml(String file) {
    steps.computeIfAbsent(file, f -> new TreeSet<>()).add(step);
    return (YamlText)
        files.computeIfAbsent(file, f -> new YamlText(workspace.root().resolve(f), f));
  }

  private Boolean take(int system, int number) {
    SystemView view = model.view(system);
    Grant grant = view.grants().get(number);
    if (view.system().isOfLists()) {
      problems.error(
          grant.place(),
          "the entries of " + view.system().name() + " are only read here",
          "the change made there, then a new collection");
      return false;
    }
    return take(
        grant.place(),
        Map.of(
            "role", view.system().roles().get(grant.role()).id(), "subject", grant.subjectText()));
  }

  /** Takes out the row at a place, if it still says what is expected. */
  private Boolean take(Place place, Map<String, String> expected) {
    boolean taken = table(place.file()).remove(place.line(), expected);
    if (!taken) {
      problems.error(
          place,
          "the row does not say any more what was read",
          "the same command again, on what stands there now");
    }
    lines.merge(place.file(), 1, Integer::sum);
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
