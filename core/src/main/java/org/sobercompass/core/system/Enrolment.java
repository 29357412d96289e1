package org.sobercompass.core.system;

import org.sobercompass.core.problem.Place;

/**
 * One line of an application's register.
 *
 * @param subject the account or group, or {@link Grant#MISSING}, or {@link Grant#UNREAD}
 * @param subjectText as written
 * @param provider the kind of sign-in it is enrolled for
 * @param active whether it may be used
 * @param secondFactor whether a second factor is registered
 * @param at where in the application it was made, or empty when it has one place only
 * @param place where it stands
 */
public record Enrolment(
    int subject,
    String subjectText,
    String provider,
    boolean active,
    boolean secondFactor,
    String at,
    Place place) {

  /** One without a second factor, in the one place there is. */
  public Enrolment(int subject, String subjectText, String provider, boolean active, Place place) {
    this(subject, subjectText, provider, active, false, "", place);
  }
}
