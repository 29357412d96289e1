package org.sobercompass.core.access;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.PatchedGraph;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;

/**
 * Facts and systems at a point in time: the door to all questions. Immutable and thread-safe; the
 * work space of questions is an {@link Asker}, one a thread. {@link #with} gives a view with
 * changes laid over it and leaves this one as it is.
 */
public final class AccessModel {
  private final MembershipGraph graph;
  private final List<SystemView> systems;
  private final Instant asOf;
  private final Optional<Basis> basis;
  private final Memberships widest;

  /**
   * A model.
   *
   * @param graph the memberships of the facts
   * @param systems in any order; kept in the byte order of their ids
   * @param asOf the point in time: it moves windows and expiries, never facts
   * @param basis which grants to use; empty for each system's usual basis
   */
  public AccessModel(
      MembershipGraph graph, List<AccessSystem> systems, Instant asOf, Optional<Basis> basis) {
    this.graph = graph;
    this.asOf = asOf;
    this.basis = basis;
    this.widest = new Memberships(graph, MembershipProfile.WIDEST, Visibility.all(graph.facts()));
    this.systems = views(graph, systems, basis);
  }

  /** A model of facts as they were read. */
  public static AccessModel of(
      Facts facts, List<AccessSystem> systems, Instant asOf, Optional<Basis> basis) {
    return new AccessModel(MembershipGraph.of(facts), systems, asOf, basis);
  }

  private static List<SystemView> views(
      MembershipGraph graph, List<AccessSystem> systems, Optional<Basis> basis) {
    List<AccessSystem> sorted = new ArrayList<>(systems);
    sorted.sort(Comparator.comparing(AccessSystem::id, Key::compareUtf8));
    Map<Sight, Memberships> contexts = new HashMap<>();
    Map<Sight, Integer> numbers = new HashMap<>();
    List<SystemView> views = new ArrayList<>();
    for (AccessSystem system : sorted) {
      Sight sight = system.sight();
      Memberships memberships =
          contexts.computeIfAbsent(
              sight, s -> new Memberships(graph, s.profile(), Visibility.of(graph.facts(), s)));
      numbers.putIfAbsent(sight, numbers.size());
      int context = numbers.getOrDefault(sight, 0);
      Basis used = basis.orElse(system.usualBasis());
      views.add(
          new SystemView(views.size(), system, used, memberships, context, system.decider(used)));
    }
    return List.copyOf(views);
  }

  /** The same facts and systems at another time or on another basis. */
  public AccessModel at(Instant otherTime, Optional<Basis> otherBasis) {
    return new AccessModel(
        graph, systems.stream().map(SystemView::system).toList(), otherTime, otherBasis);
  }

  /** A view with changes laid over this model. Subjects and systems keep their numbers. */
  public AccessModel with(List<Change> changes) {
    PatchedGraph patched = new PatchedGraph(graph);
    Map<Integer, List<Change.OfSystem>> ofSystem = new HashMap<>();
    boolean moved = false;
    for (Change change : changes) {
      moved |=
          change.fold(
              membership -> apply(membership, patched),
              own -> note(own, ofSystem),
              delegated -> false);
    }
    List<AccessSystem> changed = new ArrayList<>();
    for (SystemView view : systems) {
      List<Change.OfSystem> own = ofSystem.getOrDefault(view.number(), List.of());
      changed.add(own.isEmpty() ? view.system() : view.system().with(own, view.basis()));
    }
    return new AccessModel(moved ? patched : graph, changed, asOf, basis);
  }

  /** Keeps a change for its system; no membership moves by it. */
  private static boolean note(
      Change.OfSystem change, Map<Integer, List<Change.OfSystem>> ofSystem) {
    ofSystem.computeIfAbsent(change.system(), s -> new ArrayList<>()).add(change);
    return false;
  }

  private static boolean apply(Change.OfMembership change, PatchedGraph graph) {
    return change.fold(
        added -> {
          graph.add(added.member(), added.group(), added.via());
          return true;
        },
        removed -> {
          graph.remove(removed.member(), removed.group(), removed.via());
          return true;
        });
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

  /** A work space for questions; not thread-safe. */
  public Asker asker() {
    return new Asker(this);
  }

  /** Work over all accounts. */
  public Bulk bulk() {
    return new Bulk(this);
  }
}
