package org.sobercompass.core.system;

import java.time.Instant;
import java.util.Optional;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.problem.Place;

/**
 * A role given to a subject at a resource.
 *
 * @param id unique and stable in the system, made from what is given to whom where
 * @param role the number of the role
 * @param subject the number of the subject, or {@link #MISSING}, or {@link #UNREAD}
 * @param subjectText the subject as written
 * @param resource the number of the resource
 * @param descends whether it reaches what lies below
 * @param from epoch second from which it holds, or {@link Long#MIN_VALUE}
 * @param until epoch second before which it holds, or {@link Long#MAX_VALUE}
 * @param on whether it is switched on
 * @param grantedBy who gave it, or empty
 * @param reason why, or empty
 * @param place where it stands
 * @param declared whether the system's own definition gives it (the role everyone has)
 * @param isWithdrawn whether a preview takes it away: its number stays, and it is off for good
 */
public record Grant(
    String id,
    int role,
    int subject,
    String subjectText,
    int resource,
    boolean descends,
    long from,
    long until,
    boolean on,
    String grantedBy,
    String reason,
    Place place,
    boolean declared,
    boolean isWithdrawn) {

  /**
   * The usual id of an assignment: what is given to whom where, and when, whatever the zone and the
   * form in which the times are written.
   */
  public static String usualId(
      String role,
      String trustee,
      String node,
      boolean descends,
      Optional<Instant> from,
      Optional<Instant> until) {
    String window =
        from.map(Instant::toString).orElse("") + ".." + until.map(Instant::toString).orElse("");
    return role
        + " "
        + trustee
        + " at "
        + node
        + (descends ? "" : " only")
        + (window.equals("..") ? "" : " " + window);
  }

  /** A grant that is there. */
  public Grant(
      String id,
      int role,
      int subject,
      String subjectText,
      int resource,
      boolean descends,
      long from,
      long until,
      boolean on,
      String grantedBy,
      String reason,
      Place place,
      boolean declared) {
    this(
        id,
        role,
        subject,
        subjectText,
        resource,
        descends,
        from,
        until,
        on,
        grantedBy,
        reason,
        place,
        declared,
        false);
  }

  /** The subject does not exist. */
  public static final int MISSING = -1;

  /**
   * The subject is a group or unit that is not in what was read: it may be gone, or stand where
   * nobody read. Who is in it is not known.
   */
  public static final int UNREAD = -2;

  /** The same as if it were withdrawn. */
  public Grant withdrawn() {
    return new Grant(
        id,
        role,
        subject,
        subjectText,
        resource,
        descends,
        from,
        until,
        false,
        grantedBy,
        reason,
        place,
        declared,
        true);
  }

  /** Whether it is given to a group or unit that is not in what was read. */
  public boolean isOfUnread() {
    return subject == UNREAD;
  }

  /** The subject that accounts count as, or {@link #MISSING}. */
  public int counted(Facts facts) {
    return subject == UNREAD ? facts.implicit(Implicit.UNREAD) : subject;
  }

  /** Whether it holds at a point in time. */
  public boolean activeAt(long epochSecond) {
    return on && from <= epochSecond && epochSecond < until;
  }
}
