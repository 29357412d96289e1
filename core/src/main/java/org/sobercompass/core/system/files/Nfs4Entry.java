package org.sobercompass.core.system.files;

import java.util.Optional;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.problem.Problem;

/**
 * One entry of an NFSv4 list (RFC 7530 section 6.2.1) as text, {@code A|D|U|L:flags:who:rights}.
 * Who is {@code OWNER@}, {@code GROUP@}, {@code EVERYONE@}, or a name with or without a domain.
 * Immutable.
 *
 * @param type its type
 * @param flags inheritance flags, see {@link Ace}
 * @param mask the rights
 * @param who to whom, as written
 * @param isGroup whether the name is a group's, by flag {@code g}
 */
public record Nfs4Entry(AceType type, int flags, int mask, String who, boolean isGroup) {
  private static final String RIGHTS = "rwaxdDtTnNcCoy";
  private static final int[] BITS = {
    0x1, 0x2, 0x4, 0x20, 0x1_0000, 0x40, 0x80, 0x100, 0x8, 0x10, 0x2_0000, 0x4_0000, 0x8_0000,
    0x10_0000
  };
  private static final String FLAGS = "fdniI";
  private static final int[] FLAG_BITS = {
    Ace.OBJECTS, Ace.CHILDREN, Ace.NEXT_ONLY, Ace.BELOW_ONLY, Ace.INHERITED
  };
  private static final String GROUP = " (g)";

  /**
   * Reads one.
   *
   * @throws MalformedException with the column
   */
  public static Nfs4Entry of(String text) throws MalformedException {
    String[] parts = text.split(":", -1);
    if (parts.length != 4) {
      throw new MalformedException(
          1, Problem.quote(text) + " is no entry", "TYPE:FLAGS:WHO:RIGHTS");
    }
    int flags = bits(parts[1], FLAGS + "gSF", FLAG_BITS, parts[0].length() + 2, "flags");
    int mask = bits(parts[3], RIGHTS, BITS, text.length() - parts[3].length() + 1, "rights");
    AceType type =
        type(parts[0])
            .orElseThrow(
                () ->
                    new MalformedException(
                        1, Problem.quote(parts[0]) + " is no type of entry", "A, D, U or L"));
    return new Nfs4Entry(type, flags, mask, parts[2], parts[1].contains("g"));
  }

  private static int bits(String text, String letters, int[] values, int column, String what)
      throws MalformedException {
    int bits = 0;
    for (int i = 0; i < text.length(); i++) {
      int at = letters.indexOf(text.charAt(i));
      if (at < 0) {
        throw new MalformedException(
            column + i,
            Problem.quote(text) + " is no " + what,
            "letters of " + String.join(" ", letters.split("")));
      }
      bits |= at < values.length ? values[at] : 0;
    }
    return bits;
  }

  private static Optional<AceType> type(String letter) {
    return switch (letter) {
      case "A" -> Optional.of(AceType.ALLOW);
      case "D" -> Optional.of(AceType.DENY);
      case "U" -> Optional.of(AceType.AUDIT);
      case "L" -> Optional.of(AceType.ALARM);
      default -> Optional.empty();
    };
  }

  /** As an entry of a descriptor. */
  public Ace ace() {
    return Ace.of(type, flags, mask, who + (isGroup ? GROUP : ""));
  }

  /** What an entry of a descriptor says, as text. */
  public static String text(Ace ace) {
    boolean group = ace.trustee().endsWith(GROUP);
    String who =
        group ? ace.trustee().substring(0, ace.trustee().length() - GROUP.length()) : ace.trustee();
    String type = ace.denies() ? "D" : ace.allows() ? "A" : ace.type() == AceType.ALARM ? "L" : "U";
    return type
        + ":"
        + letters(ace.flags(), FLAGS, FLAG_BITS)
        + (group ? "g" : "")
        + ":"
        + who
        + ":"
        + letters(ace.mask(), RIGHTS, BITS);
  }

  private static String letters(int bits, String letters, int[] values) {
    StringBuilder out = new StringBuilder();
    for (int i = 0; i < values.length; i++) {
      if ((bits & values[i]) != 0) {
        out.append(letters.charAt(i));
      }
    }
    return out.toString();
  }

  /** A name without its domain. */
  public static String plain(String who) {
    int at = who.indexOf('@');
    return at > 0 ? who.substring(0, at) : who;
  }
}
