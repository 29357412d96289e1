package org.sobercompass.core.delegation;

import java.util.List;

/** What an admin action needs: a formula over rights. Immutable. */
public sealed interface Requirement {
  /** All of these. */
  record All(List<Requirement> parts) implements Requirement {}

  /** One of these. */
  record Any(List<Requirement> parts) implements Requirement {}

  /** The same on another object. */
  record At(Where where, Requirement need) implements Requirement {}

  /** Rights on the object as such, as bits of {@code DsRights}. */
  record Simple(int mask) implements Requirement {}

  /** Reading or writing an attribute. */
  record Attribute(int mask, String name) implements Requirement {}

  /** An extended right or a validated write, by the name of its object. */
  record Control(String name) implements Requirement {}

  /** Creating or deleting children of a class; empty for the class of the object itself. */
  record Child(int mask, String objectClass) implements Requirement {}

  /** Reading some attribute that is confidential. */
  record Confidential() implements Requirement {}

  /** On which object. */
  enum Where {
    PARENT,
    DESTINATION
  }
}
