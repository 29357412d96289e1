package org.sobercompass.core.system.files;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.problem.Problem;

/**
 * An entry of a 1003.1e list as it is written (1003.1e 23.3.1).
 *
 * @param ofDefault whether it is for what is made in a folder later
 * @param kind user, group, other or mask
 * @param who the name or number; empty for the owner, the owning group, others and the mask
 * @param may the permissions, one bit each
 */
record PosixEntry(boolean ofDefault, String kind, String who, int may) {
  private static final Pattern FORM =
      Pattern.compile("(default:)?(user|group|other|mask):([^:]*):([r-][w-][x-])");

  /** Whether a text is an entry. */
  static boolean is(String text) {
    return FORM.matcher(text).matches();
  }

  /**
   * Reads one.
   *
   * @throws IllegalArgumentException when it is none
   */
  static PosixEntry of(String text) {
    Matcher m = FORM.matcher(text);
    boolean fits = m.matches() && (m.group(2).matches("user|group") || m.group(3).isEmpty());
    if (!fits) {
      throw new IllegalArgumentException(
          Problem.quote(text)
              + " is no entry of such a list; expected user:NAME:rwx, group:NAME:rwx, other::rwx,"
              + " each with or without default: before it");
    }
    return new PosixEntry(m.group(1) != null, m.group(2), m.group(3), PosixList.bits(m.group(4)));
  }

  boolean isNamed() {
    return !who.isEmpty();
  }

  String id(FileTrustees names) {
    return names.id(kind.equals("group"), who);
  }
}
