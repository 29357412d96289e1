package org.sobercompass.core.findings;

import java.time.Instant;
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
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;

/** What the finders share: the model, an asker, wording, weights. Not thread-safe. */
public final class FindingContext {
  public static final int SHOWN = 3;
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

  public String roleName(SystemView view, Grant grant) {
    return view.system().roles().get(grant.role()).name();
  }

  /** "role X of Application to Y at Z (where it stands)". */
  public String describe(SystemView view, Grant grant) {
    String place = Words.place(view, grant);
    String where =
        view.resources().size() == 1
            ? ""
            : place.equals("everywhere") ? ", everywhere" : " at " + place;
    return "the role "
        + roleName(view, grant)
        + " of "
        + view.system().name()
        + " to "
        + Words.trustee(facts, grant)
        + where;
  }

  public Evidence line(SystemView view, Grant grant) {
    String by = grant.grantedBy().isEmpty() ? "" : ", given by " + grant.grantedBy();
    String why = grant.reason().isEmpty() ? "" : ", because: " + grant.reason();
    return Evidence.of(grant.place() + ": " + describe(view, grant) + window(grant) + by + why);
  }

  /** The window of a grant, as instants in UTC: there is no zone here. */
  private static String window(Grant grant) {
    String from =
        grant.from() == Long.MIN_VALUE ? "" : ", from " + Instant.ofEpochSecond(grant.from());
    String until =
        grant.until() == Long.MAX_VALUE ? "" : ", before " + Instant.ofEpochSecond(grant.until());
    return from + until + (grant.on() ? "" : ", switched off");
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
        : shortest.first(view, account, right, found[0]).map(route -> evidence(view, route));
  }

  /** The shortest route of an account to a right at a node. */
  public Optional<Evidence> route(SystemView view, int account, int right, int node) {
    return shortest.first(view, account, right, node).map(route -> evidence(view, route));
  }

  /** The same where it is held only by what lies below a node, none of it named. */
  private Optional<Evidence> routeBelow(SystemView view, int account, int right) {
    return asker.holdings(view, account).stream()
        .filter(holding -> holding.right() == right)
        .findFirst()
        .flatMap(holding -> shortest.first(view, account, right, holding.resource()))
        .map(route -> evidence(view, route));
  }

  public Evidence evidence(SystemView view, Route route) {
    return new Evidence(view.number(), Optional.of(route), Words.route(model, view, route));
  }

  /** A step by which a power comes within reach, in words. */
  public String words(Reach.Step step) {
    String to = Words.subject(facts, step.to());
    return step.action().map(action -> action.name() + ": " + to).orElse("is in " + to);
  }

  /** A finding whose cause is one assignment, and which ends when that is withdrawn. */
  public Finding ofGrant(
      FindingKind kind,
      SystemView view,
      int number,
      Grant grant,
      Weight weight,
      List<String> why,
      String sentence,
      List<Key> subjects,
      String advice) {
    return new Finding(
        kind,
        "",
        grantKey(view, grant),
        weight,
        why,
        sentence,
        view.id(),
        subjects,
        List.of(line(view, grant)),
        advice,
        removal(view, number));
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

  /** A weight by what a role gives: high for the strongest rights, low for reading only. */
  public Weight weight(SystemView view, RoleInfo role, List<String> why) {
    Rights rights = view.rights();
    int strongest = 0;
    boolean above = false;
    for (int right = 0; right < rights.size(); right++) {
      if (role.allows(right)) {
        strongest += rights.isStrongest(right) ? 1 : 0;
        above |= rights.isStrongest(right) || !rights.contains(right).isEmpty();
      }
    }
    if (strongest > 0) {
      why.add(
          "it gives "
              + strongest
              + (strongest == 1 ? " right" : " rights")
              + " of the strongest kind");
      return Weight.HIGH;
    }
    why.add(above ? "it gives more than the lowest level" : "it gives the lowest level only");
    return above ? Weight.MEDIUM : Weight.LOW;
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
