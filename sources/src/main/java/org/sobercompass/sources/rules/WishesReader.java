package org.sobercompass.sources.rules;

import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.removal.Wishes;
import org.sobercompass.core.removal.Wishes.Kind;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.text.Node;

/** Reads what removals may take, and at what price. */
final class WishesReader {
  private static final int MOST = 1_000;

  private final List<AccessSystem> systems;
  private final SideReader sides;

  WishesReader(List<AccessSystem> systems, SideReader sides) {
    this.systems = systems;
    this.sides = sides;
  }

  Wishes read(Optional<Node> found) {
    if (found.isEmpty()) {
      return Wishes.NONE;
    }
    Node node = found.get().only(Set.of("stay", "costs"));
    Set<Integer> untouched = new HashSet<>();
    Set<String> stay = new HashSet<>();
    for (Node item : node.get("stay").map(Node::items).orElse(List.of())) {
      String text = item.text();
      if (systems.stream().anyMatch(system -> system.id().equals(text))) {
        stay.add(text);
      } else {
        int subject = sides.subject(text, item.place());
        if (subject >= 0) {
          untouched.add(subject);
        }
      }
    }
    return new Wishes(untouched, stay, costs(node.get("costs")));
  }

  private static Map<Kind, Integer> costs(Optional<Node> node) {
    Map<Kind, Integer> costs = new EnumMap<>(Kind.class);
    Set<String> words = Arrays.stream(Kind.values()).map(Kind::word).collect(Collectors.toSet());
    for (Kind kind : Kind.values()) {
      node.map(n -> n.only(words))
          .flatMap(n -> n.get(kind.word()))
          .ifPresent(
              value -> {
                boolean number = value.text().matches("[1-9][0-9]{0,3}");
                int cost = number ? Integer.parseInt(value.text()) : MOST + 1;
                if (cost > MOST) {
                  value.wrong(
                      Problem.quote(value.text()) + " is no cost", "a number from 1 to " + MOST);
                } else {
                  costs.put(kind, cost);
                }
              });
    }
    return costs;
  }
}
