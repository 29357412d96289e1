package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.util.StaticUtils;
import java.text.ParseException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsSource;

/**
 * When passwords end and locks run out, by the policies that stand in the directory itself. A
 * policy may come after the accounts it is about, so accounts wait until {@link #finish}.
 *
 * <ul>
 *   <li>RFC 2307: {@code shadowLastChange} and {@code shadowMax}, in days;
 *   <li>draft-behera-ldap-password-policy: {@code pwdChangedTime}, and {@code pwdMaxAge} and {@code
 *       pwdLockoutDuration} of the policy that {@code pwdPolicySubentry} names, in seconds;
 *   <li>[MS-ADTS] 3.1.1.4.5.39: the computed expiry where it was read, else {@code pwdLastSet} and
 *       {@code maxPwdAge} of the domain or of the settings object in {@code msDS-ResultantPSO}.
 * </ul>
 */
final class PasswordRules {
  private static final int NEVER_ENDS = 0x10000 | 0x40000 | 0x3800;
  private static final int LOCKED_NOW = 0x10;
  private static final long DAY = 86_400;
  private static final long TICKS = 10_000_000L;
  private static final int NO_LIMIT = 99_999;
  static final int LAST_DAY = 10_000_000;

  private final Map<String, Policy> policies = new HashMap<>();
  private final List<Waiting> waiting = new ArrayList<>();
  private final FactsSource into;

  /**
   * Lengths in seconds; 0 when there is no limit, negative when a lock lasts until it is lifted.
   */
  private record Policy(long passwordAge, long lockLength) {}

  /** An account with the time its password was set and it was locked, or -1. */
  private record Waiting(int row, String policy, String dnForm, long set, long locked) {}

  PasswordRules(FactsSource into) {
    this.into = into;
  }

  /** Keeps the policy that an entry states, if it does. */
  void policy(Entry entry, String dnForm) {
    if (entry.hasAttribute("pwdMaxAge") || entry.hasAttribute("pwdLockoutDuration")) {
      policies.put(
          dnForm, new Policy(seconds(entry, "pwdMaxAge"), endless(entry, "pwdLockoutDuration")));
    } else if (entry.hasAttribute("maxPwdAge")) {
      policies.put(
          dnForm, new Policy(ticks(entry, "maxPwdAge"), endlessTicks(entry, "lockoutDuration")));
    } else if (entry.hasAttribute("msDS-MaximumPasswordAge")) {
      policies.put(
          dnForm,
          new Policy(
              ticks(entry, "msDS-MaximumPasswordAge"),
              endlessTicks(entry, "msDS-LockoutDuration")));
    }
  }

  /** Takes an account; what its policy decides is told at the end. */
  void account(Entry entry, int row, String dnForm) {
    shadow(entry).ifPresent(ends -> into.passwordEnds(row, ends));
    Long control = entry.getAttributeValueAsLong("userAccountControl");
    boolean never = control != null && (control & NEVER_ENDS) != 0;
    OptionalLong computed = fileTime(entry, "msDS-UserPasswordExpiryTimeComputed");
    if (computed.isPresent() && computed.getAsLong() > 0) {
      into.passwordEnds(row, computed.getAsLong());
    }
    long set =
        never || computed.isPresent()
            ? -1
            : fileTime(entry, "pwdLastSet").orElseGet(() -> time(entry, "pwdChangedTime"));
    long locked = fileTime(entry, "lockoutTime").orElseGet(() -> lockedTime(entry));
    Long now = entry.getAttributeValueAsLong("msDS-User-Account-Control-Computed");
    locked = now != null && (now & LOCKED_NOW) == 0 ? -1 : locked;
    String policy = first(entry, "pwdPolicySubentry", "msDS-ResultantPSO");
    if (set > 0 || locked > 0) {
      waiting.add(new Waiting(row, policy == null ? "" : DnForm.of(policy), dnForm, set, locked));
    }
  }

