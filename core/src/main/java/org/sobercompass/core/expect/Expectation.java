package org.sobercompass.core.expect;

import java.util.List;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.problem.Place;

/**
 * A stated yes or no.
 *
 * @param id unique in the workspace
 * @param name for people
 * @param kind what is stated
 * @param who the accounts, groups and units it speaks of, by number
 * @param what permissions, roles or acts; one, or the sides that nobody holds together
 * @param node the number of the node, or -1 for anywhere
 * @param held whether what is held and blocked counts as well as what can be used
 * @param place where it stands
 */
public record Expectation(
    String id,
    String name,
    Kind kind,
    List<Integer> who,
    List<Side> what,
    int node,
    boolean held,
    Place place) {

  /** What is stated. */
  public enum Kind {
    /** All of these can. */
    CAN,
    /** None of these can. */
    CANNOT,
    /** All of these can, and nobody else. */
    ONLY,
    /** Nobody but these can, and not all of them need to. */
    NOBODY_OUTSIDE,
    /** No person holds all of it together. */
    NOBODY_HOLDS
  }

  /** Copies. */
  public Expectation {
    who = List.copyOf(who);
    what = List.copyOf(what);
  }
}
