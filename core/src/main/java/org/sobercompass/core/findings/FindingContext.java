package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.Strength;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Resources;

/** What the finders share: the model, an asker, wording, weights. Not thread-safe. */
public final class FindingContext {
  /** So many routes show a finding. */
  public static final int SHOWN = 3;

  /** So many lines do, where each is of its own. */
  public static final int LISTED = 10;

  private static final int CHUNK = 100;

  public final AccessModel model;
  public final Facts facts;
  public final Asker asker;
  private final RouteFinder shortest;
  private final Memberships.Walker widest;
  public final Assessment assessment;
  public final FindingRules rules;
  public final Thresholds limits;
  private final @Nullable Focus focus;
  private @Nullable PowerfulAccounts powerful;

  public FindingContext(Assessment assessment) {
    this(assessment, assessment.model().asker(), null);
  }

  /** Where only what changes may concern is looked at. */
  public FindingContext(Assessment assessment, Focus focus) {
    this(assessment, assessment.model().asker(), focus);
  }

  /** The same for another thread. */
  public FindingContext apart() {
    return new FindingContext(assessment.apart(), model.asker(), focus);
  }

  /** What is looked at; empty for everything. */
  public Optional<Focus> focus() {
    return Optional.ofNullable(focus);
  }

  /** Whether assignments to a subject are looked at. */
  public boolean looksAt(int subject) {
    return focus == null || focus.subjects().get(subject);
  }

  /**
   * Tells what is found of each thing, in their order; it is looked for on all processors.
   *
   * @param teller what makes findings with a context of its own thread; called once a thread
   */
  public <T> void each(
      List<T> things,
      Function<FindingContext, Function<T, Optional<Finding>>> teller,
      Consumer<Finding> out) {
    work(
        things.size(),
        CHUNK,
        own -> {
          Function<T, Optional<Finding>> tell = teller.apply(own);
          return thing -> tell.apply(things.get(thing));
        },
        found -> found.ifPresent(out));
  }

  /**
   * Hands on what is worked out of numbered things, in their order, on all processors.
   *
   * @param chunk how many are given to a thread at a time
   * @param worker what works it out with a context of its own thread; called once a thread
   */
  public <T> void work(
      int things, int chunk, Function<FindingContext, IntFunction<T>> worker, Consumer<T> out) {
    Map<Thread, IntFunction<T>> workers = new ConcurrentHashMap<>();
    model
        .bulk()
        .inChunksOf(chunk)
        .each(
            things,
            (own, range) -> {
              IntFunction<T> work =
                  workers.computeIfAbsent(
                      Thread.currentThread(),
                      thread -> worker.apply(new FindingContext(assessment.apart(), own, focus)));
              List<T> done = new ArrayList<>();
              for (int thing = range.from(); thing < range.to(); thing++) {
                done.add(work.apply(thing));
              }
              return done;
            },
            done -> done.forEach(out));
  }

  private FindingContext(Assessment assessment, Asker asker, @Nullable Focus focus) {
    this.assessment = assessment;
    this.focus = focus;
    this.rules = assessment.rules();
    this.limits = rules.thresholds();
    this.model = assessment.model();
    this.facts = model.facts();
    this.asker = asker;
    this.widest = model.widest().walker();
    this.shortest = new RouteFinder(asker, Limits.ONE);
    model.systems().forEach(view -> view.memberships().prepare());
  }

  /** Who holds powers, worked out once where it is asked. */
  public PowerfulAccounts powerful() {
    PowerfulAccounts known = powerful;
    if (known == null) {
      known = new PowerfulAccounts(this);
      powerful = known;
    }
    return known;
  }

  public Key grantKey(SystemView view, Grant grant) {
    return new Key(KeyKind.ASSIGNMENT, view.id(), grant.id());
  }

  public Key systemKey(SystemView view) {
    return new Key(KeyKind.APPLICATION, "", view.id());
  }

  /** What an account holds in a system where it, or a group of it, is given something by name. */
  public List<Holding> personal(SystemView view, int account) {
    IntList grants = view.decider().grantsOf(asker.token(view, account));
    long asOf = model.asOf().getEpochSecond();
    for (int i = 0; i < grants.size(); i++) {
      if (isPersonal(model, view.grants().get(grants.get(i)), asOf)) {
        return asker.holdings(view, account);
      }
    }
    return List.of();
  }

  /** Walks memberships as no system limits them. */
  public Memberships.Walker widest() {
    return widest;
  }

  /** The accounts that count as a subject, whatever any system counts. */
  public BitSet accounts(int subject) {
    IntList found = new IntList();
    widest.accounts(subject, found);
    BitSet accounts = new BitSet();
    found.setIn(accounts);
    return accounts;
  }

