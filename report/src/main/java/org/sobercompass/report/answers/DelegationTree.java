package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.descriptor.Descriptor;

/** The tree of organizational units with what was delegated on each. Not thread-safe. */
public final class DelegationTree {
  private final Map<DirectoryTree, Delegations> delegations;
  private final Function<String, String> holder;

  /**
   * A tree of delegations.
   *
   * @param delegations those of each directory
   * @param holder who a SID is, in words
   */
  DelegationTree(Map<DirectoryTree, Delegations> delegations, Function<String, String> holder) {
    this.delegations = delegations;
    this.holder = holder;
  }

  /** What the tree says, in a sentence. */
  public String heading(DirectoryTrees.Spot at) {
    DirectoryTree tree = at.tree();
    Delegations lister = delegations.get(tree);
    int objects = 0;
    int found = 0;
    for (int object = at.object(); lister != null && object < tree.end(at.object()); object++) {
      int here = lister.on(object, Set.of(Origin.ADDED, Origin.CLAIMED)).size();
      objects += here > 0 ? 1 : 0;
      found += here;
    }
    return AnswerContext.count(found, "delegation", "delegations")
        + " on "
        + objects
        + " of "
        + AnswerContext.count(tree.end(at.object()) - at.object(), "object", "objects")
        + " of "
        + tree.directory()
        + ".";
  }

  /**
   * One object of a tree of organizational units.
   *
   * @param depth how many objects it stands in, from where the tree begins
   * @param sign ? not read, + with delegations, | inheritance blocked, . nothing of its own
   * @param own its delegations, a sign before each: + gives, - denies, ! says it is inherited
   */
  public record Line(int depth, String sign, String name, boolean blocked, List<String> own) {}

  /** The tree of organizational units with what was delegated on each, down from one object. */
  public List<Line> lines(DirectoryTrees.Spot at) {
    DirectoryTree tree = at.tree();
    Delegations lister = delegations.get(tree);
    List<Line> lines = new ArrayList<>();
    int depth0 = depth(tree, at.object());
    for (int object = at.object(); object < tree.end(at.object()); object++) {
      String kind = tree.objectClass(object);
      boolean shown =
          object == at.object()
              || tree.names().isA(kind, "organizationalUnit")
              || tree.names().isA(kind, "container")
              || tree.names().isA(kind, "domain");
      List<Delegation> own =
          lister == null ? List.of() : lister.on(object, Set.of(Origin.ADDED, Origin.CLAIMED));
      if (shown || !own.isEmpty()) {
        lines.add(line(tree, object, depth(tree, object) - depth0, own));
      }
    }
    return lines;
  }

  /** The same as text, a line an object. */
  public List<String> text(DirectoryTrees.Spot at) {
    return lines(at).stream()
        .map(
            line ->
                "  ".repeat(line.depth)
                    + line.sign
                    + " "
                    + line.name
                    + (line.blocked ? "  [inheritance blocked]" : "")
                    + line.own.stream()
                        .map(d -> "\n" + "  ".repeat(line.depth + 2) + d)
                        .collect(Collectors.joining()))
        .toList();
  }

  private static int depth(DirectoryTree tree, int object) {
    int depth = 0;
    for (int at = tree.parent(object); at >= 0; at = tree.parent(at)) {
      depth++;
    }
    return depth;
  }

  private Line line(DirectoryTree tree, int object, int depth, List<Delegation> own) {
    boolean blocked = tree.descriptor(object).map(Descriptor::isProtected).orElse(false);
    boolean unreadable = tree.descriptor(object).isEmpty();
    String sign = unreadable ? "?" : own.isEmpty() ? (blocked ? "|" : ".") : "+";
    List<String> told = new ArrayList<>();
    for (Delegation d : own) {
      String mark = d.origin() == Origin.CLAIMED ? "! " : d.denies() ? "- " : "+ ";
      told.add(mark + holder.apply(d.trustee()) + ": " + d.may());
    }
    return new Line(depth, sign, tree.label(object), blocked, told);
  }
}
