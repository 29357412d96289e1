package org.sobercompass.core.access;

import java.util.List;
import java.util.OptionalInt;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.system.Stopped;

/**
 * One chain that gives a right, or would if it were not stopped.
 *
 * @param subjects from the account to the subject the role is given to
 * @param vias how each is in the next
 * @param grant the number of the grant
 * @param roles ids from the role given to the one whose entry gives the right
 * @param entry that entry, as written
 * @param right the right
 * @param also what else is needed besides, each by the shortest chain: the share's list, search in
 *     the folders above, usage of the schema
 */
public record Route(
    List<Integer> subjects,
    List<Via> vias,
    int grant,
    List<String> roles,
    String entry,
    int right,
    List<Leg> also) {

  /** The account it begins at. */
  public int account() {
    return subjects.get(0);
  }

  /**
   * One more thing that is needed: a grant of another layer, and how the account comes by it.
   *
   * @param subjects from the account to the subject of the grant
   * @param vias how each is in the next
   * @param grant the number of the grant
   */
  public record Leg(List<Integer> subjects, List<Via> vias, int grant) {}

  /** A route that is stopped, and by what. */
  public record StoppedRoute(Route route, Stopped.Reason reason, OptionalInt by) {}
}
