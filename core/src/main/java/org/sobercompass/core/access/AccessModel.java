package org.sobercompass.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.membership.Counting;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.PatchedGraph;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Setting;

/**
 * Facts and systems at a point in time: the door to all questions. Immutable and thread-safe; the
 * work space of questions is an {@link Asker}, one a thread. {@link #with} gives a view with
 * changes laid over it and leaves this one as it is.
 */
public final class AccessModel {
  private final MembershipGraph graph;
  private final List<SystemView> systems;
  private final List<AccessSystem> delegated;
  private final Instant asOf;
  private final Optional<Basis> basis;
  private final Memberships widest;
  private final Map<Counting, Memberships> counted;

  /** How memberships count in the model that this one is laid over; empty for facts as read. */
  private final Map<Counting, Memberships> known;

  private @Nullable List<SystemView> delegatedViews;
  private volatile @Nullable TrusteeIndex trustees;
  private final Progress progress;
  private final int threads;

  /**
   * A model without delegated administration.
   *
   * @param graph the memberships of the facts
   * @param systems in any order; kept in the byte order of their ids
   * @param asOf the point in time: it moves windows and expiries, never facts
   * @param basis which grants to use; empty for each system's usual basis
   */
  public AccessModel(
      MembershipGraph graph, List<AccessSystem> systems, Instant asOf, Optional<Basis> basis) {
    this(
        graph,
        systems,
        List.of(),
        asOf,
        basis,
        new ConcurrentHashMap<>(),
        Map.of(),
        Progress.NONE,
        Bulk.ALL);
  }

  private AccessModel(
      MembershipGraph graph,
      List<AccessSystem> systems,
      List<AccessSystem> delegated,
      Instant asOf,
      Optional<Basis> basis,
      Map<Counting, Memberships> counted,
      Map<Counting, Memberships> known,
      Progress progress,
      int threads) {
    this.progress = progress;
    this.threads = threads;
    this.graph = graph;
    this.asOf = asOf;
    this.basis = basis;
    this.counted = counted;
    this.known = known;
    this.widest = counted.computeIfAbsent(Counting.WIDEST, this::count);
    List<AccessSystem> sorted = new ArrayList<>(systems);
    sorted.sort(Comparator.comparing(AccessSystem::id, Key::compareUtf8));
    this.systems = views(sorted, 0, 0);
    this.delegated = List.copyOf(delegated);
  }

  /** A model of facts as they were read. */
  public static AccessModel of(
      Facts facts, List<AccessSystem> systems, Instant asOf, Optional<Basis> basis) {
    return new AccessModel(MembershipGraph.of(facts), systems, asOf, basis);
  }

  private Memberships count(Counting counting) {
    Memberships before = known.get(counting);
    return before == null ? counting.over(graph) : counting.over(graph, before);
  }

  private List<SystemView> views(List<AccessSystem> all, int first, int firstContext) {
    Map<Counting, Integer> numbers = new HashMap<>();
    List<SystemView> views = new ArrayList<>();
    for (AccessSystem system : all) {
      Counting counting = system.counting();
      Memberships memberships = counted.computeIfAbsent(counting, this::count);
      numbers.putIfAbsent(counting, firstContext + numbers.size());
      int context = numbers.getOrDefault(counting, 0);
      AccessSystem ready = system.over(memberships);
      Basis used = basis.orElse(ready.usualBasis());
      views.add(
          new SystemView(
              first + views.size(), ready, used, memberships, context, ready.decider(used)));
    }
    return List.copyOf(views);
  }

  /**
   * The same model with systems of delegated administration, such as the directories' own lists.
   * They are asked about by object; what goes over all systems leaves them out, since a directory
   * has an answer for each account, admin action and object.
   */
  public AccessModel delegating(List<AccessSystem> systemsOfDelegation) {
    return new AccessModel(this, systemsOfDelegation, progress, threads);
  }

  /** The same with other systems of delegated administration. */
  private AccessModel(
      AccessModel of, List<AccessSystem> delegated, Progress progress, int threads) {
    this.progress = progress;
    this.threads = threads;
    this.graph = of.graph;
    this.asOf = of.asOf;
    this.basis = of.basis;
    this.widest = of.widest;
    this.counted = of.counted;
    this.known = of.known;
    this.systems = of.systems;
    this.delegated = List.copyOf(delegated);
  }

  /** The same model, which tells how far work over all accounts is. */
  public AccessModel telling(Progress other) {
    return new AccessModel(this, delegated, other, threads);
  }

  /**
   * The same model, whose work over all accounts takes so many threads; one is the caller's own.
   */
  public AccessModel onThreads(int wanted) {
    return new AccessModel(this, delegated, progress, wanted);
  }

  /** Who is told how far work is. */
  public Progress progress() {
    return progress;
  }

  /** The systems of delegated administration; numbered after all others. */
  public synchronized List<SystemView> delegated() {
    if (delegatedViews == null) {
      delegatedViews = views(delegated, systems.size(), systems.size());
    }
    return delegatedViews;
  }

