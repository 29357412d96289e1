package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/** What the names and keys of steps stand for in a model; what is not there is told. */
final class Lookup {
  private static final Set<Via> OF_DATABASES = Set.of(Via.SIGNS_IN, Via.ROLE, Via.SWITCH);

  private final AccessModel model;
  private @Nullable Set<String> roles;
  private final Facts facts;
  private final Consumer<String> unknown;
  private final Consumer<String> gone;
  private final Map<String, Map<Assignment, Integer>> given = new HashMap<>();
  private final Map<String, Map<String, List<Integer>>> said = new HashMap<>();
  private final Set<Integer> created = new HashSet<>();
  private final Set<Integer> deleted = new HashSet<>();
  private final Set<Key> goes = new HashSet<>();

  /** In a model; {@code unknown} is told what is not there. */
  Lookup(AccessModel model, Consumer<String> unknown) {
    this(model, unknown, unknown);
  }

  /**
   * In a model; {@code unknown} is told what is not there, {@code gone} what is not there any more.
   */
  Lookup(AccessModel model, Consumer<String> unknown, Consumer<String> gone) {
    this.gone = gone;
    this.model = model;
    this.facts = model.facts();
    this.unknown = unknown;
  }

  /** Somebody who is there, or whom the proposal creates, and does not delete before. */
  Optional<Integer> subject(Key key) {
    Optional<Integer> found =
        facts.find(key).filter(s -> !facts.isAbsent(s) || created.contains(s));
    if (found.isEmpty() && goes.contains(key)) {
      gone.accept(key.text() + " is deleted already");
    } else if (found.isEmpty()) {
      unknown.accept("there is no " + key.text() + " in what was read");
    } else if (deleted.contains(found.get())) {
      unknown.accept("an earlier step of the same proposal deletes " + key.text());
      return Optional.empty();
    }
    return found;
  }

  /** Somebody who is there. */
  Optional<Integer> present(Key key) {
    return facts.find(key).filter(subject -> !facts.isAbsent(subject));
  }

  /** Somebody who is not there, whom the proposal creates from now on. */
  Optional<Integer> creating(Key key) {
    Optional<Integer> found = facts.find(key).filter(facts::isAbsent);
    found.ifPresent(created::add);
    return found;
  }

  /** Notes whom the proposal deletes: where they are not there, that was done before. */
  void deletes(Key key) {
    goes.add(key);
  }

  /** Notes that the proposal deletes somebody from now on. */
  void deleting(int subject) {
    deleted.add(subject);
  }

  Optional<Integer> group(Key key) {
    return subject(key).filter(subject -> is(SubjectKind.GROUP, key, subject));
  }

  Optional<Integer> account(Key key) {
    return subject(key).filter(subject -> is(SubjectKind.ACCOUNT, key, subject));
  }

  private boolean is(SubjectKind kind, Key key, int subject) {
    boolean is = facts.kind(subject) == kind;
    if (!is) {
      unknown.accept(key.text() + " is no " + kind.words());
    }
    return is;
  }

  /** Any system, those of delegated administration among them. */
  Optional<SystemView> system(String id) {
    List<SystemView> all = Steps.systems(model).toList();
    return one("system", id, all, all.stream().map(SystemView::id).toList());
  }

  /** An application with roles, or the admin roles. */
  Optional<SystemView> withRoles(String id) {
    List<SystemView> all = Steps.systems(model).filter(view -> !view.system().isOfLists()).toList();
    return one("application with roles", id, all, all.stream().map(SystemView::id).toList());
  }

  /** The system of admin roles. */
  Optional<SystemView> adminRoles() {
    Optional<SystemView> found =
        model.delegated().stream().filter(v -> v.system() instanceof AdminRoles).findFirst();
    if (found.isEmpty()) {
      unknown.accept("there are no admin scopes");
    }
    return found;
  }

  Optional<Integer> role(SystemView view, String id) {
    List<String> ids = view.system().roles().stream().map(RoleInfo::id).toList();
    return number("role", id, ids);
  }

  /** A node; a scope where the system has admin roles. */
  Optional<Integer> node(SystemView view, String id) {
    if (view.system() instanceof AdminRoles roles) {
      return id.equals(Steps.EVERYTHING)
          ? Optional.of(AdminGrant.EVERYTHING)
          : scope(roles.defined(), id);
    }
    Optional<Integer> node = view.resources().find(id);
    return node.isPresent() ? node : number("node", id, view.resources().ids());
  }

  Optional<Integer> scope(List<AdminScope> scopes, String id) {
    return number("scope", id, scopes.stream().map(AdminScope::id).toList());
  }

  private Optional<Integer> number(String what, String id, List<String> ids) {
    return one(what, id, IntStream.range(0, ids.size()).boxed().toList(), ids);
  }

  private <T> Optional<T> one(String what, String id, List<T> all, List<String> ids) {
    int at = ids.indexOf(id);
    if (at >= 0) {
      return Optional.of(all.get(at));
    }
    String nearest = Spelling.hint(id, ids);
    unknown.accept("there is no " + what + " " + Problem.quote(id) + nearest);
    return Optional.empty();
  }

