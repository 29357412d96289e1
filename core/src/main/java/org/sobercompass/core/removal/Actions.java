package org.sobercompass.core.removal;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/**
 * The actions by which a fact can be taken away. Primary, implicit and rule-made memberships,
 * ownership and what a definition gives have none. Not thread-safe.
 */
final class Actions {
  private static final Set<Via> LISTED = Set.of(Via.MEMBER, Via.UNIQUE_MEMBER, Via.MEMBER_UID);

  private final AccessModel model;
  private final Map<String, Optional<Action>> known = new HashMap<>();
  private final Map<Integer, Integer> given = new HashMap<>();
  private final Map<Integer, Integer> counts = new HashMap<>();
  private final Wishes wishes;
  private boolean isBarred;

  Actions(AccessModel model, Wishes wishes) {
    this.model = model;
    this.wishes = wishes;
    Stream.concat(model.systems().stream(), model.delegated().stream()).forEach(this::count);
  }

  private void count(SystemView view) {
    view.system()
        .carried(view.basis(), model.asOf().getEpochSecond())
        .forEach((subject, number) -> given.merge(subject, number, Integer::sum));
  }

  /** The actions that would break something, the same one once; by key. */
  Map<String, Action> of(Goal.Still still, MembershipGraph graph) {
    Map<String, Action> all = new LinkedHashMap<>();
    for (Goal.Part part : still.parts()) {
      Route route = part.route();
      path(route.subjects(), route.vias(), all);
      grant(part.system(), route.grant(), all);
      for (Route.Leg leg : route.also()) {
        path(leg.subjects(), leg.vias(), all);
        grant(part.system(), leg.grant(), all);
      }
    }
    still.grants().forEach(removed -> grant(removed.system(), removed.grant(), all));
    for (Change.Redefined exception : still.scopes()) {
      exception(exception).ifPresent(action -> all.put(action.key(), action));
    }
    for (int[] edge : still.edges()) {
      path(List.of(edge[0], edge[1]), List.of(via(graph, edge)), all);
    }
    return all;
  }

  /** How a group lists a member; by its SID where it stands in no list of names. */
  private static Via via(MembershipGraph graph, int[] edge) {
    for (int i = 0; i < graph.upCount(edge[0]); i++) {
      if (graph.upGroup(edge[0], i) == edge[1] && graph.upVia(edge[0], i).isSure()) {
        return graph.upVia(edge[0], i);
      }
    }
    return Via.MEMBER;
  }

  /** The action that a change is, where it leaves alone what must stay. */
  private Optional<Action> action(Change change, int cost, String key) {
    if (!wishes.allow(model, change)) {
      isBarred = true;
      return Optional.empty();
    }
    return Optional.of(new Action(change, wishes.cost(model, change, cost), key));
  }

  /** Whether a removal was left out because of what must stay. */
  boolean isBarred() {
    return isBarred;
  }

  /** What a removal costs; nothing when it does not exist. */
  int cost(Change change) {
    Optional<Action> action =
        change.fold(
            moved ->
                moved.byKind(
                    added -> Optional.empty(),
                    removed -> membership(removed.member(), removed.group(), removed.via())),
            own -> own.byKind(added -> Optional.empty(), this::withdrawal, this::exception),
            account -> Optional.empty());
    return action.map(Action::cost).orElse(0);
  }

  private void path(List<Integer> subjects, List<Via> vias, Map<String, Action> all) {
    for (int i = 0; i < vias.size(); i++) {
      membership(subjects.get(i), subjects.get(i + 1), vias.get(i))
          .ifPresent(action -> all.put(action.key(), action));
    }
  }

  private Optional<Action> membership(int member, int group, Via via) {
    if (!LISTED.contains(via)) {
      return Optional.empty();
    }
    String key = "m " + model.facts().key(member) + " " + model.facts().key(group) + " " + via;
    return known.computeIfAbsent(
        key,
        k -> {
          int cost = Action.cost(accounts(member), carried(group));
          return action(new Change.MembershipRemoved(member, group, via), cost, k);
        });
  }

  /**
   * How many assignments a group carries, its own and those of the groups above it; entries and
   * admin roles count as assignments.
   */
  private int carried(int group) {
    Memberships.Walker walker = model.widest().walker();
    SubjectSet above = new SubjectSet();
    walker.subjects(group, above);
    int count = 0;
    for (int i = 0; i < above.sure().size(); i++) {
      int subject = above.sure().get(i);
      count += given.getOrDefault(subject, 0);
    }
    return count;
  }

  private void grant(int system, int number, Map<String, Action> all) {
    SystemView view = model.view(system);
    Grant grant = view.grants().get(number);
    String key = "g " + view.id() + " " + grant.id();
    known
        .computeIfAbsent(key, k -> withdrawal(view, number, grant, k))
        .ifPresent(action -> all.put(key, action));
  }

  private Optional<Action> withdrawal(SystemView view, int number, Grant grant, String key) {
    Change.AssignmentRemoved change = new Change.AssignmentRemoved(view.number(), number);
    return view.system().isRemovable(number, view.basis())
        ? action(change, Action.cost(accounts(view, grant.subject()), 1), key)
        : Optional.empty();
  }

  private Optional<Action> withdrawal(Change.AssignmentRemoved removed) {
    SystemView view = model.view(removed.system());
    return withdrawal(view, removed.grant(), view.grants().get(removed.grant()), "");
  }

  /** Excepting one object from a scope: one unit, and the object that its administrators lose. */
  private Optional<Action> exception(Change.Redefined change) {
    return change
        .how()
        .byKind(
            line -> {
              String who = model.facts().key(line.subject()).text();
              String key = "e " + line.scope() + " " + who;
              boolean less = line.excepted() == line.added();
              return less ? action(change, 2, key) : Optional.empty();
            },
            register -> Optional.empty(),
            role -> Optional.empty(),
            item -> Optional.empty(),
            written -> Optional.empty());
  }

  /** How many accounts count as a subject in a system; of an application, whatever it counts. */
  private int accounts(SystemView view, int subject) {
    boolean implicit = subject < 0 || model.facts().kind(subject) == SubjectKind.IMPLICIT;
    if (implicit || view.number() < model.systems().size()) {
      return accounts(subject);
    }
    IntList found = new IntList();
    view.memberships().walker().accounts(subject, found);
    return found.size();
  }

  /** How many accounts count as a subject. */
  private int accounts(int subject) {
    if (subject < 0) {
      return 0;
    }
    if (model.facts().kind(subject) == SubjectKind.IMPLICIT) {
      return model.facts().accounts();
    }
    return counts.computeIfAbsent(
        subject,
        s -> {
          IntList found = new IntList();
          model.widest().walker().accounts(s, found);
          return found.size();
        });
  }
}
