package org.sobercompass.core.scope;

import org.sobercompass.core.problem.Place;

/**
 * An admin role given to somebody.
 *
 * @param role the number of the role
 * @param subject the account or group, or -1 when it does not exist
 * @param subjectText as written
 * @param scope the number of the scope, or {@link #EVERYTHING}
 * @param from epoch second from which it holds
 * @param until epoch second before which it holds
 * @param on whether it is switched on
 * @param place where it stands
 */
public record AdminGrant(
    int role,
    int subject,
    String subjectText,
    int scope,
    long from,
    long until,
    boolean on,
    Place place) {
  /** No scope: all objects. */
  public static final int EVERYTHING = -1;

  /** Whether it holds at a point in time. */
  public boolean activeAt(long epochSecond) {
    return on && from <= epochSecond && epochSecond < until;
  }

  /** The same, switched off. */
  public AdminGrant off() {
    return new AdminGrant(role, subject, subjectText, scope, from, until, false, place);
  }
}
