package org.sobercompass.organization;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Progress;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Owners;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.readiness.Readiness;
import org.sobercompass.core.readiness.ReadinessCheck;
import org.sobercompass.core.removal.Each;
import org.sobercompass.core.removal.Goal;
import org.sobercompass.core.removal.NotHeld;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.removal.Unpick;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Setting;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.text.Window;
import org.sobercompass.sources.workspace.Workspace;

/**
 * An organization that was read, at a point in time. Whoever and whatever is asked about is named
 * as people name it: an account by login, mail, name, DN or id; a permission as {@code
 * application:area:level}; an admin action by its word, or a single right such as {@code
 * write=mail}. A name that fits nothing is an {@link
 * org.sobercompass.core.problem.UnknownNameException} with the nearest.
 *
 * <pre>{@code
 * Organization trust = Organization.open(Path.of("demo"));
 * Can sign = trust.can("ilse.brandt", "orders:payments:sign", "");
 * List<Finding> findings = trust.findings();
 * }</pre>
 *
 * <p>The access rules of directories are read when they are first asked about. Not thread-safe;
 * what it gives out is, unless it says otherwise.
 */
public final class Organization {
  private final Workspace workspace;
  private final AccessModel model;
  private final Problems told = new Problems();
  private @Nullable Powers powers;
  private @Nullable Assessment assessment;
  private final Expecting expecting = new Expecting(this);

  private final Map<String, List<Setting>> settings;

  /** With the roles and scopes that settings are to create. */
  Organization(Workspace workspace, AccessModel model, Map<String, List<Setting>> settings) {
    this.workspace = workspace;
    this.model = settings.isEmpty() ? model : model.expecting(settings);
    this.settings = settings;
  }

  /**
   * Reads a workspace, as of when it was exported, else now.
   *
   * @throws org.sobercompass.core.problem.BadInputException when it cannot be read
   */
  public static Organization open(Path folder) {
    return of(Workspace.open(folder));
  }

  /** The same from a survey, by the mapping it was taken with. */
  public static Organization ofSurvey(Path survey) {
    return of(Workspace.ofSurvey(survey, Set.of()));
  }

  /** Of a workspace that was read, as of when it was exported, else now. */
  public static Organization of(Workspace workspace) {
    return of(workspace, workspace.usualTime(), Optional.empty());
  }

  /**
   * The same.
   *
   * @param asOf the point in time: it moves windows and expiries, never facts
   * @param basis which assignments are used; empty for the usual ones of each application
   */
  public static Organization of(Workspace workspace, Instant asOf, Optional<Basis> basis) {
    return new Organization(workspace, workspace.model(asOf, basis), Map.of());
  }

  /** The same organization, which tells how far long work is. */
  public Organization telling(Progress progress) {
    return new Organization(workspace, model.telling(progress), settings);
  }

  /**
   * The same organization with what a proposal creates, absent until then; this one where it
   * creates nothing. Numbers of one are not those of the other. It is read again for accounts,
   * groups, and attributes that were not kept.
   *
   * @throws org.sobercompass.core.problem.BadInputException when that cannot be read
   */
  public Organization expecting(Proposal proposal) {
    return expecting.of(proposal);
  }

  /** What was read. */
  public Workspace workspace() {
    return workspace;
  }

  /** The access model, without delegated administration. */
  public AccessModel model() {
    return model;
  }

  /** Who can administer what; reads the directories' lists the first time. */
  public Powers powers() {
    if (powers == null) {
      Powers read = workspace.powers(model, told);
      powers = settings.isEmpty() ? read : read.over(read.model().expecting(settings));
    }
    return powers;
  }

  /** What findings are made of; reads the directories' lists the first time. */
  public Assessment assessment() {
    if (assessment == null) {
      assessment = workspace.assessment(powers());
    }
    return assessment;
  }

  /** What is wrong with the input, but not so wrong that no answer can be given. */
  public List<Problem> problems() {
    List<Problem> all = new ArrayList<>(workspace.problems());
    all.addAll(told.list());
    return List.copyOf(all);
  }

  /** Everything by the names that people use. */
  public Names names() {
    return new Names(model, this::powers);
  }

  /** The one account with a name. */
  public Account account(String name) {
    return account(names().account(name));
  }

  /** An account by its number in the model, for those who ask the model itself. */
  public Account account(int number) {
    return Account.of(model.facts(), number);
  }

  private int number(Account account) {
    return model.facts().find(account.key()).orElseThrow();
  }

  /**
   * Whether an account can do something somewhere.
   *
   * @param what a permission, or an admin action
   * @param where the node, empty for the top; of an admin action the object
   */
  public Can can(String account, String what, String where) {
    return can(account(account), names().asked(what, where));
  }

  /** The same, with names resolved. */
  public Can can(Account account, Asked asked) {
    return new Answering(model, this::powers).can(number(account), asked);
  }

  /** Who can do something somewhere, surely or perhaps, whatever the state of their accounts. */
  public List<Account.Holder> holders(String what, String where) {
    return Account.Holder.of(model.facts(), holders(names().asked(what, where)));
  }

  /** The same, with names resolved, one bit an account. */
  public Crowd holders(Asked asked) {
    return new Answering(model, this::powers).holders(asked);
  }