  /** How many systems there are, those of delegated administration among them. */
  int systemCount() {
    return systems.size() + delegated.size();
  }

  /** The system with a number. */
  public SystemView view(int number) {
    return number < systems.size() ? systems.get(number) : delegated().get(number - systems.size());
  }

  /** The same facts and systems at another time or on another basis. */
  public AccessModel at(Instant otherTime, Optional<Basis> otherBasis) {
    return new AccessModel(
        graph,
        systems.stream().map(SystemView::system).toList(),
        delegated,
        otherTime,
        otherBasis,
        counted,
        known,
        progress,
        threads);
  }

  /** A view with changes laid over this model. Subjects and systems keep their numbers. */
  public AccessModel with(List<Change> changes) {
    Facts facts = LaidOver.facts(graph.facts(), changes);
    PatchedGraph patched = new PatchedGraph(graph, facts);
    Map<Integer, List<Change.OfSystem>> ofSystem = new HashMap<>();
    boolean moved = facts != graph.facts();
    for (Change change : changes) {
      moved |=
          change.fold(
              membership -> LaidOver.apply(membership, patched),
              own -> note(own, ofSystem),
              subject -> false);
    }
    List<AccessSystem> changed = new ArrayList<>();
    for (SystemView view : systems) {
      changed.add(over(facts, with(view.system(), view.number(), view.basis(), ofSystem)));
    }
    List<AccessSystem> changedToo = new ArrayList<>();
    for (int i = 0; i < delegated.size(); i++) {
      AccessSystem system = delegated.get(i);
      changedToo.add(over(facts, with(system, systems.size() + i, system.usualBasis(), ofSystem)));
    }
    return moved
        ? new AccessModel(
            patched,
            changed,
            changedToo,
            asOf,
            basis,
            new ConcurrentHashMap<>(),
            counted,
            progress,
            threads)
        : new AccessModel(
            graph, changed, changedToo, asOf, basis, counted, known, progress, threads);
  }

  /**
   * The same with the roles and scopes that settings are to create: they have numbers, and give
   * nothing until those settings are made. What cannot be read is told when they are.
   *
   * @param settings by the id of the system
   */
  public AccessModel expecting(Map<String, List<Setting>> settings) {
    UnaryOperator<AccessSystem> expecting =
        system -> system.expecting(settings.getOrDefault(system.id(), List.of()));
    return new AccessModel(
        graph,
        systems.stream().map(view -> expecting.apply(view.system())).toList(),
        delegated.stream().map(expecting).toList(),
        asOf,
        basis,
        counted,
        known,
        progress,
        threads);
  }

  private AccessSystem over(Facts facts, AccessSystem system) {
    return facts == graph.facts() ? system : system.admitting(system.admission().over(facts));
  }

  private static AccessSystem with(
      AccessSystem system, int number, Basis basis, Map<Integer, List<Change.OfSystem>> changes) {
    List<Change.OfSystem> own = changes.getOrDefault(number, List.of());
    return own.isEmpty() ? system : system.with(own, basis);
  }

  /** Keeps a change for its system; no membership moves by it. */
  private static boolean note(
      Change.OfSystem change, Map<Integer, List<Change.OfSystem>> ofSystem) {
    ofSystem.computeIfAbsent(change.system(), s -> new ArrayList<>()).add(change);
    return false;
  }

  /** The facts. */
  public Facts facts() {
    return graph.facts();
  }

  /** The memberships as they stand. */
  public MembershipGraph graph() {
    return graph;
  }

  /** The systems, in the byte order of their ids. */
  public List<SystemView> systems() {
    return systems;
  }

  /** The system with this id. */
  public Optional<SystemView> system(String id) {
    return systems.stream().filter(view -> view.id().equals(id)).findFirst();
  }

  /** The point in time. */
  public Instant asOf() {
    return asOf;
  }

  /** The basis asked for; empty for each system's usual one. */
  public Optional<Basis> basis() {
    return basis;
  }

  /** All memberships, whatever any system counts. */
  public Memberships widest() {
    return widest;
  }

  /** Which systems name a subject; made when first asked for. */
  synchronized TrusteeIndex trustees() {
    TrusteeIndex made = trustees;
    if (made == null) {
      made = new TrusteeIndex(this);
      trustees = made;
    }
    return made;
  }

  /** Makes ready what pays where many accounts are asked about, not one. O(assignments). */
  public void prepareForMany() {
    trustees();
    systems().forEach(view -> view.memberships().prepare());
  }

  /** Whether that is made: it pays where many accounts are asked about, not for one. */
  boolean knowsTrustees() {
    return trustees != null;
  }

  /** A work space for questions; not thread-safe. */
  public Asker asker() {
    return new Asker(this);
  }

  /** Work over all accounts. */
  public Bulk bulk() {
    return new Bulk(this, threads);
  }
}
