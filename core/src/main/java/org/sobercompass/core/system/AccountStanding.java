package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Standing.State;

/** Whether accounts can sign in at all, by their own state in the directory. */
public final class AccountStanding {
  private AccountStanding() {}

  /** Whether an account itself can sign in at an epoch second, whatever it signs in to. */
  public static Standing of(Facts facts, int account, long asOf) {
    List<String> reasons = blocking(facts, account, asOf);
    if (!reasons.isEmpty()) {
      return new Standing(State.BLOCKED, List.copyOf(reasons));
    }
    return unknown(facts, account)
        .map(reason -> new Standing(State.UNDECIDED, List.of(reason)))
        .orElse(Standing.USABLE);
  }

  static List<String> blocking(Facts facts, int account, long asOf) {
    List<String> reasons = new ArrayList<>(2);
    if (facts.is(account, Facts.DISABLED)) {
      reasons.add("the account is disabled");
    }
    if (facts.expires(account) <= asOf) {
      reasons.add("the account has expired");
    }
    if (facts.isLocked(account, asOf)) {
      reasons.add("the account is locked");
    }
    if (facts.is(account, Facts.PASSWORD_ENDED)) {
      reasons.add("its password must be changed first");
    } else if (facts.passwordEnds(account) <= asOf) {
      reasons.add("its password has expired");
    }
    return reasons;
  }

  /** What is not known of the account itself, and could keep it out. */
  static Optional<String> unknown(Facts facts, int account) {
    if (facts.is(account, Facts.STATE_UNKNOWN)) {
      return Optional.of("it was not read whether the account is disabled");
    }
    if (facts.is(account, Facts.EXPIRY_UNKNOWN)) {
      return Optional.of("the account's expiry could not be read");
    }
    return facts.is(account, Facts.LOCKED)
        ? Optional.of("locked, unless the lock has run out since")
        : Optional.empty();
  }
}
