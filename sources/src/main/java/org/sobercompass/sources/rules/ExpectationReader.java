package org.sobercompass.sources.rules;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.expect.Expectation;
import org.sobercompass.core.expect.Expectation.Kind;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/**
 * Reads expectations: {@code these} with {@code can} or {@code cannot}, {@code only} with {@code
 * can}, {@code nobody-outside} with {@code can}, or {@code nobody-holds}.
 */
public final class ExpectationReader {
  private static final Set<String> KEYS =
      Set.of(
          "id",
          "name",
          "these",
          "only",
          "nobody-outside",
          "nobody-holds",
          "can",
          "cannot",
          "at",
          "count-blocked");
  private static final List<String> WHO = List.of("these", "only", "nobody-outside");
  private static final String FORMS =
      "these: with can: or cannot:, only: with can:, nobody-outside: with can:, or nobody-holds:";

  private final Folder root;
  private final List<AccessSystem> systems;
  private final SideReader sides;
  private final Problems problems;

  /** A reader of the files of a workspace. */
  public ExpectationReader(
      Folder root,
      Facts facts,
      List<AccessSystem> systems,
      Administration administration,
      Problems problems) {
    this.root = root;
    this.systems = systems;
    this.sides = new SideReader(systems, administration, facts, problems);
    this.problems = problems;
  }

  /** All expectations of the files; what is wrong goes to the problems. */
  public List<Expectation> read(List<String> files) {
    List<Expectation> all = new ArrayList<>();
    Set<String> ids = new HashSet<>();
    for (String file : files) {
      Optional<Node> read = YamlReader.read(root.resolve(file), file, problems);
      List<Node> items =
          read.flatMap(node -> node.only(Set.of("expectations")).get("expectations"))
              .map(Node::items)
              .orElse(List.of());
      int before = problems.errors();
      if (read.isPresent() && items.isEmpty() && problems.errors() == before) {
        read.get().wrong("the file states no expectation", "expectations: and a list of them");
      }
      for (Node item : items) {
        one(item).ifPresent(all::add);
        if (!ids.add(item.text("id").orElse(""))) {
          item.wrong(
              "the expectation " + item.text("id").orElse("") + " stands twice", "each once");
        }
      }
    }
    return List.copyOf(all);
  }

  private Optional<Expectation> one(Node node) {
    node.only(KEYS);
    String id = node.need("id");
    Optional<Kind> kind = kind(node);
    if (kind.isEmpty()) {
      node.wrong("the expectation " + id + " does not say what is expected", FORMS);
      return Optional.empty();
    }
    int before = problems.errors();
    List<Side> what = new ArrayList<>();
    for (String key : List.of("can", "cannot", "nobody-holds")) {
      for (Node item : node.get(key).map(Node::items).orElse(List.of())) {
        sides.side(item.text(), item.place()).ifPresent(what::add);
      }
    }
    boolean together = kind.get() == Kind.NOBODY_HOLDS;
    int asked = node.get("nobody-holds").map(n -> n.items().size()).orElse(1);
    if (together && asked < 2) {
      node.wrong("nobody-holds: names " + asked, "two or more that nobody holds together");
    }
    List<Integer> who = new ArrayList<>();
    for (String key : WHO) {
      for (Node item : node.get(key).map(Node::items).orElse(List.of())) {
        int subject = sides.subject(item.text(), item.place());
        if (subject >= 0) {
          who.add(subject);
        }
      }
    }
    int node0 = node(node, what);
    boolean someone = WHO.stream().noneMatch(key -> node.get(key).isPresent()) || !who.isEmpty();
    if (problems.errors() == before && (what.isEmpty() || !someone)) {
      node.wrong(
          "the expectation " + id + " names " + (what.isEmpty() ? "nothing" : "nobody"),
          what.isEmpty() ? "a permission, role or admin action" : "an account, group or unit");
    }
    if (what.isEmpty() || !someone) {
      return Optional.empty();
    }
    return Optional.of(
        new Expectation(
            id,
            node.text("name").orElse(id),
            kind.get(),
            who,
            what,
            node0,
            node.yes("count-blocked", false),
            node.place()));
  }

  private static Optional<Kind> kind(Node node) {
    long said = WHO.stream().filter(key -> node.get(key).isPresent()).count();
    boolean holds = node.get("nobody-holds").isPresent();
    boolean can = node.get("can").isPresent();
    boolean cannot = node.get("cannot").isPresent();
    if (holds) {
      return said == 0 && !can && !cannot ? Optional.of(Kind.NOBODY_HOLDS) : Optional.empty();
    }
    if (said != 1 || can == cannot) {
      return Optional.empty();
    }
    if (node.get("these").isPresent()) {
      return Optional.of(can ? Kind.CAN : Kind.CANNOT);
    }
    return cannot
        ? Optional.empty()
        : Optional.of(node.get("only").isPresent() ? Kind.ONLY : Kind.NOBODY_OUTSIDE);
  }

  /** The node that {@code at} names, in the one application that is asked about. */
  private int node(Node node, List<Side> what) {
    Optional<String> at = node.text("at");
    if (at.isEmpty()) {
      return -1;
    }
    Set<String> ids = new HashSet<>();
    for (Side side : what) {
      if (side instanceof Side.Permission permission) {
        ids.add(permission.system());
      } else if (side instanceof Side.RoleHeld role) {
        ids.add(role.system());
      }
    }
    Optional<AccessSystem> system =
        systems.stream().filter(s -> ids.size() == 1 && ids.contains(s.id())).findFirst();
    Optional<Integer> found = system.flatMap(s -> s.resources().find(at.get()));
    if (found.isEmpty() && !what.isEmpty()) {
      problems.unknown(
          node.get("at").map(Node::place).orElse(node.place()),
          "there is no node " + Problem.quote(at.get()),
          "a node of the one application that is asked about",
          at.get(),
          system.map(s -> s.resources().ids()).orElse(List.of()));
    }
    return found.orElse(-1);
  }
}
