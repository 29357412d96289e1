package org.sobercompass.core.amendment;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * A proposal as records that can be carried out and taken back. Immutable.
 *
 * @param name what it is called, or empty
 * @param made when it was made
 * @param restsOn what was read when it was made, and when that was taken, in words
 * @param targets the systems that it changes, each once
 * @param records in the order in which they are carried out
 * @param byHand what has to be done and comes by no record, in words
 */
public record Amendment(
    String name,
    Instant made,
    String restsOn,
    List<Target> targets,
    List<AmendmentRecord> records,
    List<String> byHand) {
  /** Copies. */
  public Amendment {
    targets = List.copyOf(targets);
    records = List.copyOf(records);
    byHand = List.copyOf(byHand);
  }

  /**
   * A system that is changed.
   *
   * @param name its name in the workspace
   * @param kind how it is changed; the word of a registration
   * @param as as whom it is to be changed, where that was said
   */
  public record Target(String name, String kind, Optional<String> as) {}

  /** The records of one system, in their order. */
  public List<AmendmentRecord> of(String target) {
    return records.stream().filter(record -> record.target().equals(target)).toList();
  }

  /** The system with a name. */
  public Optional<Target> target(String wanted) {
    return targets.stream().filter(target -> target.name().equals(wanted)).findFirst();
  }
}