  /** Why an account can do something somewhere: each way in words, the shortest first. */
  public List<String> ways(String account, String what, String where) {
    return ways(account(account), names().asked(what, where));
  }

  /** The same, with names resolved. */
  public List<String> ways(Account account, Asked asked) {
    return new Answering(model, this::powers).ways(number(account), asked);
  }

  /** What an account would meet that wants to use an application. */
  public Readiness readiness(String account, String application) {
    return new ReadinessCheck(model.asker(), Optional.empty())
        .of(names().application(application), names().account(account));
  }

  /** Everything that is excessive or in conflict, by the rules of the workspace. */
  public List<Finding> findings() {
    return Findings.of(assessment());
  }

  /** Who answers for what: applications, admin scopes, groups. */
  public Owners owners() {
    return new Owners(
        assessment(), name -> NameResolver.find(model.facts(), SubjectKind.ACCOUNT, name));
  }

  /** All findings, those apart that somebody accepted. */
  public Triage triage() {
    return Triage.of(findings(), workspace.waivers(), model.asOf().getEpochSecond());
  }

  /** Those findings that are asked for. */
  public List<Finding> findings(FindingQuery query) {
    return query.of(this, findings());
  }

  /** The least removals that end a finding, with what they would do. */
  public Advice advice(Finding finding) {
    return Advice.of(assessment(), finding);
  }

  /** What some changes would do: who gains and loses what, and which findings begin and end. */
  public Preview preview(List<Change> changes) {
    return Preview.of(assessment(), changes, workspace.expectations());
  }

  /**
   * What a proposal would do, on what was read. Numbers in it are those of {@link
   * #expecting(Proposal)}.
   */
  public Preview preview(Proposal proposal) {
    Organization with = expecting(proposal);
    return with.preview(proposal.on(with.assessment().model()).changes());
  }

  /** Giving a role, or rights by a list, at a node (or everywhere) and below, to look at. */
  public Proposal assigning(String application, String role, String subject, String node) {
    Window always = new Window(Optional.empty(), Optional.empty());
    Mapping mapping = names().mapping();
    return new Proposal("", mapping.giving(application, role, subject, node, true, always));
  }

  /**
   * A group that is to be created where another one stands, of the same kind.
   *
   * @param name what it is called
   * @param like the key of the other group
   * @throws UnknownNameException when groups of its directory are not created by this program
   */
  public Step.Presence groupLike(String name, Key like) {
    return Creation.groupLike(this, name, model.facts().find(like).orElseThrow());
  }

  /**
   * Writes what a proposal gives and withdraws into the workspace's own files, all or nothing.
   *
   * @param by who gives it, or empty
   * @param reason why, or empty
   * @return how many rows and lines were added, changed or taken out, by file
   * @throws org.sobercompass.core.problem.BadInputException when a step cannot be written here;
   *     nothing is written then
   */
  public Map<String, Integer> write(Proposal proposal, String by, String reason) {
    Organization with = expecting(proposal);
    return new MappingFiles(workspace, with.assessment().model()).write(proposal, by, reason);
  }

  /**
   * A proposal as records that can be carried out on the systems themselves, with the undo of each.
   *
   * @param words what each change is, for people
   * @param as as whom each target is to be changed, where that is to be held to
   * @throws org.sobercompass.core.problem.BadInputException when a step cannot be made
   */
  public Amendment amendment(
      Proposal proposal, Function<Change, String> words, Map<String, String> as) {
    Organization with = expecting(proposal);
    return new AmendmentMaker(workspace, with.assessment().model(), words)
        .make(proposal, as, Clock.systemUTC().instant());
  }

  /** What a proposal would do, to be held against a later reading. */
  public Foretold foretold(Proposal proposal) {
    Organization with = expecting(proposal);
    List<Change> changes = proposal.on(with.assessment().model()).changes();
    return Foretold.of(with.assessment(), changes, with.preview(changes));
  }

  /**
   * A proposal in a file: YAML, CSV with the columns of assignments, or LDIF change records.
   *
   * @param shown how the user names the file
   * @throws org.sobercompass.core.problem.BadInputException when something in it cannot be read
   */
  public Proposal proposal(Path file, String shown) {
    return new ProposalFile(this, shown).read(file);
  }

  /**
   * The cheapest removals that differ and end one or several holdings of an account.
   *
   * @param account of this organization
   * @param asked permissions at a node, as {@link Names#at} gives them
   * @param most so many at most
   */
  public List<Removal> unpick(Account account, List<Asked.Use> asked, int most) {
    int who = number(account);
    List<Goal> goals = new ArrayList<>();
    asked.forEach(one -> goals.add(NotHeld.of(who, one.view().number(), one.question())));
    return new Unpick(model, assessment().rules().removals()).alternatives(new Each(goals), most);
  }

  /** So many of the cheapest removals that end a finding; empty when it takes a decision. */
  public List<Removal> unpick(Finding finding, int most) {
    return Advice.alternatives(assessment(), finding, most);
  }

  /** Keeps a proposal in a YAML file that {@link #proposal} reads, for its owner only. */
  public void keep(Proposal proposal, Path file) {
    OwnFiles.write(file, new ProposalText(expecting(proposal).model).of(proposal));
  }
}
