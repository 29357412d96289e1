package org.sobercompass.sources.workspace;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.crosswalk.Crosswalk;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.expect.Expectation;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.Waiver;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.sources.crosswalk.CrosswalkSettings;
import org.sobercompass.sources.delegation.DelegatedSystems;
import org.sobercompass.sources.delegation.TreeReader;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.survey.SurveyFile;

/**
 * A workspace that was read whole: the door for programs. Immutable and thread-safe.
 *
 * <pre>{@code
 * Workspace workspace = Workspace.open(Path.of("demo"));
 * AccessModel model = workspace.model();
 * }</pre>
 *
 * @param origin from what it was read
 * @param zone in which dates are whole days
 * @param facts the directories
 * @param systems the applications
 * @param rules by what is judged
 * @param persons which accounts are one person's
 * @param crosswalks which directories are matched
 * @param crosswalkTables what was decided of who is who, for each of these
 * @param administration admin scopes and roles
 * @param directories where the entries of each directory stand
 * @param trees where directories with access control lists of their own stand
 * @param owned who answers for applications and scopes
 * @param readers the accounts that read directories
 * @param accepted a survey by which the directories' lists were accepted, if there is one
 * @param local the directories of accounts that an application or a host keeps itself
 * @param waivers which findings are accepted
 * @param expectations what can and cannot be
 * @param problems what is wrong, but not so wrong that no answer can be given
 */
