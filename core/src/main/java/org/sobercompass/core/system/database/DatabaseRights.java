package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.system.MaskRights;
import org.sobercompass.core.system.MaskRights.Item;

/**
 * The privileges of a database, each with the right to pass it on, and owning. The letters are
 * those of PostgreSQL's access privilege lists (PostgreSQL 15 documentation, section 5.7).
 */
public final class DatabaseRights {
  /** The letters of the privileges, in the order of their bits. */
  public static final String LETTERS = "arwdDxtXUCcT";

  private static final List<String> NAMES =
      List.of(
          "insert",
          "select",
          "update",
          "delete",
          "truncate",
          "references",
          "trigger",
          "execute",
          "usage",
          "create",
          "connect",
          "temporary");

  static final long INSERT = bit('a');
  static final long SELECT = bit('r');
  static final long UPDATE = bit('w');
  static final long DELETE = bit('d');
  static final long USAGE = bit('U');
  static final long CONNECT = bit('c');

  /** Altering, and giving rights. */
  static final long OWN = 1L << 2 * LETTERS.length();

  /** Dropping: the owner may, and the owner of the schema it is in. */
  static final long DROP = OWN << 1;

  /** Every right, with the right to pass it on. */
  static final long ALL = (DROP << 1) - 1;

  /** Every privilege with the right to pass it on, but not the privileges themselves. */
  static final long OPTIONS = (OWN - 1) & ~((1L << LETTERS.length()) - 1);

  static final MaskRights RIGHTS = rights();

  private DatabaseRights() {}

  /** The bit of a privilege's letter, or 0. */
  public static long bit(char letter) {
    int at = LETTERS.indexOf(letter);
    return at < 0 ? 0 : 1L << at;
  }

  /** The bit of the right to pass a privilege on. */
  public static long option(char letter) {
    return bit(letter) << LETTERS.length();
  }

  private static MaskRights rights() {
    List<Item> items = new ArrayList<>();
    for (int i = 0; i < NAMES.size(); i++) {
      boolean strong = !List.of("select", "usage", "connect", "temporary").contains(NAMES.get(i));
      items.add(new Item(NAMES.get(i), 1L << i, strong));
    }
    for (int i = 0; i < NAMES.size(); i++) {
      items.add(new Item("grant-" + NAMES.get(i), 1L << (i + NAMES.size()), true, true));
    }
    items.add(new Item("own", OWN, true));
    items.add(new Item("drop", DROP, true));
    return new MaskRights(items);
  }

  /** The name of a privilege, as in SQL but in lower case. */
  public static String name(char letter) {
    return NAMES.get(LETTERS.indexOf(letter)).toLowerCase(Locale.ROOT);
  }

  /** Privileges in words, with a star after each that may be passed on. */
  public static String words(long mask) {
    List<String> words = new ArrayList<>();
    for (char letter : LETTERS.toCharArray()) {
      boolean option = (mask & option(letter)) != 0;
      if (option || (mask & bit(letter)) != 0) {
        words.add(name(letter) + (option ? "*" : ""));
      }
    }
    return words.isEmpty() ? "nothing" : String.join(", ", words);
  }
}
