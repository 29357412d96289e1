package org.sobercompass.core.findings;

import java.time.LocalDate;
import java.util.Set;
import org.sobercompass.core.problem.Place;

/**
 * A finding that somebody accepts, for the subjects it names.
 *
 * @param finding the text of the finding's key
 * @param subjects the texts of the keys of those it is accepted for; none when it names none
 * @param acceptedBy who
 * @param reason why
 * @param until the last day on which it is accepted
 * @param ends epoch second after that day, in the workspace's zone
 * @param control what is done instead to keep it harmless, or empty
 * @param place where it stands
 */
public record Waiver(
    String finding,
    Set<String> subjects,
    String acceptedBy,
    String reason,
    LocalDate until,
    long ends,
    String control,
    Place place) {
  /** Copies. */
  public Waiver {
    subjects = Set.copyOf(subjects);
  }
}