  /** Tells what the policies decide. A lock without a policy stays undecided. */
  void finish() {
    for (Waiting account : waiting) {
      Policy policy = policyOf(account);
      if (policy != null && account.set > 0 && policy.passwordAge > 0) {
        into.passwordEnds(account.row, account.set + policy.passwordAge);
      }
      if (account.locked > 0) {
        if (policy == null || policy.lockLength == 0) {
          into.flag(account.row, Facts.LOCKED);
        } else {
          into.lockedUntil(
              account.row,
              policy.lockLength < 0 ? Facts.UNTIL_LIFTED : account.locked + policy.lockLength);
        }
      }
    }
    waiting.clear();
  }

  /** The policy it names, else that of the nearest entry above that states one. */
  private @Nullable Policy policyOf(Waiting account) {
    if (!account.policy.isEmpty()) {
      return policies.get(account.policy);
    }
    String above = account.dnForm;
    for (int comma = comma(above); comma >= 0; comma = comma(above)) {
      above = above.substring(comma + 1);
      Policy policy = policies.get(above);
      if (policy != null) {
        return policy;
      }
    }
    return null;
  }

  private static int comma(String dnForm) {
    int at = dnForm.indexOf(',');
    while (at > 0 && dnForm.charAt(at - 1) == '\\') {
      at = dnForm.indexOf(',', at + 1);
    }
    return at;
  }

  private static OptionalLong shadow(Entry entry) {
    Long last = entry.getAttributeValueAsLong("shadowLastChange");
    Long most = entry.getAttributeValueAsLong("shadowMax");
    boolean ages =
        last != null && most != null && last > 0 && last < LAST_DAY && most >= 0 && most < NO_LIMIT;
    return ages ? OptionalLong.of((last + most + 1) * DAY) : OptionalLong.empty();
  }

  /** 100 ns since 1601; 0 and the largest number stand for never or not set, which is -1 here. */
  private static OptionalLong fileTime(Entry entry, String attribute) {
    Long value = entry.getAttributeValueAsLong(attribute);
    if (value == null) {
      return OptionalLong.empty();
    }
    boolean none = value <= 0 || value == Long.MAX_VALUE;
    return OptionalLong.of(none ? -1 : value / TICKS - AccountStates.SECONDS_TO_1970);
  }

  private static long lockedTime(Entry entry) {
    return "000001010000Z".equals(entry.getAttributeValue("pwdAccountLockedTime"))
        ? -1
        : time(entry, "pwdAccountLockedTime");
  }

  private static long time(Entry entry, String attribute) {
    String value = entry.getAttributeValue(attribute);
    try {
      Instant at =
          value == null ? Instant.EPOCH : StaticUtils.decodeGeneralizedTime(value).toInstant();
      return value == null ? -1 : at.getEpochSecond();
    } catch (ParseException e) {
      return -1;
    }
  }

  private static long seconds(Entry entry, String attribute) {
    Long value = entry.getAttributeValueAsLong(attribute);
    return value == null ? 0 : Math.min(Math.max(0, value), LAST_DAY * DAY);
  }

  /** Of ppolicy: 0 or nothing is a lock until somebody lifts it. */
  private static long endless(Entry entry, String attribute) {
    long seconds = seconds(entry, attribute);
    return seconds == 0 ? -1 : seconds;
  }

  /** A negative number of 100 ns; 0 and the least number stand for no limit. */
  private static long ticks(Entry entry, String attribute) {
    Long value = entry.getAttributeValueAsLong(attribute);
    return value == null || value >= 0 || value == Long.MIN_VALUE ? 0 : -(value / TICKS);
  }

  private static long endlessTicks(Entry entry, String attribute) {
    Long value = entry.getAttributeValueAsLong(attribute);
    return value == null ? 0 : value == Long.MIN_VALUE || value == 0 ? -1 : -(value / TICKS);
  }

  private static @Nullable String first(Entry entry, String... attributes) {
    for (String attribute : attributes) {
      String value = entry.getAttributeValue(attribute);
      if (value != null) {
        return value;
      }
    }
    return null;
  }
}
