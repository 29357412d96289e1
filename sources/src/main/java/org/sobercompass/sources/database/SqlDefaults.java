package org.sobercompass.sources.database;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.sobercompass.core.system.database.AclItem;
import org.sobercompass.core.system.database.DatabaseDefaults;
import org.sobercompass.core.system.database.DatabaseFacts;
import org.sobercompass.core.system.database.DefaultPrivileges;

/**
 * Default privileges that are granted and revoked (PostgreSQL 15 documentation, ALTER DEFAULT
 * PRIVILEGES), as what they make of the items of each role. Use once.
 */
final class SqlDefaults {
  private final SqlItems<Later> items;
  private final Function<List<String>, Integer> places;
  private final Taking into;

  /** Takes an item that comes or goes at an object. */
  interface Taking {
    /** Takes one. */
    void accept(int at, String text, boolean added);
  }

  /**
   * Whose default privileges are meant.
   *
   * @param at the number of a schema, or of the database
   */
  private record Later(int at, DefaultPrivileges.Made made, String maker) {}

  /**
   * Of one database.
   *
   * @param places the object of some names; the database for none
   */
  SqlDefaults(DatabaseFacts objects, Function<List<String>, Integer> places, Taking into) {
    DatabaseDefaults now = new DatabaseDefaults(objects);
    this.items = new SqlItems<>(of -> now.now(of.at, of.made, of.maker));
    this.places = places;
    this.into = into;
  }

  /**
   * Takes one statement, from behind its first three words.
   *
   * @param session the role of the session, or empty
   */
  void take(SqlWords words, String session) {
    List<String> makers = makers(words, session);
    List<Integer> where = new ArrayList<>();
    if (words.passes("in", "schema")) {
      do {
        where.add(places.apply(List.of(words.next())));
      } while (words.passes(","));
    } else {
      where.add(places.apply(List.of()));
    }
    boolean grants = words.passes("grant");
    if (!grants && !words.passes("revoke")) {
      throw new IllegalArgumentException("it is not said what is granted or revoked");
    }
    boolean optionOnly = !grants && words.passes("grant", "option", "for");
    List<SqlRights> rights = SqlRights.all(words);
    if (!words.passes("on")) {
      throw new IllegalArgumentException("it is not said on what");
    }
    DefaultPrivileges.Made made = made(words.next());
    if (!words.passes(grants ? "to" : "from")) {
      throw new IllegalArgumentException("it is not said " + (grants ? "to" : "from") + " whom");
    }
    List<String> whom = SqlRights.whom(words);
    boolean option = grants && words.passes("with", "grant", "option");
    SqlRights.end(words);
    SqlItems.Verb verb = new SqlItems.Verb(grants, option, optionOnly);
    for (int at : where) {
      makers.forEach(maker -> change(new Later(at, made, maker), rights, whom, verb));
    }
  }

  private static List<String> makers(SqlWords words, String session) {
    if (words.passes("for", "role") || words.passes("for", "user")) {
      return SqlRights.whom(words);
    }
    if (session.isEmpty()) {
      throw new IllegalArgumentException("it is not said for which role");
    }
    return List.of(session);
  }

  private void change(Later of, List<SqlRights> rights, List<String> whom, SqlItems.Verb verb) {
    for (SqlRights right : rights) {
      long mask = right.mask(of.made.rights(), of.made.word());
      for (String grantee : whom) {
        items.change(
            of, new AclItem(grantee, mask, of.maker), verb, (idle, is) -> put(of, idle, is));
      }
    }
  }

  private void put(Later of, AclItem item, boolean added) {
    into.accept(of.at, new DefaultPrivileges.Item(of.made, item).text(), added);
  }

  private static DefaultPrivileges.Made made(String word) {
    for (DefaultPrivileges.Made made : DefaultPrivileges.Made.values()) {
      if (word.equals(made.word() + "s")) {
        return made;
      }
    }
    if (word.equals("routines")) {
      return DefaultPrivileges.Made.FUNCTION;
    }
    throw new IllegalArgumentException("there are no default privileges on " + word);
  }

  /** Hands on what differs in the end. */
  void end() {
    items.differences(this::put);
  }
}
