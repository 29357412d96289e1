package org.sobercompass.sources.rules;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Routine;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.text.Node;

/** Reads which changes between surveys need no word. */
final class RoutineReader {
  private final List<AccessSystem> systems;
  private final SideReader sides;
  private final Facts facts;
  private final Problems problems;

  RoutineReader(List<AccessSystem> systems, SideReader sides, Facts facts, Problems problems) {
    this.systems = systems;
    this.sides = sides;
    this.facts = facts;
    this.problems = problems;
  }

  Routine read(Optional<Node> found) {
    if (found.isEmpty()) {
      return Routine.NONE;
    }
    Node node = found.get().only(Set.of("groups", "applications", "accounts"));
    Set<Key> groups = new HashSet<>();
    for (Node item : items(node, "groups")) {
      String name = item.text().replaceFirst("^group[ :]", "");
      int group = sides.subject("group " + name, item.place());
      if (group >= 0) {
        groups.add(facts.key(group));
      }
    }
    List<String> ids = systems.stream().map(AccessSystem::id).toList();
    for (Node item : items(node, "applications")) {
      if (!ids.contains(item.text())) {
        String what = "there is no application " + Problem.quote(item.text());
        problems.unknown(item.place(), what, "the id of an application", item.text(), ids);
      }
    }
    for (Node item : items(node, "accounts")) {
      if (!Routine.OF_ACCOUNTS.contains(item.text())) {
        String what = Problem.quote(item.text()) + " does not happen to accounts";
        problems.unknown(
            item.place(), what, "new, gone, renamed or moved", item.text(), Routine.OF_ACCOUNTS);
      }
    }
    return new Routine(
        groups, Set.copyOf(node.texts("applications")), Set.copyOf(node.texts("accounts")));
  }

  private static List<Node> items(Node node, String key) {
    return node.get(key).map(Node::items).orElse(List.of());
  }
}
