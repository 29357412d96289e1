package org.sobercompass.core.system;

import org.sobercompass.core.problem.Place;

/**
 * One line of an application's register.
 *
 * @param subject the account or group, or {@link Grant#MISSING}
 * @param subjectText as written
 * @param provider the kind of sign-in it is enrolled for
 * @param active whether it may be used
 * @param place where it stands
 */
public record Enrolment(
    int subject, String subjectText, String provider, boolean active, Place place) {}