  /**
   * The number of an entry. Ids say where an entry stands in its list, and move when others go: so
   * it must say the same, and of those that do the one with the id is meant.
   */
  OptionalInt entry(SystemView view, Step.Entry entry) {
    List<Integer> same =
        said.computeIfAbsent(view.id(), id -> byWords(view)).getOrDefault(entry.words(), List.of());
    return same.stream()
        .filter(g -> view.grants().get(g).id().equals(entry.entry()))
        .findFirst()
        .or(() -> same.stream().findFirst())
        .map(OptionalInt::of)
        .orElse(OptionalInt.empty());
  }

  /** The entries of a system by what they say. */
  private Map<String, List<Integer>> byWords(SystemView view) {
    Map<String, List<Integer>> all = new HashMap<>();
    Steps steps = new Steps(model);
    for (int g = 0; g < view.grants().size(); g++) {
      Grant grant = view.grants().get(g);
      if (!grant.isWithdrawn()) {
        all.computeIfAbsent(steps.words(view, grant), w -> new ArrayList<>()).add(g);
      }
    }
    return all;
  }

  /** The assignments of a system as they stand, by what they give. */
  Map<Assignment, Integer> given(SystemView view) {
    return given.computeIfAbsent(
        view.id(),
        id -> {
          Map<Assignment, Integer> all = new LinkedHashMap<>();
          Steps steps = new Steps(model);
          for (int g = 0; g < view.grants().size(); g++) {
            Grant grant = view.grants().get(g);
            int number = g;
            if (!grant.declared() && !grant.isWithdrawn()) {
              (view.system() instanceof AdminRoles roles
                      ? steps.of(view, roles, g)
                      : steps.of(view, grant))
                  .ifPresent(what -> all.putIfAbsent(what, number));
            }
          }
          return all;
        });
  }

  /**
   * Whether the same role is given to the same at the same node, at other times or otherwise below.
   */
  boolean isGivenOtherwise(SystemView view, Assignment what) {
    return given(view).keySet().stream()
        .anyMatch(
            other ->
                other.role().equals(what.role())
                    && other.subject().equals(what.subject())
                    && other.node().equals(what.node()));
  }

  /** The line of a register that says the same of a subject. */
  static Optional<Enrolment> enrolment(SystemView view, int subject, Step.Register line) {
    return view.admission().register().orElse(List.of()).stream()
        .filter(
            there ->
                there.subject() == subject
                    && there.provider().equals(line.signIn())
                    && there.active() == line.active()
                    && there.secondFactor() == line.secondFactor()
                    && there.at().equals(line.at()))
        .findFirst();
  }

  /** How a group lists a member itself. */
  Optional<Via> via(int member, int group) {
    for (int i = 0; i < model.graph().upCount(member); i++) {
      if (model.graph().upGroup(member, i) == group && model.graph().upVia(member, i).isSure()) {
        return Optional.of(model.graph().upVia(member, i));
      }
    }
    return Optional.empty();
  }

  /**
   * A change, and what goes with it: the same of all other attributes by which a group lists the
   * same member; and with a primary group the one before, since an account has one.
   */
  List<Change> whole(Change change) {
    if (change instanceof Change.MembershipAdded added && added.via() == Via.PRIMARY) {
      return Stream.concat(
              SubjectSteps.primaryOf(model, added.member()).stream()
                  .map(was -> new Change.MembershipRemoved(added.member(), was, Via.PRIMARY)),
              Stream.of(change))
          .toList();
    }
    if (!(change instanceof Change.MembershipRemoved gone) || !gone.via().isListed()) {
      return List.of(change);
    }
    List<Change> all = new ArrayList<>();
    for (int i = 0; i < model.graph().upCount(gone.member()); i++) {
      Via via = model.graph().upVia(gone.member(), i);
      if (model.graph().upGroup(gone.member(), i) == gone.group() && via.isListed()) {
        all.add(new Change.MembershipRemoved(gone.member(), gone.group(), via));
      }
    }
    return all;
  }

  /**
   * How a group would list a new member: a role of a database has what another role has, unless the
   * member inherits nothing.
   */
  Via joining(int member, int group) {
    if (roles == null) {
      roles = roles(model);
    }
    if (!roles.contains(facts.source(group))) {
      return Via.MEMBER;
    }
    for (int i = 0; i < model.graph().upCount(member); i++) {
      Via via = model.graph().upVia(member, i);
      if (via == Via.ROLE || via == Via.SWITCH) {
        return via;
      }
    }
    return Via.ROLE;
  }

  /** The directories whose groups are roles of a database. O(memberships) where there are any. */
  private static Set<String> roles(AccessModel model) {
    Set<String> roles = new HashSet<>();
    if (OF_DATABASES.stream().noneMatch(model.graph()::mayHave)) {
      return roles;
    }
    for (int subject = 0; subject < model.facts().subjects(); subject++) {
      for (int i = 0; i < model.graph().upCount(subject); i++) {
        if (OF_DATABASES.contains(model.graph().upVia(subject, i))) {
          roles.add(model.facts().source(model.graph().upGroup(subject, i)));
        }
      }
    }
    return roles;
  }

  /** Whether a group is in another, at any depth. */
  boolean isBelow(int group, int other) {
    if (facts.kind(other) != SubjectKind.GROUP) {
      return false;
    }
    IntList below = new IntList();
    model.widest().walker().groups(other, below);
    for (int i = 0; i < below.size(); i++) {
      if (below.get(i) == group) {
        return true;
      }
    }
    return false;
  }
}
