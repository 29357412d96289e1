package org.sobercompass.organization;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.Carry;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.End;
import org.sobercompass.core.carry.InStep;
import org.sobercompass.core.carry.LossAndGain;
import org.sobercompass.core.carry.Remembered;
import org.sobercompass.core.crosswalk.Crosswalk;
import org.sobercompass.core.crosswalk.CrosswalkTable;
import org.sobercompass.core.crosswalk.MatchPlan;
import org.sobercompass.core.crosswalk.Matched;
import org.sobercompass.core.crosswalk.Nature;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.store.IntList;
import org.sobercompass.sources.crosswalk.CrosswalkSettings;

/**
 * Who of one directory of an organization is who of another.
 *
 * <pre>{@code
 * Organization trust = Organization.open(Path.of("demo"));
 * Crosswalks crosswalks = new Crosswalks(trust, "fernhollow", "alderfen");
 * for (CrosswalkTable.Row row : crosswalks.table().rows()) {
 *   System.out.println(row.line().fromName() + " is " + row.line().toName());
 * }
 * }</pre>
 *
 * <p>Not thread-safe.
 */
public final class Crosswalks {
  private final Organization organization;
  private final MatchPlan plan;
  private final Crosswalk decided;
  private @Nullable BitSet services;
  private Memberships.@Nullable Walker walker;

  /** Of two directories, as the workspace says they are matched, else by what is usual. */
  public Crosswalks(Organization organization, String from, String to) {
    this(
        organization,
        settings(organization, from, to).orElse(CrosswalkSettings.usual(from, to)).plan(),
        table(organization, from, to));
  }

  /**
   * By a plan.
   *
   * @param decided what was decided already
   */
  public Crosswalks(Organization organization, MatchPlan plan, Crosswalk decided) {
    this.organization = organization;
    this.plan = plan;
    this.decided = decided;
  }

  /** The same with other decisions. */
  public Crosswalks deciding(Crosswalk others) {
    return new Crosswalks(organization, plan, others);
  }

  /** How the workspace says that two directories are matched. */
  public static Optional<CrosswalkSettings> settings(
      Organization organization, String from, String to) {
    return organization.workspace().crosswalks().stream().filter(c -> c.isOf(from, to)).findFirst();
  }

  private static Crosswalk table(Organization organization, String from, String to) {
    return organization.workspace().crosswalkTables().stream()
        .filter(table -> table.from().equals(from) && table.to().equals(to))
        .findFirst()
        .orElse(Crosswalk.empty(from, to));
  }

  /** What was decided. */
  public Crosswalk decided() {
    return decided;
  }

  /** Matches everybody that nobody decided on. */
  public Matched match() {
    return Matched.of(
        organization.model().facts(),
        plan,
        this::nature,
        this::accounts,
        organization.workspace().persons(),
        decided);
  }

  /** What stands behind an account, by its directory and by what the workspace says of services. */
  public Nature nature(int account) {
    if (services == null) {
      services = new FindingContext(organization.assessment()).services();
    }
    return services.get(account)
        ? Nature.SERVICE
        : Nature.of(organization.model().facts(), account);
  }

  private BitSet accounts(int group) {
    if (walker == null) {
      walker = organization.model().widest().walker();
    }
    IntList found = new IntList();
    walker.accounts(group, found);
    BitSet accounts = new BitSet();
    for (int i = 0; i < found.size(); i++) {
      accounts.set(found.get(i));
    }
    return accounts;
  }

  /**
   * The DNs of the counterparts of a group's members: of those that were accepted, and of those
   * that are to be made.
   */
  public List<String> members(int group, Map<Integer, String> made) {
    Facts facts = organization.model().facts();
    Map<Integer, Integer> known = decided.counterparts(facts);
    List<String> members = new ArrayList<>();
    accounts(group).stream()
        .forEach(
            member -> {
              Integer to = known.get(member);
              String dn = to == null ? made.get(member) : facts.dn(to);
              if (dn != null && !members.contains(dn)) {
                members.add(dn);
              }
            });
    return members;
  }

  /** What was decided, and for everybody else who could be whom. */
  public CrosswalkTable table() {
    return CrosswalkTable.of(organization.model().facts(), decided, match());
  }

  /**
   * What the rights of those who have an accepted counterpart become.
   *
   * <p>Powerful ones are left for a decision by hand where the plan says so.
   */
  public Carried carry(CarryPlan how) {
    AccessModel model = organization.assessment().model();
    return new Carry(model, decided.counterparts(model.facts()), how).make();
  }

  /**
   * The same, held against what was carried before.
   *
   * @param memory what is remembered; see {@link org.sobercompass.sources.crosswalk.CarriedFile}
   */
  public InStep inStep(Carried carried, List<Remembered> memory, CarryPlan how, LocalDate today) {
    return InStep.of(organization.assessment().model(), carried, memory, how, today);
  }

  /** What ends the one directory when nothing differs any more, and what would break. */
  public End end() {
    AccessModel model = organization.assessment().model();
    return End.of(model, decided.from(), decided.counterparts(model.facts()));
  }

  /** What a proposal does to each of them, and to everybody else. */
  public LossAndGain lossAndGain(Proposal proposal) {
    Assessment assessment = organization.assessment();
    AccessModel model = assessment.model();
    return LossAndGain.of(
        assessment, decided.counterparts(model.facts()), proposal.on(model).changes());
  }

  /** The names of the directories. */
  public List<String> directories() {
    return organization.model().facts().arrays().sources();
  }
}
