package org.sobercompass.core.descriptor;

import java.util.Optional;

/** The types of entries ([MS-DTYP] 2.4.4.1), with the letters of SDDL ([MS-DTYP] 2.5.1.1). */
public enum AceType {
  ALLOW(0x00, "A", Effect.ALLOW, false),
  DENY(0x01, "D", Effect.DENY, false),
  AUDIT(0x02, "AU", Effect.NONE, false),
  ALARM(0x03, "AL", Effect.NONE, false),
  ALLOW_OBJECT(0x05, "OA", Effect.ALLOW, true),
  DENY_OBJECT(0x06, "OD", Effect.DENY, true),
  AUDIT_OBJECT(0x07, "OU", Effect.NONE, true),
  ALARM_OBJECT(0x08, "OL", Effect.NONE, true),
  ALLOW_CONDITIONAL(0x09, "XA", Effect.PERHAPS_ALLOW, false),
  DENY_CONDITIONAL(0x0a, "XD", Effect.PERHAPS_DENY, false),
  ALLOW_CONDITIONAL_OBJECT(0x0b, "ZA", Effect.PERHAPS_ALLOW, true),
  DENY_CONDITIONAL_OBJECT(0x0c, "ZD", Effect.PERHAPS_DENY, true),
  AUDIT_CONDITIONAL(0x0d, "XU", Effect.NONE, false),
  ALARM_CONDITIONAL(0x0e, "XL", Effect.NONE, false),
  AUDIT_CONDITIONAL_OBJECT(0x0f, "ZU", Effect.NONE, true),
  ALARM_CONDITIONAL_OBJECT(0x10, "ZL", Effect.NONE, true),
  MANDATORY_LABEL(0x11, "ML", Effect.NONE, false),
  RESOURCE_ATTRIBUTE(0x12, "RA", Effect.NONE, false),
  SCOPED_POLICY(0x13, "SP", Effect.NONE, false),
  /** Any other: nobody knows what it does. */
  UNKNOWN(-1, "?", Effect.UNKNOWN, false);

  /** What an entry does to what is asked. */
  public enum Effect {
    ALLOW,
    DENY,
    PERHAPS_ALLOW,
    PERHAPS_DENY,
    UNKNOWN,
    NONE
  }

  private final int code;
  private final String letters;
  private final Effect effect;
  private final boolean object;

  AceType(int code, String letters, Effect effect, boolean object) {
    this.code = code;
    this.letters = letters;
    this.effect = effect;
    this.object = object;
  }

  /** The number in the binary form. */
  public int code() {
    return code;
  }

  /** The letters in SDDL. */
  public String letters() {
    return letters;
  }

  /** What it does. */
  public Effect effect() {
    return effect;
  }

  /** Whether it can name an object type. */
  public boolean isObject() {
    return object;
  }

  /** Whether it bears a condition or other data after the trustee. */
  public boolean hasData() {
    return (code >= 0x09 && code <= 0x10) || this == RESOURCE_ATTRIBUTE;
  }

  /** The type with this number; {@link #UNKNOWN} when there is none. */
  public static AceType of(int code) {
    for (AceType type : values()) {
      if (type.code == code) {
        return type;
      }
    }
    return UNKNOWN;
  }

  /** The type with these letters. */
  public static Optional<AceType> of(String letters) {
    for (AceType type : values()) {
      if (type != UNKNOWN && type.letters.equals(letters)) {
        return Optional.of(type);
      }
    }
    return Optional.empty();
  }
}
