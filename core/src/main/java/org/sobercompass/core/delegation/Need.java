package org.sobercompass.core.delegation;

import java.util.List;

/** What an admin action needs: a formula over rights. Immutable. */
public sealed interface Need {
  /** All of these. */
  record All(List<Need> parts) implements Need {}

  /** One of these. */
  record Any(List<Need> parts) implements Need {}

  /** The same on another object. */
  record At(Where where, Need need) implements Need {}

  /** Rights on the object as such, as bits of {@code DsRights}. */
  record Simple(int mask) implements Need {}

  /** Reading or writing an attribute. */
  record Attribute(int mask, String name) implements Need {}

  /** An extended right or a validated write, by the name of its object. */
  record Control(String name) implements Need {}

  /** Creating or deleting children of a class; empty for the class of the object itself. */
  record Child(int mask, String objectClass) implements Need {}

  /** Reading some attribute that is confidential. */
  record Confidential() implements Need {}

  /** On which object. */
  enum Where {
    PARENT,
    DESTINATION
  }
}
