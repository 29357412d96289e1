package org.sobercompass.core.readiness;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Terms;

/**
 * Looks for mappings that cannot work: applications that see nothing, groups and accounts that are
 * mapped but not seen, groups without anybody, enrolments nobody can use, emergency accounts. Not
 * thread-safe.
 */
public final class MappingCheck {
  private final AccessModel model;
  private final Facts facts;
  private final Asker asker;
  private final List<Problem> problems = new ArrayList<>();
  private final Map<Integer, Memberships.Walker> walkers = new HashMap<>();

  /** Checks the mappings of a model. */
  public MappingCheck(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
    this.asker = model.asker();
  }

  /** Everything found, in the order in which to mend it: whole applications before single lines. */
  public List<Problem> run() {
    model.systems().forEach(this::sight);
    EmergencyCheck emergency = new EmergencyCheck(model);
    model.systems().forEach(view -> problems.addAll(emergency.of(view)));
    model.systems().forEach(this::grants);
    model.systems().forEach(this::register);
    problems.addAll(new HostCheck(model).problems());
    return List.copyOf(problems);
  }

  private void sight(SystemView view) {
    if (view.admission().isOpen()) {
      return;
    }
    if (!view.system().sight().on()) {
      warn(
          Place.of(view.id()),
          view.system().name() + " sees nobody: its connection is switched off",
          "on: yes, or no assignments");
      return;
    }
    stale(view);
    problems.addAll(new SightFill(model, view).problems());
    if (seen(view).accounts() == 0 && facts.accounts() > 0) {
      warn(
          Place.of(view.id()),
          view.system().name() + " sees no account of " + view.system().sight().directory(),
          "bases and a filter that bring accounts in; `sober probe` proposes them");
    }
  }

  /** What the application does now may be another thing than what is written. */
  private void stale(SystemView view) {
    Terms terms = view.admission().terms();
    String name = view.system().name();
    if (terms.waiting()) {
      warn(
          Place.of(view.id()),
          name + " waits for a restart: until then it works by other settings than these",
          "a restart, then no waiting-for-restart");
    }
    LocalDate now = model.asOf().atZone(ZoneOffset.UTC).toLocalDate();
    terms
        .copied()
        .map(copied -> ChronoUnit.DAYS.between(copied, now))
        .filter(days -> days > 0)
        .ifPresent(
            days ->
                warn(
                    Place.of(view.id()),
                    name
                        + " works on a copy of "
                        + view.system().sight().directory()
                        + " that is "
                        + (days == 1 ? "a day" : days + " days")
                        + " older than these answers",
                    "a new copy; what changed since does not count there yet"));
    terms
        .exported()
        .map(exported -> ChronoUnit.DAYS.between(exported, now))
        .filter(days -> days > 0)
        .ifPresent(
            days ->
                warn(
                    Place.of(view.id()),
                    "the actual assignments of "
                        + name
                        + " were exported "
                        + (days == 1 ? "a day" : days + " days")
                        + " before these answers",
                    "a new export; what was assigned since is not in it"));
  }

  private void grants(SystemView view) {
    long asOf = model.asOf().getEpochSecond();
    UnseenGrants unseen = new UnseenGrants(facts, view);
    for (Grant grant : view.assigned()) {
      if (grant.subject() >= 0 && grant.activeAt(asOf) && !grant.declared()) {
        grant(view, grant, unseen);
      }
    }
    problems.addAll(unseen.problems());
  }

  private void grant(SystemView view, Grant grant, UnseenGrants unseen) {
    int subject = grant.subject();
    SubjectKind kind = facts.kind(subject);
    String name = Words.subject(facts, subject);
    boolean sees = view.memberships().visibility().sees(subject);
    if ((kind == SubjectKind.ACCOUNT || kind == SubjectKind.GROUP) && !sees) {
      unseen.add(grant);
      return;
    }
    if (kind == SubjectKind.ACCOUNT) {
      readiness(view, subject, grant.place(), "is given a role");
    } else if (kind == SubjectKind.GROUP) {
      group(view, grant, name);
    }
  }

  private void group(SystemView view, Grant grant, String name) {
    boolean anybody =
        walkers
            .computeIfAbsent(view.context(), context -> view.memberships().walker())
            .hasAccount(grant.subject());
    if (anybody) {
      return;
    }
    IntList wide = new IntList();
    model.widest().walker().accounts(grant.subject(), wide);
    warn(
        grant.place(),
        wide.isEmpty()
            ? "the group " + name + " is mapped, but nobody is in it"
            : "the group "
                + name
                + " is mapped, but none of its "
                + wide.size()
                + " accounts count in "
                + view.system().name()
                + " (out of sight, nested deeper than it follows, or listed in another way)",
        "members that count, or another group");
  }

