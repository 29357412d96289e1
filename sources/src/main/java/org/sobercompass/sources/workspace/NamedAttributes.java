package org.sobercompass.sources.workspace;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.admin.AttributeCheck;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.Node;

/** Tells the attributes that rules of the workspace name and no entry has: mostly misspelt. */
final class NamedAttributes {
  /** Where {@code compass.yaml} names attributes: block, key. */
  private static final List<List<String>> PLACES =
      List.of(
          List.of("persons", "link"),
          List.of("findings", "owner-attributes"),
          List.of("findings", "peers", "by"),
          List.of("findings", "dormant", "attributes"));

  private NamedAttributes() {}

  static void tell(Node main, Facts facts, Problems problems) {
    for (List<String> keys : PLACES) {
      Optional<Node> at = Optional.of(main);
      for (String key : keys) {
        at = at.flatMap(node -> node.get(key));
      }
      at.ifPresent(node -> each(node, facts, problems));
    }
  }

  private static void each(Node named, Facts facts, Problems problems) {
    for (Node item : named.items()) {
      AttributeCheck.unfilled(item.place(), facts, Optional.empty(), item.text())
          .ifPresent(problems::add);
    }
  }
}
