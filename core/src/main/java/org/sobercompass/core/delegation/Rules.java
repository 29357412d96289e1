package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;

/** Turns needs into what is asked of one object's list ([MS-ADTS] 5.1.3.3). */
public final class Rules {
  private Rules() {}

  /**
   * What a need asks of an object of a class; empty when the directory does not know what it names,
   * so that nobody can tell.
   */
  public static Optional<Target> target(DsNames names, Requirement need, String objectClass) {
    if (need instanceof Requirement.Simple simple) {
      return Optional.of(Target.simple(simple.mask()));
    }
    if (need instanceof Requirement.Attribute attribute) {
      return names
          .attribute(attribute.name())
          .map(a -> property(names, attribute.mask(), a, objectClass));
    }
    if (need instanceof Requirement.Control control) {
      return names
          .right(control.name())
          .map(r -> Target.on(r.access() & (DsRights.CONTROL_ACCESS | DsRights.SELF), r.id()));
    }
    if (need instanceof Requirement.Child child) {
      String name = child.objectClass().isEmpty() ? objectClass : child.objectClass();
      return names.objectClass(name).map(c -> Target.on(child.mask(), c.id()));
    }
    throw new IllegalArgumentException("not one right: " + need);
  }

  /** Why nobody meets a need, whatever the lists say; empty where somebody may. */
  public static String never(DsNames names, Requirement need) {
    return need instanceof Requirement.Attribute a && (a.mask() & DsRights.WRITE_PROPERTY) != 0
        ? names.attribute(a.name()).map(DsNames.AttributeType::fixed).orElse("")
        : "";
  }

  /**
   * A need for children of the object's own class, with that class in it; all others as they are.
   */
  public static Requirement ofClass(Requirement need, String childClass) {
    return need instanceof Requirement.Child child && child.objectClass().isEmpty()
        ? new Requirement.Child(child.mask(), childClass)
        : need;
  }

  /** An attribute with its set and the class, any of which an entry may name. */
  static Target property(
      DsNames names, int mask, DsNames.AttributeType attribute, String objectClass) {
    List<UUID> types = new ArrayList<>(List.of(attribute.id()));
    attribute.set().ifPresent(types::add);
    names.objectClass(objectClass).ifPresent(c -> types.add(c.id()));
    return new Target(mask, types);
  }
}
