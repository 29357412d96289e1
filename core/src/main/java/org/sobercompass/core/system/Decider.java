package org.sobercompass.core.system;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.store.IntList;

/**
 * Decides over one frozen system. Thread-safe, without shared mutable state. All four ways of
 * asking agree: a right is in the sweep exactly when {@link #decide} says YES, and then {@link
 * #explain} gives at least one proof.
 */
public interface Decider {
  /** Keeps of a token what matters here. O(subjects + grants to them). */
  Projected project(Token token);

  /** Decides one question. Allocates nothing. O(grants of the projection x rights asked). */
  Verdict decide(Projected who, Question question);

  /** Gives everything in bulk, without reasons; cells in the order of resources, parents first. */
  void sweep(Projected who, GrantSink out);

  /**
   * Adds exactly the rights held at some resource, wherever it is; agrees with {@link #sweep}.
   *
   * @param sure those surely held somewhere
   * @param any those surely or perhaps held somewhere
   */
  default void held(Projected who, long[] sure, long[] any) {
    sweep(
        who,
        (resource, below, count, yes, perhaps) -> {
          for (int w = 0; w < yes.length; w++) {
            sure[w] |= yes[w];
            any[w] |= yes[w] | perhaps[w];
          }
        });
  }

  /**
   * The grants that hold at a point in time as words that add up; empty where a system has no such
   * form, and is then swept projection by projection.
   */
  default Optional<GrantBits> bits(long asOf) {
    return Optional.empty();
  }

  /** Decides one question with its proofs, and what is stopped. */
  Decision explain(Token token, Question question, Limits limits);

  /**
   * Whether whoever holds two rights on a resource holds them together. Not so where one entry must
   * give all that is asked (1003.1e).
   */
  default boolean isAdditive() {
    return true;
  }

  /** The subjects that this system names anywhere, ascending: others change nothing. */
  IntList trustees();

  /** All grants to what a token surely counts as, whether they hold now or not; by number. */
  IntList grantsOf(Token token);

  /**
   * The grants, active or not, that give a right on a resource, alone or as one of several things
   * needed; by number.
   *
   * @param below also those that give it only somewhere below the resource; enough of them to name
   *     every subject
   */
  IntList giving(int resource, int right, boolean below);

  /**
   * Whether anybody may hold something on a resource, whomever its grants name: a list that decides
   * was not read, or an entry is for somebody who may be anybody.
   *
   * @param below also on what lies below
   */
  default boolean isOpen(int resource, boolean below) {
    return false;
  }

  /**
   * What must be passed for a question, layer by layer in the order in which the system asks; none
   * for a system with one layer only. The question is answered by the first layer that is not YES.
   */
  default List<Layer> layers(Token token, Question question) {
    return List.of();
  }

  /**
   * Everybody for whom the answer is yes, and for whom it is undecided, at once; empty where the
   * system has no quicker way than to ask for one after another, or none while some memberships are
   * not certain.
   *
   * @param members the accounts that count as a subject
   */
  default Optional<Crowd> crowd(Question question, Crowd.Members members, long asOf) {
    return Optional.empty();
  }

  /**
   * Whether a grant could be {@link #taking} from somebody: where none that is given to him could,
   * he need not be asked about.
   */
  default boolean mayTake(int grant) {
    return !isMonotone();
  }

  /**
   * The grants of a projection that take away somewhere what others of it would give there: by a
   * deny, or since they come nearer. None for a system in which grants only add up, or whose lists
   * say so themselves. O(grants of the projection squared x words).
   */
  default IntList taking(Projected who) {
    return new IntList(0);
  }

  /**
   * Whether taking this one grant out of a projection surely changes no outcome on any resource.
   * Not looked at for entries of lists.
   */
  default boolean isIdle(Projected who, int grant) {
    return false;
  }

  /** Whether more grants never take a right away; not so where an entry may deny. */
  default boolean isMonotone() {
    return false;
  }

  /** What may differ after a change. */
  Impact impact(Change change);
}
