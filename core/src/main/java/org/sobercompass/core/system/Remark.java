package org.sobercompass.core.system;

import java.util.List;
import java.util.Locale;
import org.sobercompass.core.system.remark.Remarked;

/**
 * Something wrong in the facts of one system, as the system itself sees it.
 *
 * @param kind what kind
 * @param resource where
 * @param cause what tells it from others of its kind at the same place, stable
 * @param about what is wrong, as data
 * @param subjects the numbers of the subjects concerned
 * @param grants the entries that show it
 * @param also how many further resources have the same from the same cause
 */
public record Remark(
    Kind kind,
    int resource,
    String cause,
    Remarked about,
    List<Integer> subjects,
    List<Integer> grants,
    int also) {

  /**
   * A kind of remark, each room its own. The finding of the same id explains it.
   *
   * <p>Implemented by an enum of the room; immutable.
   */
  public interface Kind {
    /** The name of the constant. */
    String name();

    /** The id, that of the kind of finding. */
    default String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** How much it weighs: 0 low, 1 medium, 2 high. */
    int weight();

    /** Whether it ends when the entries that show it are taken out; else it asks for more. */
    boolean isEndedByRemoval();
  }
}
