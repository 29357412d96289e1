package org.sobercompass.core.findings.details;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.system.Standing;

/** About separation of duties. */
public sealed interface SeparationDetails extends Details {
  /** In what the sides of a rule come together; the most general first. */
  enum Together {
    ROLE,
    EVERYONE,
    GROUP,
    UNIT,
    ACCOUNT,
    PERSON
  }

  /** How near to each other the sides of a rule must not be held. */
  enum Near {
    ANYWHERE,
    AT_ONE_NODE,
    ONE_ABOVE_THE_OTHER
  }

  /**
   * A rule of separation of duties, as far as a sentence needs it.
   *
   * @param weight what the rule weighs, as it says
   * @param sides how many it has
   */
  record Rule(String id, String name, String weight, Near near, int sides) {}

  /**
   * Rights that must be kept apart and are not.
   *
   * @param in in what they come together
   * @param subject everyone, the group or the unit where it is one; else -1
   * @param role the role where it is one
   * @param who the accounts that hold them
   * @param ofPerson how many accounts of one person it takes
   * @param strongest how many sides are of the strongest kind
   * @param assignments by how many assignments it comes, where it is of one account or person
   */
  record Conflict(
      Rule rule,
      Together in,
      int subject,
      Optional<RoleOf> role,
      Who who,
      int ofPerson,
      int strongest,
      int assignments)
      implements SeparationDetails {}

  /** A role of a system. */
  record RoleOf(int system, int role) {}

  /** Why a person does not break a rule yet. */
  sealed interface Missing {
    /** It could give itself the other side. */
    record WithinReach() implements Missing {}

    /** It is not known whether it can do an admin action. */
    record ActUnknown(String action) implements Missing {}

    /** It is not known whether a side is held. */
    record HoldingUnknown(int system) implements Missing {}

    /** It cannot use what it holds. */
    record Blocked(int system, Standing standing) implements Missing {}
  }

  /**
   * A person who holds some sides and is close to enough of them.
   *
   * @param missing why it is not a conflict yet, each once
   */
  record Close(Rule rule, int account, List<Missing> missing) implements SeparationDetails {}

  /** A role that nobody holds, with rights that must be kept apart. */
  record ConflictingRole(Rule rule, RoleOf role) implements SeparationDetails {}
}
