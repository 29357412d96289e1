package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.delegation.Rules;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.system.Verdict;

/**
 * An admin action on an object as rights that are asked of lists: all of some, one of some, each a
 * right on the object, on the one above it, or on the one it would be moved to. Immutable.
 */
sealed interface Formula {
  /** All of these. */
  record All(List<Formula> parts) implements Formula {}

  /** One of these. */
  record Any(List<Formula> parts) implements Formula {}

  /** One right, or several on the same part, on one object. */
  record Leaf(int object, Requirement need) implements Formula {}

  /** Known without asking a list. */
  record Known(Verdict verdict, String note) implements Formula {}

  /** What an action asks for on an object. */
  static Formula of(DirectoryTree tree, AdminAction action, int object, int destination) {
    if (!action.fits(tree.names(), tree.objectClass(object))) {
      return new Known(Verdict.NO, "it cannot be done to an object of this class");
    }
    return new Reading(tree, tree.objectClass(object), destination).of(action.need(), object);
  }

  /**
   * Reads requirements.
   *
   * @param tree the objects
   * @param childClass the class that children are made of, where a need does not say it
   * @param destination where the object would be moved to, or -1
   */
  record Reading(DirectoryTree tree, String childClass, int destination) {
    Formula of(Requirement need, int object) {
      if (need instanceof Requirement.All all) {
        return new All(all.parts().stream().map(part -> of(part, object)).toList());
      }
      if (need instanceof Requirement.Any any) {
        return new Any(any.parts().stream().map(part -> of(part, object)).toList());
      }
      if (need instanceof Requirement.At at) {
        boolean above = at.where() == Requirement.Where.PARENT;
        int other = above ? tree.parent(object) : destination;
        return other >= 0
            ? of(at.need(), other)
            : above
                ? new Known(Verdict.NO, "nothing stands above it")
                : new Known(Verdict.UNDECIDED, "it is not said where it would go");
      }
      if (need instanceof Requirement.Confidential) {
        return confidential(object);
      }
      String never = Rules.never(tree.names(), need);
      return never.isEmpty()
          ? new Leaf(object, Rules.ofClass(need, childClass))
          : new Known(Verdict.NO, never);
    }

    /** Reading one confidential attribute takes an extended right too ([MS-ADTS] 3.1.1.4.4). */
    private Formula confidential(int object) {
      List<Formula> parts = new ArrayList<>();
      tree.names().attributes().stream()
          .filter(DsNames.AttributeType::confidential)
          .map(DsNames.AttributeType::name)
          .sorted()
          .forEach(
              name ->
                  parts.add(
                      new All(
                          List.of(
                              leaf(object, DsRights.READ_PROPERTY, name),
                              leaf(object, DsRights.CONTROL_ACCESS, name)))));
      return new Any(parts);
    }

    private static Leaf leaf(int object, int mask, String name) {
      return new Leaf(object, new Requirement.Attribute(mask, name));
    }
  }
}