public record Workspace(
    Origin origin,
    ZoneId zone,
    Facts facts,
    List<AccessSystem> systems,
    FindingRules rules,
    Persons persons,
    List<CrosswalkSettings> crosswalks,
    List<Crosswalk> crosswalkTables,
    Administration administration,
    List<DirectoryFile> directories,
    List<TreeFile> trees,
    Assessment.Owned owned,
    List<Assessment.ReadingAccount> readers,
    Optional<Path> accepted,
    Set<String> local,
    List<Waiver> waivers,
    List<Expectation> expectations,
    List<Problem> problems) {

  /**
   * Reads a workspace.
   *
   * @param root the folder with compass.yaml
   * @throws org.sobercompass.core.problem.BadInputException with all problems, when there are any
   *     that stop the work
   */
  public static Workspace open(Path root) {
    return open(root, Set.of());
  }

  /** The same, keeping these attributes (lower case) of all entries besides. */
  public static Workspace open(Path root, Set<String> attributes) {
    return new Origin(Folder.of(root), attributes, Optional.empty(), List.of()).read();
  }

  /**
   * Reads a workspace as it was when a survey was taken: its directories and its mapping.
   *
   * @param survey the survey's file
   * @throws org.sobercompass.core.problem.BadInputException when it is damaged, or a part only
   */
  public static Workspace ofSurvey(Path survey, Set<String> attributes) {
    SurveyFile file = Surveys.open(survey);
    if (!file.hasWorkspace()) {
      throw new BadInputException(
          Problem.error(
              Place.of(survey.toString()),
              "this is a part of a survey, without a mapping",
              "a whole survey; `sober survey --join` takes a part into one"));
    }
    Folder mapping = new Folder(file.workspace(), true);
    return new Origin(mapping, attributes, Optional.of(file), List.of()).read();
  }

  /**
   * From what a workspace was read.
   *
   * @param folder where the mapping stands
   * @param attributes further attributes (lower case) that are kept
   * @param survey the survey it was read from; else the folder's own sources
   * @param expected what is to be created, and was read as if it were there
   */
  public record Origin(
      Folder folder,
      Set<String> attributes,
      Optional<SurveyFile> survey,
      List<Step.Presence> expected) {
    /** Copies. */
    public Origin {
      attributes = Set.copyOf(attributes);
      expected = List.copyOf(expected);
    }

    Workspace read() {
      return new WorkspaceReader(this).read();
    }
  }

  /** The folder. */
  public Path root() {
    return origin.folder().path();
  }

  /**
   * The same workspace, read again with accounts and groups that are to be created: they have
   * numbers and memberships by rules, and are absent until a change lets them be there.
   *
   * @param attributes further attributes (lower case) that are kept
   * @throws org.sobercompass.core.problem.BadInputException when one cannot be read
   */
  public Workspace expecting(List<Step.Presence> created, Set<String> attributes) {
    List<Step.Presence> all = new ArrayList<>(origin.expected());
    all.addAll(created);
    Set<String> kept = new TreeSet<>(origin.attributes());
    kept.addAll(attributes);
    return new Origin(origin.folder(), kept, origin.survey(), all).read();
  }

  /**
   * Whether it could still be read if some of its files said something else; nothing is written.
   *
   * @param texts what they would say, by name
   * @throws org.sobercompass.core.problem.BadInputException when it could not, with why
   */
  public void readsWith(Map<String, String> texts) {
    Path scratch = OwnFiles.scratch("edited");
    Map<String, Path> instead = new HashMap<>();
    texts.forEach(
        (name, text) -> {
          Path file = scratch.resolve(instead.size() + ".txt");
          OwnFiles.write(file, text);
          instead.put(name, file);
        });
    Folder edited = new Folder(root(), origin.folder().closed(), instead);
    try {
      new Origin(edited, origin.attributes(), origin.survey(), origin.expected()).read();
    } finally {
      OwnFiles.discard(scratch);
    }
  }

  /**
   * Reads the objects of all directories that have access control lists of their own. Slow: it goes
   * through their entries again.
   *
   * @param told takes lists that cannot be read
   */
  public List<DirectoryTree> readTrees(Problems told) {
    List<DirectoryTree> all = new ArrayList<>();
    for (TreeFile file : trees) {
      TreeReader reader = new TreeReader(file.directory(), file.shown(), told);
      if (file.implicitEverywhere()) {
        reader.implicitEverywhere();
      }
      file.names().forEach(reader::names);
      all.add(reader.read(file.path()));
    }
    return List.copyOf(all);
  }

  /**
   * Who can administer what, by admin roles and by the lists of directories, which are read now.
   *
   * @param told takes lists that cannot be read
   */
  public Powers powers(AccessModel model, Problems told) {
    return DelegatedSystems.powers(model, administration, readTrees(told));
  }

  /**
   * What findings are made of: a model of this workspace, its rules, persons, admin roles, and the
   * lists of directories, which are read now.
   */
  public Assessment assessment(AccessModel model) {
    return assessment(model, new Problems());
  }

  /**
   * The same.
   *
   * @param told takes lists that cannot be read
   */
  public Assessment assessment(AccessModel model, Problems told) {
    return assessment(powers(model, told));
  }

  /** The same over a model of which it was read who can administer what. */
  public Assessment assessment(Powers powers) {
    List<DirectoryTree> before =
        accepted
            .map(survey -> ofSurvey(survey, Set.of()).readTrees(new Problems()))
            .orElse(List.of());
    return new Assessment(powers.model(), rules, persons, powers, owned, readers, before, local);
  }

  /** When the directories were exported, if all say so: the latest. */
  public Optional<Instant> taken() {
    long latest = Long.MIN_VALUE;
    for (long taken : facts.arrays().taken()) {
      if (taken == Facts.NEVER) {
        return Optional.empty();
      }
      latest = Math.max(latest, taken);
    }
    return latest == Long.MIN_VALUE ? Optional.empty() : Optional.of(Instant.ofEpochSecond(latest));
  }

  /** When answers are given as of, unless asked otherwise: the export, else now. */
  public Instant usualTime() {
    return taken().orElseGet(() -> Clock.systemUTC().instant());
  }

  /** The model as of the export, else now, on each application's usual basis. */
  public AccessModel model() {
    return model(usualTime(), Optional.empty());
  }

  /** The model at a point in time, on a basis or, without one, each application's usual one. */
  public AccessModel model(Instant asOf, Optional<Basis> basis) {
    return AccessModel.of(facts, systems, asOf, basis);
  }
}
