package org.sobercompass.core.system.files;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.ListWish;

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

  /**
   * The permissions that give rights.
   *
   * @throws IllegalArgumentException when no entry gives one of them
   */
  static int bits(ListWish wish) {
    int bits = 0;
    for (int right : wish.rights()) {
      bits |=
          switch (right) {
            case FileRights.POSIX_READ -> 4;
            case FileRights.POSIX_WRITE -> 2;
            case FileRights.POSIX_EXECUTE -> 1;
            case FileRights.POSIX_CREATE -> 3;
            case FileRights.POSIX_DELETE ->
                throw new IllegalArgumentException(
                    "no entry gives delete: it takes create on the folder above");
            default ->
                throw new IllegalArgumentException(
                    "no entry gives "
                        + FileRights.POSIX.text(right)
                        + ": that is for the owner and the superuser");
          };
    }
    return bits;
  }
}
