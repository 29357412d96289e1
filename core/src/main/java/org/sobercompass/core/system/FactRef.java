package org.sobercompass.core.system;

/**
 * A fact that a proof needs, or an absence of facts that it needs. Routes and removals share it.
 */
public sealed interface FactRef {
  /** A grant of a system, by its number. */
  record GrantFact(int grant) implements FactRef {}

  /** That a role of a system gives a right, by its numbers. */
  record RoleFact(int role, int right) implements FactRef {}

  /** That a group lists a member. */
  record MemberFact(int member, int group) implements FactRef {}

  /** That no grant to the account denies a right on a resource. */
  record NoDenyFact(int resource, int right) implements FactRef {}

  /**
   * That no grant to the account comes before the deciding one: none at a deeper node, or to a
   * nearer kind of subject, as the system's way of combining says.
   */
  record NoNearerFact(int resource, int grant) implements FactRef {}
}
