package org.sobercompass.core.amendment;

import java.util.List;

/**
 * What a live system says to records before anything is written: for each how the system stands to
 * it.
 */
public record Rehearsal(List<Asked> all) {
  /** Copies. */
  public Rehearsal {
    all = List.copyOf(all);
  }

  /**
   * A record and how the system stands to it.
   *
   * @param found what is there instead, where it stands as neither
   */
  public record Asked(AmendmentRecord record, Standing standing, String found) {}

  /** Asks for each record. Nothing is changed. */
  public static Rehearsal of(LiveTarget target, List<AmendmentRecord> records) {
    return new Rehearsal(
        records.stream()
            .map(
                record -> {
                  Standing standing = target.standing(record);
                  String found = standing == Standing.OTHER ? target.found(record) : "";
                  return new Asked(record, standing, found);
                })
            .toList());
  }

  /** How many records the system stands so to. */
  public int count(Standing standing) {
    return (int) all.stream().filter(asked -> asked.standing == standing).count();
  }
}
