package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Setting;
import org.sobercompass.core.system.WrittenRole;
import org.sobercompass.sources.FileSettings;
import org.sobercompass.sources.text.EditedFile;
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
  private final WrittenFiles files;
  private final Map<List<String>, List<Integer>> taken = new HashMap<>();
  private final Map<List<String>, Integer> appended = new HashMap<>();

  MappingFiles(Workspace workspace, AccessModel model) {
    this.workspace = workspace;
    this.model = model;
    this.facts = model.facts();
    this.files = new WrittenFiles(workspace.root());
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
    return files.changes();
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
    MappingRows rows = new MappingRows(workspace, model, files, problems);
    MappingRows.Why why = new MappingRows.Why(by, reason);
    Map<Change, Change.AssignmentRemoved> moved = rows.moved(bound.changes());
    Set<Change> staying = new HashSet<>(moved.values());
    for (Bound.Made made : bound.made()) {
      files.of(made.step());
      if (staying.contains(made.change())) {
        // The row stays, and is changed where it stands.
        files.table(rows.row((Change.AssignmentRemoved) made.change()).place().file());
        continue;
      }
      made.change()
          .<Boolean>fold(
              this::membership,
              own ->
                  own.byKind(
                      added -> {
                        Change.AssignmentRemoved was = moved.get(added);
                        return was == null ? rows.add(added, why) : rows.change(added, was, why);
                      },
                      rows::take,
                      redefined -> redefine(model.view(redefined.system()), redefined.how(), rows)),
              this::self);
    }
    problems.throwIfErrors();
    if (!proposal.settings().isEmpty()) {
      readable();
    }
    return files.all();
  }

  /** Rules and expectations may name what a setting takes away. */
  private void readable() {
    Map<String, String> texts = new HashMap<>();
    files.all().forEach(file -> texts.put(file.name(), file.text()));
    workspace.readsWith(texts);
  }

  /** The numbers of the steps that changed a file. */
  Set<Integer> steps(EditedFile file) {
    return files.steps(file);
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

  private Boolean redefine(SystemView view, Redefinition how, MappingRows rows) {
    return how.byKind(
        line -> line((AdminRoles) view.system(), line),
        register -> rows.register(view, register),
        role -> role(view, role),
        item -> {
          problems.error(
              Place.of(view.id()),
              "the entries of " + view.system().name() + " are only read here",
              "an amendment of it, which sober amend makes");
          return false;
        },
        written -> setting(view, written.setting()));
  }

  /** A line of a scope stands in the file of the scopes. */
  private Boolean line(AdminRoles roles, Redefinition.ScopeLine line) {
    AdminScope scope = roles.defined().get(line.scope());
    String file = scope.place().file();
    List<String> path = List.of("scopes", scope.id(), line.excepted() ? "except" : "include");
    files.changed(file);
    if (line.added()) {
      Map<String, String> item = new LinkedHashMap<>();
      item.put(facts.key(line.subject()).kind().word(), MappingRows.name(facts, line.subject()));
      if (!line.groups().isEmpty()) {
        item.put("groups", line.groups());
      }
      files.yaml(file).append(path, item);
      appended.merge(path, 1, Integer::sum);
      return true;
    }
    ScopeItem there = scope.line(line.excepted(), line.subject()).orElseThrow();
    List<ScopeItem> all = line.excepted() ? scope.except() : scope.include();
    // Earlier steps of the proposal may have taken lines out above this one, or added some.
    List<Integer> gone = taken.computeIfAbsent(path, p -> new ArrayList<>());
    int at = all.indexOf(there);
    if (all.size() - gone.size() + appended.getOrDefault(path, 0) == 1) {
      files.yaml(file).clear(path);
    } else {
      files.yaml(file).remove(path, at - (int) gone.stream().filter(before -> before < at).count());
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
    files.changed(file);
    if (how.words().isEmpty()) {
      files.yaml(file).clear(path);
    } else {
      files.yaml(file).set(path, how.words());
    }
    return true;
  }

  /** A setting stands in the file that defines its system. */
  private Boolean setting(SystemView view, Setting setting) {
    String file = view.system().settings().orElseThrow().file();
    files.changed(file);
    FileSettings.write(files.yaml(file), setting);
    return true;
  }
}
