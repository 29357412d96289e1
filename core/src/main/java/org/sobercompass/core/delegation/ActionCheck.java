package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.descriptor.AccessCheck;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.system.Verdict;

/**
 * Whether one account can do something to objects of one directory. Answers are shared only between
 * objects of the same list, class and relation to the account. Not thread-safe.
 */
public final class ActionCheck {
  private final DirectoryTree tree;
  private final DsNames names;
  private final Set<String> token;
  private final Set<String> perhaps;
  private final Map<Key, Verdict> known = new HashMap<>();

  private record Key(Requirement need, int descriptor, int kind, Verdict self) {}

  /** For whoever counts as these SIDs, and as no others. */
  public ActionCheck(DirectoryTree tree, Set<String> token) {
    this(tree, token, Set.of());
  }

  /**
   * For whoever counts as these SIDs.
   *
   * @param perhaps those of which it is not known whether he counts as them
   */
  public ActionCheck(DirectoryTree tree, Set<String> token, Set<String> perhaps) {
    this.perhaps = perhaps;
    this.tree = tree;
    this.names = tree.names();
    this.token = token;
  }

  /**
   * Whether the token has a trustee, seen from an object: the object itself stands for SELF, so
   * that on a group its members are meant ([MS-DTYP] 2.5.3.2, PrincipalSelfSubst).
   */
  Verdict holds(String sid, int object) {
    return sid.equals(WellKnown.SELF) && holds(sid) != Verdict.YES
        ? holds(tree.sid(object))
        : holds(sid);
  }

  private Verdict holds(String sid) {
    return token.contains(sid)
        ? Verdict.YES
        : perhaps.contains(sid) ? Verdict.UNDECIDED : Verdict.NO;
  }

  /**
   * Decides a need.
   *
   * @param destination where an object would be moved to, or -1
   */
  public Verdict decide(Requirement need, int object, int destination) {
    return decide(need, object, destination, tree.objectClass(object));
  }

  private Verdict decide(Requirement need, int object, int destination, String childClass) {
    if (need instanceof Requirement.All all) {
      Verdict verdict = Verdict.YES;
      for (Requirement part : all.parts()) {
        verdict = verdict.and(decide(part, object, destination, childClass));
      }
      return verdict;
    }
    if (need instanceof Requirement.Any any) {
      Verdict verdict = Verdict.NO;
      for (Requirement part : any.parts()) {
        Verdict one = decide(part, object, destination, childClass);
        verdict = one.ordinal() > verdict.ordinal() ? one : verdict;
      }
      return verdict;
    }
    if (need instanceof Requirement.At at) {
      return elsewhere(at, object, destination, childClass);
    }
    if (need instanceof Requirement.Confidential) {
      return confidential(object);
    }
    return leaf(need, object, childClass);
  }

  private Verdict elsewhere(Requirement.At at, int object, int destination, String childClass) {
    int other = at.where() == Requirement.Where.PARENT ? tree.parent(object) : destination;
    if (other < 0) {
      return at.where() == Requirement.Where.PARENT ? Verdict.NO : Verdict.UNDECIDED;
    }
    return decide(at.need(), other, destination, childClass);
  }

  /**
   * One right on one object, of which {@code childClass} is the class that children are made of.
   */
  private Verdict leaf(Requirement need, int object, String childClass) {
    if (!Rules.never(names, need).isEmpty()) {
      return Verdict.NO;
    }
    int number = tree.descriptorNumber(object);
    if (number == DirectoryTree.UNREADABLE) {
      return Verdict.UNDECIDED;
    }
    Verdict self = holds(tree.sid(object));
    Requirement resolved = Rules.ofClass(need, childClass);
    return known.computeIfAbsent(
        new Key(resolved, number, tree.kind(object), self),
        key ->
            Rules.target(names, resolved, tree.objectClass(object))
                .map(
                    target ->
                        AccessCheck.decide(
                            tree.descriptorOf(number), sid -> holds(sid, object), target))
                .orElse(Verdict.UNDECIDED));
  }

