package org.sobercompass.core.system.files;

import java.util.Set;
import org.jspecify.annotations.Nullable;
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
  private static final String DEFAULT = "default:";
  private static final Set<String> KINDS = Set.of("user", "group", "other", "mask");

  /** Whether a text is an entry. */
  static boolean is(String text) {
    return read(text) != null;
  }

  /**
   * Reads one.
   *
   * @throws IllegalArgumentException when it is none
   */
  static PosixEntry of(String text) {
    PosixEntry entry = read(text);
    boolean named = entry != null && entry.isNamed();
    if (entry == null || named && !entry.kind.equals("user") && !entry.kind.equals("group")) {
      throw new IllegalArgumentException(
          Problem.quote(text)
              + " is no entry of such a list; expected user:NAME:rwx, group:NAME:rwx, other::rwx,"
              + " each with or without default: before it");
    }
    return entry;
  }

  private static @Nullable PosixEntry read(String text) {
    boolean ofDefault = text.startsWith(DEFAULT);
    int from = ofDefault ? DEFAULT.length() : 0;
    int colon = text.indexOf(':', from);
    int last = text.lastIndexOf(':');
    if (colon < 0 || last <= colon || last + 4 != text.length()) {
      return null;
    }
    String kind = text.substring(from, colon);
    String who = text.substring(colon + 1, last);
    boolean letters = is(text, last + 1, 'r') && is(text, last + 2, 'w') && is(text, last + 3, 'x');
    return letters && KINDS.contains(kind) && who.indexOf(':') < 0
        ? new PosixEntry(ofDefault, kind, who, PosixList.bits(text.substring(last + 1)))
        : null;
  }

  private static boolean is(String text, int at, char letter) {
    return text.charAt(at) == letter || text.charAt(at) == '-';
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
