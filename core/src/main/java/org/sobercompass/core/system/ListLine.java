package org.sobercompass.core.system;

/**
 * One entry of an access control list, as shown.
 *
 * @param layer which list it stands in, in words
 * @param resource where it was written: the resource itself, or the one above it comes from
 * @param origin how it came here
 * @param trustee to whom, in words
 * @param subject the number of the subject, or {@link Grant#MISSING}
 * @param effect {@code allow}, {@code deny}, or a condition
 * @param rights what, in words
 * @param reach how far it is handed on, in words
 */
public record ListLine(
    String layer,
    int resource,
    Origin origin,
    String trustee,
    int subject,
    String effect,
    String rights,
    String reach) {

  /** How an entry came to be where it stands. */
  public enum Origin {
    EXPLICIT("set here"),
    INHERITED("inherited"),
    /** It claims to be inherited, and what is above does not hand it on. */
    CLAIMED("claims to be inherited"),
    OWNER("by ownership"),
    DEFAULT("for what is made here");

    private final String words;

    Origin(String words) {
      this.words = words;
    }

    /** The origin in words. */
    public String words() {
      return words;
    }
  }
}