  private Verdict confidential(int object) {
    Verdict verdict = Verdict.NO;
    for (DsNames.AttributeType attribute : names.attributes()) {
      if (attribute.confidential() && verdict != Verdict.YES) {
        Verdict one = decide(bothOf(attribute), object, -1);
        verdict = one.ordinal() > verdict.ordinal() ? one : verdict;
      }
    }
    return verdict;
  }

  private static Requirement bothOf(DsNames.AttributeType confidential) {
    return new Requirement.All(
        List.of(
            new Requirement.Attribute(DsRights.READ_PROPERTY, confidential.name()),
            new Requirement.Attribute(DsRights.CONTROL_ACCESS, confidential.name())));
  }

  /** What is asked for the first confidential attribute, by name, that can be read. */
  private Optional<Requirement> confidentialRead(int object) {
    return names.attributes().stream()
        .filter(DsNames.AttributeType::confidential)
        .sorted(java.util.Comparator.comparing(DsNames.AttributeType::name))
        .map(ActionCheck::bothOf)
        .filter(both -> decide(both, object, -1) == Verdict.YES)
        .findFirst();
  }

  /** Rights asked of an object directly. */
  public Verdict decide(int object, Target target) {
    Optional<Descriptor> descriptor = tree.descriptor(object);
    return descriptor
        .map(d -> AccessCheck.decide(d, sid -> holds(sid, object), target))
        .orElse(Verdict.UNDECIDED);
  }

  /**
   * One entry, or ownership, that a decision rests on.
   *
   * @param object the object whose list it stands in
   * @param entry the number of the entry, or -1
   * @param words when it is no entry: ownership, no list at all
   * @param need what it was asked for
   * @param gives whether it gives; else it takes away
   */
  public record Ground(int object, int entry, String words, Requirement need, boolean gives) {}

  /** The grounds of a decision: entries that give what is needed, or that stop it. */
  public List<Ground> grounds(Requirement need, int object, int destination) {
    List<Ground> grounds = new ArrayList<>();
    collect(need, object, destination, tree.objectClass(object), grounds);
    return grounds;
  }

  private void collect(
      Requirement need, int object, int destination, String childClass, List<Ground> grounds) {
    if (need instanceof Requirement.All all) {
      all.parts().forEach(part -> collect(part, object, destination, childClass, grounds));
    } else if (need instanceof Requirement.Any any) {
      any.parts().forEach(part -> collect(part, object, destination, childClass, grounds));
    } else if (need instanceof Requirement.At at) {
      int other = at.where() == Requirement.Where.PARENT ? tree.parent(object) : destination;
      if (other >= 0) {
        collect(at.need(), other, destination, childClass, grounds);
      }
    } else if (need instanceof Requirement.Confidential) {
      confidentialRead(object).ifPresent(of -> collect(of, object, -1, childClass, grounds));
    } else {
      Requirement resolved = Rules.ofClass(need, childClass);
      one(resolved, object, grounds);
    }
  }

  private void one(Requirement need, int object, List<Ground> grounds) {
    Optional<Descriptor> descriptor = tree.descriptor(object);
    Optional<Target> target = Rules.target(names, need, tree.objectClass(object));
    if (descriptor.isEmpty() || target.isEmpty()) {
      return;
    }
    for (int left = DsRights.mapped(target.get().mask()); left != 0; left &= left - 1) {
      Target single = new Target(Integer.lowestOneBit(left), target.get().types());
      AccessCheck.Reason reason =
          AccessCheck.explain(descriptor.get(), sid -> holds(sid, object), single);
      if (reason.noList()) {
        grounds.add(new Ground(object, -1, "there is no list", need, true));
      } else if (reason.byOwner()) {
        grounds.add(new Ground(object, -1, "it is the owner", need, true));
      }
      reason.gives().forEach(i -> grounds.add(new Ground(object, i, "", need, true)));
      reason.stops().ifPresent(i -> grounds.add(new Ground(object, i, "", need, false)));
    }
  }
}