  private void readiness(SystemView view, int account, Place place, String what) {
    Readiness readiness = new ReadinessCheck(asker, Optional.empty()).of(view, account);
    readiness
        .firstFailure()
        .filter(step -> step.condition() != Condition.ROLE && step.condition() != Condition.RIGHTS)
        .ifPresent(
            step ->
                warn(
                    place,
                    Words.subject(facts, account)
                        + " "
                        + what
                        + ", but cannot use it: "
                        + (step.detail().isEmpty() ? step.condition().words() : step.detail()),
                    step.condition().words()));
  }

  private void register(SystemView view) {
    for (Enrolment line : view.admission().register().orElse(List.of())) {
      if (line.subject() >= 0 && line.active() && !view.admission().isAccepted(line)) {
        warn(
            line.place(),
            line.subjectText()
                + " is enrolled for sign-in by "
                + line.provider()
                + ", which "
                + view.system().name()
                + " does not accept",
            "one of "
                + String.join(", ", view.admission().signInKinds().stream().sorted().toList()));
      }
    }
  }

  /**
   * For each system how many accounts are given something, and how many of them cannot use it, by
   * the first condition that fails. O(accounts x systems they are given something in), on all
   * processors.
   */
  public Map<String, Summary> readiness() {
    Map<String, Summary> all = new TreeMap<>();
    ThreadLocal<Given> given = ThreadLocal.withInitial(() -> new Given(model));
    model
        .bulk()
        .inOrder(
            (own, range) -> readiness(own, range, given.get()),
            part ->
                part.forEach(
                    (id, summary) -> all.computeIfAbsent(id, i -> new Summary()).add(summary)));
    return all;
  }

  /**
   * Those who are ready are found by a sweep, which hands a subject only to the systems that name
   * it; the conditions are asked one by one only of the few that are not.
   */
  private Map<String, Summary> readiness(Asker own, Bulk.Range range, Given given) {
    Map<String, Summary> part = new TreeMap<>();
    ReadinessCheck check = new ReadinessCheck(own, Optional.empty());
    int count = model.systems().size();
    BitSet granted = new BitSet();
    BitSet ready = new BitSet();
    Bulk.project(
        own,
        range,
        (account, view, who) -> {
          int pair = (account - range.from()) * count + view.number();
          granted.set(pair);
          ready.set(pair, check.isReady(view, account, who));
        });
    for (int account = range.from(); account < range.to(); account++) {
      BitSet systems = given.systems(account);
      for (int s = systems.nextSetBit(0); s >= 0; s = systems.nextSetBit(s + 1)) {
        SystemView view = model.systems().get(s);
        int pair = (account - range.from()) * count + s;
        boolean onlyToAll = given.toAll(view) && !granted.get(pair);
        if (!onlyToAll) {
          Summary summary = part.computeIfAbsent(view.id(), id -> new Summary());
          summary.given++;
          if (ready.get(pair)) {
            summary.ready++;
          } else {
            summary.fails(check.of(view, account));
          }
        }
      }
    }
    return part;
  }

  /**
   * What a system surely sees of its directory.
   *
   * @param accounts how many accounts
   * @param groups how many groups
   * @param undecided how many subjects of which it is not known
   */
  public record Seen(int accounts, int groups, int undecided) {}

  /** Counts what a system sees. O(subjects). */
  public Seen seen(SystemView view) {
    Visibility visibility = view.memberships().visibility();
    int accounts = 0;
    int groups = 0;
    int undecided = 0;
    for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
      undecided += visibility.perhapsSees(subject) ? 1 : 0;
      if (visibility.sees(subject)) {
        accounts += subject < facts.accounts() ? 1 : 0;
        groups += subject < facts.accounts() ? 0 : 1;
      }
    }
    return new Seen(accounts, groups, undecided);
  }

  /** How many are given something, how many of them are ready, and why the others are not. */
  public static final class Summary {
    private int given;
    private int ready;
    private final Map<Condition, Integer> failures = new TreeMap<>();

    private Summary() {}

    private void fails(Readiness readiness) {
      ready += readiness.ready() == Truth.TRUE ? 1 : 0;
      readiness.firstFailure().ifPresent(step -> failures.merge(step.condition(), 1, Integer::sum));
    }

    private void add(Summary other) {
      given += other.given;
      ready += other.ready;
      other.failures.forEach((condition, n) -> failures.merge(condition, n, Integer::sum));
    }

    /** Accounts that are given something. */
    public int given() {
      return given;
    }

    /** Those of them that surely can use it. */
    public int ready() {
      return ready;
    }

    /** How many fail first at each condition. */
    public Map<Condition, Integer> failures() {
      return failures;
    }
  }

  private void warn(Place place, String what, String expected) {
    problems.add(Problem.warning(place, what, expected));
  }
}
