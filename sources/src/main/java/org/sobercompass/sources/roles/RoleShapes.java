package org.sobercompass.sources.roles;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.roles.Combining;
import org.sobercompass.core.system.roles.RoleDefinition;
import org.sobercompass.core.system.roles.RoleRights;
import org.sobercompass.sources.Ids;
import org.sobercompass.sources.text.Node;

/** Reads the shapes of an application file: areas, levels, actions, nodes, combining, roles. */
final class RoleShapes {
  private static final String NAME = ".name";
  private static final String ONLY_NODE = "everywhere";

  private final Problems problems;

  RoleShapes(Problems problems) {
    this.problems = problems;
  }

  private record Open(String path, Node node) {}

  RoleRights rights(Node file) {
    List<String> areas = new ArrayList<>();
    Deque<Open> open = new ArrayDeque<>();
    Optional<Node> root = file.get("areas");
    if (root.isEmpty()) {
      file.wrong("there are no areas", "areas: and at least one");
    }
    root.ifPresent(node -> push(open, "", node));
    while (!open.isEmpty()) {
      Open next = open.pop();
      areas.add(next.path);
      push(open, next.path + "/", next.node);
    }
    List<String> levels = words(file, "levels");
    List<String> actions = words(file, "actions");
    if (levels.isEmpty() && actions.isEmpty()) {
      file.wrong("there are neither levels nor actions", "levels: from the lowest up, or actions:");
    }
    Set<String> twice = new LinkedHashSet<>(levels);
    twice.retainAll(actions);
    if (!twice.isEmpty()) {
      file.wrong(String.join(", ", twice) + " is both a level and an action", "one of both");
    }
    return new RoleRights(areas, levels, actions);
  }

  /** Children in reverse, so that the first comes off the stack first; a list is one of leaves. */
  private void push(Deque<Open> open, String prefix, Node node) {
    List<Open> children = new ArrayList<>();
    if (node.kind() == Node.Kind.MAP) {
      node.entries()
          .forEach(
              (id, child) ->
                  children.add(new Open(prefix + Ids.check(id, child, problems), child)));
    } else {
      for (Node item : node.items()) {
        Node nothing = item;
        children.add(new Open(prefix + Ids.check(item.text(), item, problems), nothing));
      }
    }
    for (int i = children.size() - 1; i >= 0; i--) {
      Open child = children.get(i);
      boolean leaf = child.node.kind() == Node.Kind.SCALAR;
      open.push(leaf ? new Open(child.path, EMPTY) : child);
    }
  }

  private static final Node EMPTY = Node.nothing();

  private List<String> words(Node file, String key) {
    List<String> words = file.texts(key);
    for (String word : words) {
      Ids.check(word, file.get(key).orElse(file), problems);
    }
    if (Set.copyOf(words).size() < words.size()) {
      file.wrong(key + " names something twice", "each once");
    }
    return List.copyOf(new LinkedHashSet<>(words));
  }

  Resources nodes(Node file) {
    Optional<Node> root = file.get("nodes");
    if (root.isEmpty()) {
      return Resources.of(List.of(new Resources.Item(ONLY_NODE, ONLY_NODE, "")));
    }
    Map<String, Resources.Item> items = new LinkedHashMap<>();
    Deque<Open> open = new ArrayDeque<>();
    open.push(new Open("", root.get()));
    while (!open.isEmpty()) {
      Open next = open.pop();
      next.node
          .entries()
          .forEach(
              (id, child) -> {
                if (!id.equals(NAME)) {
                  node(id, child, next.path, items);
                  open.push(new Open(id, child));
                }
              });
    }
    long roots = items.values().stream().filter(item -> item.parent().isEmpty()).count();
    if (roots != 1) {
      root.get()
          .wrong("there are " + roots + " top nodes", "exactly one, with the others below it");
      return Resources.of(List.of(new Resources.Item(ONLY_NODE, ONLY_NODE, "")));
    }
    return Resources.of(List.copyOf(items.values()));
  }

  private void node(String id, Node child, String parent, Map<String, Resources.Item> items) {
    Ids.check(id, child, problems);
    String name = child.kind() == Node.Kind.SCALAR ? child.text() : child.text(NAME).orElse(id);
    if (items.putIfAbsent(id, new Resources.Item(id, name, parent)) != null) {
      child.wrong("the node " + id + " stands twice", "each node once, wherever in the tree");
    }
  }

  Combining combining(Node file) {
    Optional<Node> node = file.get("combining");
    if (node.isEmpty()) {
      return Combining.UNION;
    }
    if (node.get().kind() == Node.Kind.MAP) {
      node.get().only(Set.of("nearest"));
      List<String> by = node.get().texts("nearest");
      if (!by.isEmpty() && List.of("node", "subject").containsAll(by)) {
        return Combining.nearest(by.contains("node"), by.contains("subject"));
      }
      node.get().wrong("nearest needs to say what is near", "nearest: [node], [subject] or both");
      return Combining.UNION;
    }
    return switch (node.get().text()) {
      case "union" -> Combining.UNION;
      case "deny-overrides" -> Combining.DENY_OVERRIDES;
      default -> {
        problems.unknown(
            node.get().place(),
            Problem.quote(node.get().text()) + " is no way of combining",
            "union, deny-overrides, or nearest: [node, subject]",
            node.get().text(),
            List.of("union", "deny-overrides"));
        yield Combining.UNION;
      }
    };
  }

  List<RoleDefinition> roles(Node file) {
    List<RoleDefinition> roles = new ArrayList<>();
    Optional<Node> all = file.get("roles");
    if (all.isEmpty() || all.get().entries().isEmpty()) {
      file.wrong("there are no roles", "roles: and at least one");
    }
    all.ifPresent(
        node ->
            node.entries()
                .forEach(
                    (id, role) -> {
                      role.only(Set.of("name", "derives", "includes", "allows", "denies"));
                      roles.add(
                          new RoleDefinition(
                              Ids.check(id, role, problems),
                              role.text("name").orElse(id),
                              role.text("derives").orElse(""),
                              role.texts("includes"),
                              entries(role, "allows"),
                              entries(role, "denies"),
                              role.place()));
                    }));
    return roles;
  }

  private static Map<String, List<String>> entries(Node role, String key) {
    Map<String, List<String>> entries = new LinkedHashMap<>();
    role.get(key)
        .ifPresent(
            node ->
                node.entries()
                    .forEach(
                        (area, words) ->
                            entries.put(area, words.items().stream().map(Node::text).toList())));
    return entries;
  }
}
