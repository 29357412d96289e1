package org.sobercompass.core.carry;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiPredicate;
import org.sobercompass.core.access.SystemView;

/**
 * What is carried, and how.
 *
 * @param how what becomes of what the source has, and of what the counterpart has already
 * @param within the systems, or parts of them; none means all
 * @param groups what becomes of rights that come by a group or unit without a counterpart
 * @param powerful whether a grant of a system is left for a decision by hand
 * @param wasteBins whether what lies in a waste bin is carried too
 */
public record CarryPlan(
    How how,
    List<Part> within,
    Groups groups,
    BiPredicate<SystemView, Integer> powerful,
    boolean wasteBins) {
  /** Copies. */
  public CarryPlan {
    within = List.copyOf(within);
  }

  /** All systems, beside what is there, by members, powerful or not. */
  public static final CarryPlan USUAL =
      new CarryPlan(How.BESIDE, List.of(), Groups.MEMBERS, (view, grant) -> false, false);

  /** The same in another way. */
  public CarryPlan by(How other) {
    return new CarryPlan(other, within, groups, powerful, wasteBins);
  }

  /** The same, leaving some grants for a decision by hand. */
  public CarryPlan leaving(BiPredicate<SystemView, Integer> others) {
    return new CarryPlan(how, within, groups, others, wasteBins);
  }

  /** The same, with what lies in waste bins. */
  public CarryPlan withWasteBins() {
    return new CarryPlan(how, within, groups, powerful, true);
  }

  /** What becomes of what is there. */
  public enum How {
    /** The source keeps what it has; the counterpart gets the same. */
    BESIDE,
    /** What the counterpart gets is taken from the source. */
    INSTEAD,
    /** The source keeps what it has; the counterpart gets only what it could not do before. */
    WHERE_LESS;

    private final String word = name().toLowerCase(Locale.ROOT).replace('_', '-');

    /** The word for it. */
    public String word() {
      return word;
    }

    /** The one with a word. */
    public static Optional<How> of(String word) {
      for (How how : values()) {
        if (how.word.equals(word)) {
          return Optional.of(how);
        }
      }
      return Optional.empty();
    }
  }

  /** What becomes of rights that come by a group or unit without a counterpart. */
  public enum Groups {
    /** The counterparts of its members get them themselves. */
    MEMBERS,
    /** They are left, until the group has a counterpart. */
    LEAVE
  }

  /**
   * A system, or what lies at and below one of its resources.
   *
   * @param system its id
   * @param resource the number of the resource; 0 for all of it where that is the top
   */
  public record Part(String system, int resource) {}

  /** Whether a resource of a system is looked at; those without resources are where all is. */
  boolean covers(SystemView view, int resource) {
    return within.isEmpty()
        || within.stream()
            .anyMatch(
                part ->
                    part.system().equals(view.id())
                        && resource >= part.resource()
                        && resource < view.resources().end(part.resource()));
  }

  /** Whether anything of a system is looked at. */
  boolean covers(SystemView view) {
    return within.isEmpty() || within.stream().anyMatch(part -> part.system().equals(view.id()));
  }

  /** Whether memberships are carried: not where only some systems are looked at. */
  boolean coversGroups() {
    return within.isEmpty();
  }
}
