package org.sobercompass.core.findings.details;

/** About assignments of admin roles. */
public sealed interface AdminGrantDetails extends Details {
  /** The assignment that it is about. */
  Assigned what();

  /**
   * An assignment of an admin role.
   *
   * @param role the role by name
   * @param over the scope by name
   * @param subject to whom; below 0 where that does not exist or was not read
   * @param subjectText to whom as written
   * @param strongest the weight of its strongest action: 0 little, 1 much, 2 the object itself
   */
  record Assigned(String role, String over, int subject, String subjectText, int strongest) {}

  /** One that has expired. */
  record Expired(Assigned what) implements AdminGrantDetails {}

  /** One that others cover. */
  record Redundant(Assigned what) implements AdminGrantDetails {}

  /** One to a person. */
  record ToPerson(Assigned what) implements AdminGrantDetails {}

  /** One to an empty group. */
  record ToEmptyGroup(Assigned what) implements AdminGrantDetails {}

  /** One to very many of the accounts of a directory. */
  record ToMany(Assigned what, int inside, int accounts) implements AdminGrantDetails {}

  /** One over everything, while {@code narrow} of {@code all} of the role are over a scope. */
  record Everywhere(Assigned what, int narrow, int all) implements AdminGrantDetails {}

  /** One to somebody who does not exist, or was not read. */
  record MissingSubject(Assigned what) implements AdminGrantDetails {}
}
