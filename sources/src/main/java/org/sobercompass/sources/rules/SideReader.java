package org.sobercompass.sources.rules;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.sources.NameResolver;

/**
 * Reads what rules name: {@code app:area:level}, {@code role app:role}, {@code act ACTION on
 * OBJECT} or {@code act ACTION in SCOPE}; subjects as {@code group x} or {@code account y}.
 */
final class SideReader {
  private final List<AccessSystem> systems;
  private final Administration administration;
  private final Facts facts;
  private final NameResolver names;
  private final Problems problems;

  SideReader(
      List<AccessSystem> systems, Administration administration, Facts facts, Problems problems) {
    this.systems = systems;
    this.administration = administration;
    this.facts = facts;
    this.names = new NameResolver(facts, problems);
    this.problems = problems;
  }

  Problems problems() {
    return problems;
  }

  Optional<Side> side(String written, Place place) {
    String text = written.strip();
    if (text.startsWith("role ")) {
      return role(text.substring(5).strip(), place);
    }
    return text.startsWith("act ")
        ? act(text.substring(4).strip(), place)
        : permission(text, place).map(p -> p);
  }

  Optional<Side.Permission> permission(String text, Place place) {
    int colon = text.indexOf(':');
    String id = colon < 0 ? text : text.substring(0, colon);
    Optional<AccessSystem> system = system(id, text, place);
    String right = text.substring(colon + 1);
    Optional<Integer> found = system.flatMap(s -> s.rights().find(right));
    if (system.isPresent() && found.isEmpty()) {
      problems.unknown(
          place,
          "there is no permission " + Problem.quote(right) + " in " + id,
          "an area and a level or action",
          right,
          system.get().rights().texts());
    }
    return found.map(r -> new Side.Permission(id, r));
  }

  Optional<AccessSystem> system(String id, String text, Place place) {
    Optional<AccessSystem> system = systems.stream().filter(s -> s.id().equals(id)).findFirst();
    if (system.isEmpty()) {
      List<String> ids = systems.stream().map(AccessSystem::id).toList();
      problems.unknown(
          place,
          Problem.quote(text) + " names no application",
          text.equals(id)
              ? "the id of an application, as in " + (ids.isEmpty() ? "app" : ids.get(0))
              : "application:area:level, as in "
                  + (ids.isEmpty() ? "app" : ids.get(0))
                  + ":area:level",
          id,
          ids);
    }
    return system;
  }

  private Optional<Side> role(String text, Place place) {
    int colon = text.indexOf(':');
    String id = colon < 0 ? text : text.substring(0, colon);
    Optional<AccessSystem> system = system(id, text, place);
    String name = text.substring(colon + 1);
    Optional<Integer> found = system.flatMap(s -> s.findRole(name));
    if (system.isPresent() && found.isEmpty()) {
      problems.unknown(
          place,
          "there is no role " + Problem.quote(name) + " in " + id,
          "role application:role",
          name,
          system.get().roles().stream().map(RoleInfo::id).toList());
    }
    return found.map(r -> new Side.RoleHeld(id, r));
  }

  private Optional<Side> act(String text, Place place) {
    String[] words = text.split("\\s+", 3);
    List<String> ids = administration.actions().stream().map(AdminAction::id).toList();
    if (words.length < 3 || !(words[1].equals("on") || words[1].equals("in"))) {
      problems.error(
          place,
          Problem.quote("act " + text) + " does not say to whom",
          "act ACTION on OBJECT, or act ACTION in SCOPE");
      return Optional.empty();
    }
    if (administration.action(words[0]).isEmpty()) {
      problems.unknown(
          place,
          "there is no admin action " + Problem.quote(words[0]),
          "an action of the catalogue",
          words[0],
          ids);
      return Optional.empty();
    }
    if (words[1].equals("on")) {
      int object = subject(words[2], place);
      return object < 0
          ? Optional.empty()
          : Optional.of(new Side.Act(words[0], OptionalInt.of(object), OptionalInt.empty()));
    }
    Optional<Integer> scope = administration.scope(words[2]);
    if (scope.isEmpty()) {
      problems.unknown(
          place,
          "there is no admin scope " + Problem.quote(words[2]),
          "a scope of the workspace",
          words[2],
          administration.scopes().stream().map(AdminScope::id).toList());
    }
    return scope.map(s -> new Side.Act(words[0], OptionalInt.empty(), OptionalInt.of(s)));
  }

  /**
   * A subject: {@code group x}, {@code account y}; an account where no kind is said. In a rule a
   * name that fits nobody is an error: the rule would not say what it seems to.
   */
  int subject(String written, Place place) {
    NameResolver.Written who = NameResolver.Written.of(written);
    return named(who.kind(), who.name(), place);
  }

  private int named(SubjectKind kind, String name, Place place) {
    if (NameResolver.find(facts, kind, name).isEmpty()) {
      problems.unknown(
          place,
          "there is no " + kind.words() + " " + Problem.quote(name),
          "group, account or unit and a name; a name alone is an account",
          name,
          facts.names().known(kind));
      return Grant.MISSING;
    }
    return names.resolve(kind, name, place);
  }

  Weight weight(String word, Place place) {
    for (Weight weight : Weight.values()) {
      if (weight.word().equals(word.strip().toLowerCase(Locale.ROOT))) {
        return weight;
      }
    }
    problems.error(place, Problem.quote(word) + " is no weight", "low, medium or high");
    return Weight.HIGH;
  }

  /** Whether two things on different sides are the same, or one contains the other. */
  boolean overlap(Side a, Side b) {
    if (a instanceof Side.Permission p && b instanceof Side.Permission q) {
      return p.system().equals(q.system())
          && (p.right() == q.right()
              || contains(p.system(), p.right(), q.right())
              || contains(p.system(), q.right(), p.right()));
    }
    return a.equals(b);
  }

  private boolean contains(String system, int right, int other) {
    return systems.stream()
        .filter(s -> s.id().equals(system))
        .anyMatch(s -> s.rights().contains(right).contains(other));
  }

  String words(Side side) {
    if (side instanceof Side.Permission p) {
      return systems.stream()
          .filter(s -> s.id().equals(p.system()))
          .map(s -> p.system() + ":" + s.rights().text(p.right()))
          .findFirst()
          .orElse(p.system());
    }
    return side.toString();
  }
}
