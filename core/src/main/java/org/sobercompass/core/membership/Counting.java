package org.sobercompass.core.membership;

/**
 * How a system counts memberships. Systems whose way of counting is equal share what is worked out
 * by it. Immutable and thread-safe.
 */
public interface Counting {
  /** Everything counts and everything is seen. */
  Counting WIDEST =
      graph -> new Memberships(graph, MembershipProfile.WIDEST, Visibility.all(graph.facts()));

  /** The memberships of a graph as they count. */
  Memberships over(MembershipGraph graph);

  /**
   * The same where it is known how those of another graph count: what depends on the facts alone is
   * not worked out again where both have the same facts.
   */
  default Memberships over(MembershipGraph graph, Memberships known) {
    return over(graph);
  }
}
