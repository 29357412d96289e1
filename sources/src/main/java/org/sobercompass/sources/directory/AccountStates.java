package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.util.StaticUtils;
import java.text.ParseException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.facts.Facts;

/** Whether an account is disabled, and when it ends, by the usual attributes. */
public final class AccountStates {
  private static final int ACCOUNT_DISABLE = 2;
  private static final int PASSWORD_NEVER_EXPIRES = 0x10000;
  static final long SECONDS_TO_1970 = 11_644_473_600L;
  private static final long DAY = 86_400;

  private static final List<String> ENDS = List.of("accountExpires", "shadowExpire", "pwdEndTime");

  /** The flags of an account ([MS-ADTS] 2.2.16). */
  public static final String CONTROL = "userAccountControl";

  /** {@code true} locks an account. */
  public static final String LOCK = "nsAccountLock";

  /** Since when an account is locked. */
  public static final String LOCKED = "pwdAccountLockedTime";

  /** Stands in {@link #LOCKED} of an account that is locked until somebody unlocks it. */
  public static final String FOR_GOOD = "000001010000Z";

  /** The attributes read, for the completeness of an export. */
  public static final List<String> ATTRIBUTES =
      List.of(CONTROL, LOCK, LOCKED, "shadowExpire", "accountExpires", "pwdEndTime");

  private AccountStates() {}

  /**
   * What one attribute says by itself.
   *
   * @param disabled whether the account is disabled, where the attribute says that
   * @param ends when it ends, epoch second or {@link Facts#NEVER}, where it says that
   */
  public record Told(Optional<Boolean> disabled, Optional<Long> ends) {
    /** Whether it says neither. */
    public boolean isNothing() {
      return disabled.isEmpty() && ends.isEmpty();
    }
  }

  /** What an attribute says; without values, that the account is not disabled, or has no end. */
  public static Told told(Attribute attribute) {
    String name =
        ATTRIBUTES.stream()
            .filter(known -> known.equalsIgnoreCase(attribute.getBaseName()))
            .findFirst()
            .orElse("");
    Entry entry = new Entry("cn=told");
    if (attribute.hasValue()) {
      entry.addAttribute(name.isEmpty() ? attribute.getName() : name, attribute.getValue());
    }
    Expiry expiry = expiry(entry);
    boolean ofEnd = ENDS.contains(name) && expiry.unreadable().isEmpty();
    return new Told(
        name.isEmpty() || ENDS.contains(name) ? Optional.empty() : Optional.of(isDisabled(entry)),
        ofEnd ? Optional.of(expiry.at()) : Optional.empty());
  }

  /** When an account ends; unknown when a value is there that cannot be read. */
  record Expiry(long at, Optional<String> unreadable) {}

  /**
   * {@code userAccountControl} ([MS-ADTS] 2.2.16), {@code nsAccountLock}, and the permanent lock of
   * {@code pwdAccountLockedTime} (draft-behera-ldap-password-policy section 5.3.3).
   */
  static boolean isDisabled(Entry entry) {
    Integer control = entry.getAttributeValueAsInteger(CONTROL);
    boolean byControl = control != null && (control & ACCOUNT_DISABLE) != 0;
    boolean byLock = "true".equalsIgnoreCase(entry.getAttributeValue(LOCK));
    boolean forGood = FOR_GOOD.equals(entry.getAttributeValue(LOCKED));
    return byControl || byLock || forGood;
  }

  /**
   * The password must be changed first: {@code pwdLastSet} of 0 ([MS-ADA3]) unless it never ends,
   * {@code pwdReset} (draft-behera-ldap-password-policy section 5.3.7), {@code shadowLastChange} of
   * 0 (RFC 2307).
   */
  static boolean isPasswordEnded(Entry entry) {
    Integer control = entry.getAttributeValueAsInteger(CONTROL);
    boolean neverEnds = control != null && (control & PASSWORD_NEVER_EXPIRES) != 0;
    boolean notSet = "0".equals(entry.getAttributeValue("pwdLastSet")) && !neverEnds;
    return notSet
        || "true".equalsIgnoreCase(entry.getAttributeValue("pwdReset"))
        || "0".equals(entry.getAttributeValue("shadowLastChange"));
  }

  /**
   * {@code accountExpires} (100 ns since 1601, [MS-ADTS] 2.2.16), {@code shadowExpire} (days since
   * 1970, RFC 2307), {@code pwdEndTime} (generalized time); the earliest counts.
   */
  static Expiry expiry(Entry entry) {
    long at = Facts.NEVER;
    for (String attribute : ENDS) {
      String value = entry.getAttributeValue(attribute);
      if (value != null) {
        try {
          at = Math.min(at, parse(attribute, value.strip()));
        } catch (NumberFormatException | ParseException e) {
          return new Expiry(Facts.NEVER, Optional.of(attribute + ": " + value));
        }
      }
    }
    return new Expiry(at, Optional.empty());
  }

  /** Flags of an account, disabled or not, the others as they were. */
  public static String control(String was, boolean disabled) {
    int flags = Integer.parseInt(was.strip());
    return String.valueOf(disabled ? flags | ACCOUNT_DISABLE : flags & ~ACCOUNT_DISABLE);
  }

  /**
   * When an account ends, as an attribute says it; an empty text where it says nothing then. Empty
   * when the attribute cannot say that moment: days are whole ones.
   */
  public static Optional<String> written(String attribute, Optional<Instant> at) {
    if (at.isEmpty()) {
      return Optional.of(attribute.equals("accountExpires") ? "0" : "");
    }
    long second = at.get().getEpochSecond();
    return switch (attribute) {
      case "accountExpires" ->
          Optional.of(String.valueOf((second + SECONDS_TO_1970) * 10_000_000L));
      case "shadowExpire" ->
          second % DAY == 0 ? Optional.of(String.valueOf(second / DAY)) : Optional.empty();
      default -> Optional.of(StaticUtils.encodeGeneralizedTime(second * 1000));
    };
  }

  private static long parse(String attribute, String value) throws ParseException {
    if (attribute.equals("pwdEndTime")) {
      return StaticUtils.decodeGeneralizedTime(value).toInstant().getEpochSecond();
    }
    long number = Long.parseLong(value);
    if (attribute.equals("shadowExpire")) {
      return number < 0 || number > PasswordRules.LAST_DAY ? Facts.NEVER : number * DAY;
    }
    return number == 0 || number == Long.MAX_VALUE
        ? Facts.NEVER
        : number / 10_000_000L - SECONDS_TO_1970;
  }
}
