package org.sobercompass.core.review;

import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;

/**
 * One thing to confirm: something that is given to somebody and can be taken away by itself.
 *
 * @param id short and stable: the same as long as the same is given to the same at the same place
 * @param taken what takes it away, on the model it was found in: one change, or one for each
 *     attribute that lists the same member
 * @param ends the same by stable keys
 * @param subject the number of the account or group that has it, or below 0 when it is nobody's
 * @param reached how many accounts have it through this; 0 for everyone and the like
 * @param traits what is unusual about it
 * @param findings the ids of the findings that it is a part of, the worst first
 * @param advice what is recommended
 * @param delegation of an object in a directory, what its entries there make possible
 */
public record ReviewItem(
    String id,
    List<Change> taken,
    List<Step> ends,
    int subject,
    int reached,
    Set<Trait> traits,
    List<String> findings,
    Recommendation advice,
    Optional<Delegation> delegation) {
  /** Copies. */
  public ReviewItem {
    traits = traits.isEmpty() ? Set.of() : Collections.unmodifiableSet(EnumSet.copyOf(traits));
    taken = List.copyOf(taken);
    ends = List.copyOf(ends);
    findings = List.copyOf(findings);
  }

  /** What is unusual about an item. */
  public enum Trait {
    /** It was not there at the survey it is compared with. */
    NEW,
    /** It is a part of rights that must be kept apart. */
    CONFLICTING,
    /** It gives the most that can be had. */
    POWERFUL,
    /** Nobody used it for a long time. */
    UNUSED,
    /** Hardly anybody with the same task has it. */
    UNLIKE_PEERS,
    /** Whoever has it is disabled, expired, dormant, or not there at all. */
    HOLDER_GONE,
    /** It is given to a person instead of a group. */
    BY_NAME,
    /** It is given to everyone, or to nearly everyone. */
    WIDE,
    /** Another finding concerns it. */
    OTHER_FINDING
  }

  /** What is recommended. */
  public enum Recommendation {
    /** Nothing speaks against it. */
    KEEP,
    /** Something is unusual: look closely. */
    LOOK,
    /** A finding ends when it is taken away. */
    TAKE_AWAY
  }

  /** In what capacity somebody answers for an item. */
  public enum Capacity {
    /** Owner of the application. */
    APPLICATION,
    /** Owner of the node or folder. */
    PLACE,
    /** Owner of the group. */
    GROUP,
    /** Whom a directory names for the object, or for the nearest above. */
    OBJECT,
    /** Owner of the admin scope. */
    SCOPE,
    /** Manager of the person. */
    MANAGER
  }
}
