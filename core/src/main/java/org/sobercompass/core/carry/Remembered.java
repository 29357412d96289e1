package org.sobercompass.core.carry;

import java.time.LocalDate;
import java.util.List;
import org.sobercompass.core.key.Key;

/**
 * A right that was carried before, or proposed to be.
 *
 * @param id the id that {@link CarriedRight#id} gave it
 * @param from whose right it was
 * @param to whose it became
 * @param how whether the one kept it
 * @param on when it was first proposed
 * @param own whether the other had it before it was carried, so that it is not withdrawn from it
 * @param seen whether the other was seen to have it since
 * @param source what gave it to the one, as {@link StepText} says it
 * @param target what gives it to the other
 */
public record Remembered(
    String id,
    Key from,
    Key to,
    CarryPlan.How how,
    LocalDate on,
    boolean own,
    boolean seen,
    String source,
    List<String> target) {
  /** Copies. */
  public Remembered {
    target = List.copyOf(target);
  }

  /** The same, seen. */
  Remembered there() {
    return new Remembered(id, from, to, how, on, own, true, source, target);
  }
}
