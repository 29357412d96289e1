package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Trustees;

/**
 * Who owns the objects of a database, as items {@code owner:ROLE}. Columns are owned with their
 * tables.
 */
record DatabaseOwners(DatabaseFacts facts) {
  private static final String OWNER = "owner:";

  /** Whether a text says who owns an object. */
  static boolean is(String text) {
    return text.startsWith(OWNER);
  }

  static String text(String role) {
    return OWNER + role;
  }

  static String words(String text) {
    return "owner " + text.substring(OWNER.length());
  }

  boolean has(int resource, String text) {
    int owner = facts.item(resource).owner();
    return is(text) && owner >= 0 && text.equals(text(facts.trustees().text(owner)));
  }

  /** All of them, by the subject that owns. */
  Map<Integer, List<ListWish.Edit>> all() {
    Map<Integer, List<ListWish.Edit>> all = new HashMap<>();
    for (int r = 0; r < facts.tree().size(); r++) {
      DatabaseFacts.Item item = facts.item(r);
      boolean ofTable = item.kind() == DatabaseFacts.Kind.COLUMN;
      int subject = item.owner() < 0 || ofTable ? -1 : facts.trustees().subject(item.owner());
      if (subject >= 0) {
        String text = text(facts.trustees().text(item.owner()));
        all.computeIfAbsent(subject, s -> new ArrayList<>()).add(new ListWish.Edit(r, text, true));
      }
    }
    return all;
  }

  /**
   * With another owner. Whoever owns an object goes only when another comes, so that taking an
   * owner out changes nothing yet.
   *
   * @param database its name, for people
   * @throws IllegalArgumentException when there is no such role, or the object has no owner of its
   *     own
   */
  DatabaseFacts with(Redefinition.ListItem item, String database) {
    if (!item.added()) {
      return facts;
    }
    String role = item.text().substring(OWNER.length());
    int trustee = facts.trustees().find(role);
    if (trustee < 0 || trustee == Trustees.EVERYONE) {
      throw new IllegalArgumentException(
          "there is no role " + Problem.quote(role) + " in " + database);
    }
    DatabaseFacts.Item object = facts.item(item.resource());
    if (object.kind() == DatabaseFacts.Kind.DATABASE) {
      // Who owns the database is in pg_database_owner (PostgreSQL 15 documentation, section 22.5).
      throw new IllegalArgumentException(
          "with the owner of a database changes who is in pg_database_owner, which cannot be shown"
              + " in its effects yet");
    }
    if (object.owner() < 0 || object.kind() == DatabaseFacts.Kind.COLUMN) {
      throw new IllegalArgumentException(
          facts.tree().id(item.resource()) + " has no owner of its own that was read");
    }
    return facts.owned(item.resource(), trustee);
  }
}
