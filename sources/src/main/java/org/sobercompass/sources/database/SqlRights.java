package org.sobercompass.sources.database;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.system.database.DatabaseRights;

/**
 * One right that a statement names, and the columns that it is for.
 *
 * @param name as it stands there
 * @param columns the columns; empty for the whole object
 */
record SqlRights(String name, List<String> columns) {

  /** The rights, or roles, that a statement begins with. */
  static List<SqlRights> all(SqlWords words) {
    List<SqlRights> rights = new ArrayList<>();
    do {
      String name = words.next();
      List<String> columns = new ArrayList<>();
      if (words.passes("(")) {
        do {
          columns.add(words.next());
        } while (words.passes(","));
        words.passes(")");
      }
      rights.add(new SqlRights(name, columns));
    } while (words.passes(","));
    words.passes("privileges");
    return rights;
  }

  /** The roles that come next; empty stands for everyone. */
  static List<String> whom(SqlWords words) {
    List<String> whom = new ArrayList<>();
    do {
      words.passes("group");
      whom.add(words.passes("public") ? "" : words.next());
    } while (words.passes(","));
    return whom;
  }

  /** Nothing more may follow. */
  static void end(SqlWords words) {
    if (!words.isEnd() && !words.passes("restrict")) {
      throw new IllegalArgumentException("the word " + words.next() + " after that");
    }
  }

  /**
   * The privileges that are meant.
   *
   * @param rights those that there are on such an object
   * @param kind what it is, for people
   * @throws IllegalArgumentException when there is no such right on one
   */
  long mask(long rights, String kind) {
    if (name.equals("all")) {
      return rights & plain();
    }
    String wanted = name.equals("temp") ? "temporary" : name;
    for (char letter : DatabaseRights.LETTERS.toCharArray()) {
      boolean fits = (rights & DatabaseRights.bit(letter)) != 0;
      if (fits && DatabaseRights.name(letter).equals(wanted)) {
        return DatabaseRights.bit(letter);
      }
    }
    throw new IllegalArgumentException("there is no right " + name + " on a " + kind);
  }

  private static long plain() {
    long mask = 0;
    for (char letter : DatabaseRights.LETTERS.toCharArray()) {
      mask |= DatabaseRights.bit(letter);
    }
    return mask;
  }
}
