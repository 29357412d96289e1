package org.sobercompass.sources.workspace;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.SeparationRule.Permission;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.text.Node;

/** Reads separation of duties rules. */
final class SeparationReader {
  private final List<AccessSystem> systems;
  private final Problems problems;

  SeparationReader(List<AccessSystem> systems, Problems problems) {
    this.systems = systems;
    this.problems = problems;
  }

  List<SeparationRule> read(Optional<Node> rules) {
    List<SeparationRule> all = new ArrayList<>();
    Set<String> ids = new HashSet<>();
    for (Node node : rules.map(Node::items).orElse(List.of())) {
      SeparationRule rule = rule(node);
      if (!ids.add(rule.id())) {
        node.wrong("the rule " + rule.id() + " stands twice", "each rule once");
      }
      all.add(rule);
    }
    return all;
  }

  private SeparationRule rule(Node node) {
    node.only(Set.of("id", "name", "sides", "at-least", "weight"));
    List<List<Permission>> sides = new ArrayList<>();
    for (Node side : node.get("sides").map(Node::items).orElse(List.of())) {
      sides.add(side.items().stream().flatMap(item -> permission(item).stream()).toList());
    }
    if (sides.size() < 2 || sides.size() > 60) {
      node.wrong(
          "the rule has " + sides.size() + " sides", "2 to 60 sides, each a list of permissions");
    }
    String many = node.text("at-least").orElse(String.valueOf(Math.max(2, sides.size())));
    int atLeast = many.matches("[0-9]{1,2}") ? Integer.parseInt(many) : 0;
    if (atLeast < 2 || atLeast > Math.max(2, sides.size())) {
      node.wrong("at-least: " + Problem.quote(many), "a number from 2 to the number of sides");
    }
    return new SeparationRule(
        node.need("id"),
        node.text("name").orElse(node.text("id").orElse("")),
        sides,
        atLeast,
        weight(node),
        node.place());
  }

  private Weight weight(Node node) {
    String word = node.text("weight").orElse("high");
    for (Weight weight : Weight.values()) {
      if (weight.word().equals(word.toLowerCase(Locale.ROOT))) {
        return weight;
      }
    }
    node.wrong(Problem.quote(word) + " is no weight", "low, medium or high");
    return Weight.HIGH;
  }

  private Optional<Permission> permission(Node node) {
    String text = node.text();
    int colon = text.indexOf(':');
    String id = colon < 0 ? text : text.substring(0, colon);
    Optional<AccessSystem> system = systems.stream().filter(s -> s.id().equals(id)).findFirst();
    if (system.isEmpty()) {
      List<String> ids = systems.stream().map(AccessSystem::id).toList();
      problems.unknown(
          node.place(),
          Problem.quote(text) + " names no application",
          "application:area:level, as in " + (ids.isEmpty() ? "app" : ids.get(0)) + ":area:level",
          id,
          ids);
      return Optional.empty();
    }
    String right = text.substring(colon + 1);
    Optional<Integer> found = system.get().rights().find(right);
    if (found.isEmpty()) {
      problems.unknown(
          node.place(),
          "there is no permission " + Problem.quote(right) + " in " + id,
          "an area and a level or action",
          right,
          system.get().rights().texts());
    }
    return found.map(r -> new Permission(id, r));
  }
}
