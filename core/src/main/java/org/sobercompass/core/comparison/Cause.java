package org.sobercompass.core.comparison;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Change;

/**
 * Something that is otherwise than it was, and what it did.
 *
 * @param kind what kind of cause
 * @param change the change, by the numbers of the model before; of {@link Kind#CHANGE}
 * @param subject the key of who is new or gone
 * @param group the key of the group whose members a change is about
 * @param system the id of the system of which the definition is another
 * @param by who did it, where the source says so, else empty
 * @param shifts the permissions gained and lost by it; one that two changes give each is listed
 *     with the first
 * @param acts the admin actions gained by it, and with {@code lostActs} those lost
 * @param carriedOut the name of the amendment by which it came, or empty
 */
public record Cause(
    Kind kind,
    Optional<Change> change,
    Optional<Key> subject,
    Optional<Key> group,
    String system,
    String by,
    List<Shift> shifts,
    List<Act> acts,
    List<Act> lostActs,
    String carriedOut) {

  /** What kind of cause. */
  public enum Kind {
    /** A change that a proposal could have made. */
    CHANGE,
    /** An account or group that was not there. */
    NEW,
    /** An account or group that is not there any more. */
    GONE,
    /** A day came: a window began or ended, an account ended. */
    TIME,
    /** Several changes that do it only together. */
    TOGETHER,
    /** Something else of a system: its rules, its nodes, what it sees of a directory. */
    DEFINITION
  }

  /** Copies. */
  public Cause {
    shifts = List.copyOf(shifts);
    acts = List.copyOf(acts);
    lostActs = List.copyOf(lostActs);
  }

  /** Of nobody known, by no amendment known. */
  static Cause of(Kind kind, Optional<Key> subject, String system, List<Shift> shifts) {
    return new Cause(
        kind,
        Optional.empty(),
        subject,
        Optional.empty(),
        system,
        "",
        shifts,
        List.of(),
        List.of(),
        "");
  }

  /** The same, as what an amendment did. */
  public Cause by(String amendment) {
    return new Cause(kind, change, subject, group, system, by, shifts, acts, lostActs, amendment);
  }

  /** The same, made by somebody; nobody known where it is empty. */
  Cause doneBy(String whoever) {
    return new Cause(
        kind, change, subject, group, system, whoever, shifts, acts, lostActs, carriedOut);
  }

  /** How many permissions and admin actions differ by it. */
  public int size() {
    return shifts.size() + acts.size() + lostActs.size();
  }
}