  /** The shortest route of an account to a right at one of the places where it holds it. */
  public Optional<Evidence> route(SystemView view, int account, int right) {
    Projected who = asker.projected(view, account);
    if (who.isEmpty()) {
      return Optional.empty();
    }
    int[] found = {-1};
    view.decider()
        .sweep(
            who,
            (node, below, count, yes, perhaps) -> {
              long either = yes[right >> 6] | perhaps[right >> 6];
              if (!below && found[0] < 0 && (either >>> right & 1) != 0) {
                found[0] = node;
              }
            });
    return found[0] < 0
        ? routeBelow(view, account, right)
        : shortest.first(view, account, right, found[0]).map(route -> shown(view, route));
  }

  /** The shortest route of an account to a right at a node. */
  public Optional<Evidence> route(SystemView view, int account, int right, int node) {
    return shortest.first(view, account, right, node).map(route -> shown(view, route));
  }

  /** The same where it is held only by what lies below a node, none of it named. */
  private Optional<Evidence> routeBelow(SystemView view, int account, int right) {
    return asker.holdings(view, account).stream()
        .filter(holding -> holding.right() == right)
        .findFirst()
        .flatMap(holding -> shortest.first(view, account, right, holding.resource()))
        .map(route -> shown(view, route));
  }

  /** An assignment as what shows a finding. */
  public static Evidence assigned(SystemView view, Grant grant) {
    return new Evidence.Assigned(view.number(), grant);
  }

  private static Evidence shown(SystemView view, Route route) {
    return new Evidence.OfRoute(view.number(), route);
  }

  /** A finding of this model. */
  public Finding finding(
      FindingKind kind,
      String rule,
      Key cause,
      Weight weight,
      Details details,
      List<? extends Evidence> evidence,
      String system,
      List<Key> subjects,
      Remedy aim) {
    Found found = Found.of(model, details, evidence);
    return new Finding(kind, rule, cause, weight, found, system, subjects, aim);
  }

  /** One that no removal ends: somebody has to decide, or to set something otherwise. */
  public Finding decision(
      FindingKind kind,
      String rule,
      Key cause,
      Weight weight,
      Details details,
      List<? extends Evidence> evidence,
      String system,
      List<Key> subjects) {
    return finding(kind, rule, cause, weight, details, evidence, system, subjects, Remedy.NONE);
  }

  /** A finding whose cause is one assignment, and which ends when that is withdrawn. */
  public Finding ofGrant(
      FindingKind kind,
      SystemView view,
      int number,
      Weight weight,
      Details details,
      List<Key> subjects) {
    Grant grant = view.grants().get(number);
    return finding(
        kind,
        "",
        grantKey(view, grant),
        weight,
        details,
        List.of(assigned(view, grant)),
        view.id(),
        subjects,
        ending(removal(view, number)));
  }

  /** What ends by changes, where there are any. */
  public static Remedy ending(List<Change> changes) {
    return changes.isEmpty() ? Remedy.NONE : new Remedy.Made(changes);
  }

  /** The key of the subject of a grant, if it exists. */
  public List<Key> subject(int subject) {
    return subject < 0 ? List.of() : List.of(facts.key(subject));
  }

  /** The removal of a grant; none where it is no entry, such as what an owner may. */
  public List<Change> removal(SystemView view, int number) {
    return view.system().isRemovable(number, view.basis())
        ? List.of(new Change.AssignmentRemoved(view.number(), number))
        : List.of();
  }

  public List<Key> keys(Collection<Integer> subjects) {
    return facts.keys(subjects.stream().mapToInt(Integer::intValue).toArray());
  }

  public List<Key> keys(BitSet subjects) {
    return facts.keys(subjects.stream().toArray());
  }

  /** How much the role of a grant gives. */
  public Strength strength(SystemView view, Grant grant) {
    return Strength.of(view.rights(), view.system().roles().get(grant.role()));
  }

  /** High for the strongest rights, low for the lowest level only. */
  public static Weight weight(Strength strength) {
    return strength.strongest() > 0
        ? Weight.HIGH
        : strength.isAboveLowest() ? Weight.MEDIUM : Weight.LOW;
  }

  /** Medium for what is high, else low: what is bad by how much it gives, and not by itself. */
  public static Weight reduced(Weight weight) {
    return weight == Weight.HIGH ? Weight.MEDIUM : Weight.LOW;
  }

  public boolean isWide(Resources tree, Grant grant) {
    return grant.resource() == 0 && (grant.descends() || tree.size() == 1);
  }

  /** Those that their source says are, and those that the workspace names. */
  public BitSet services() {
    BitSet services = new BitSet();
    for (int account = 0; account < facts.accounts(); account++) {
      if (facts.is(account, Facts.SERVICE)) {
        services.set(account);
      }
    }
    for (int subject : rules.services()) {
      services.or(accounts(subject));
    }
    return services;
  }

  /** What reaches an account by name, not because it is anybody or in a place. */
  public static boolean isPersonal(AccessModel model, Grant grant, long asOf) {
    return !grant.declared()
        && grant.activeAt(asOf)
        && grant.subject() >= 0
        && model.facts().kind(grant.subject()) != SubjectKind.IMPLICIT;
  }
}
