package org.sobercompass.core.findings.details;

import java.util.List;
import java.util.Optional;

/** About accounts that outlive their use, and about service accounts. */
public sealed interface AccountDetails extends Details {
  /** Why an account should hold nothing. */
  enum Idle {
    DISABLED,
    EXPIRED,
    LOCKED,
    DORMANT
  }

  /**
   * An account that still holds something.
   *
   * @param idle why it should not
   * @param days since its last sign-in; empty where it never signed in, or that does not matter
   * @param held how many permissions
   * @param systems in how many applications
   * @param strongest how many of them are of the strongest kind
   * @param delegations how many admin roles and delegations of directories reach it
   */
  record StillHolds(
      int account,
      Idle idle,
      Optional<Long> days,
      int held,
      int systems,
      int strongest,
      int delegations)
      implements AccountDetails {}

  /**
   * One account of a person is switched off or over, and another works.
   *
   * @param account the one that works
   * @param other the one that does not
   * @param isDisabled whether it is disabled, else expired
   * @param held how many permissions the working one holds
   */
  record OtherWorks(int account, int other, boolean isDisabled, int held)
      implements AccountDetails {}

  /** A local account that belongs to nobody in a directory. */
  record OfNobody(int account) implements AccountDetails {}

  /** A service account that can sign in at a prompt. */
  record ServiceSignsIn(int account, String shell) implements AccountDetails {}

  /** A service account with rights that services are not said to need. */
  record ServiceExcess(int account, int system, List<Integer> rights) implements AccountDetails {}
}
