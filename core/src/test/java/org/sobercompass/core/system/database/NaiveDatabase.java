package org.sobercompass.core.system.database;

import java.util.Map;
import java.util.Set;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.database.DatabaseFacts.Given;
import org.sobercompass.core.system.database.DatabaseFacts.Item;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;

/**
 * The privileges of a database as a plain program (PostgreSQL 15 documentation, section 5.7): one
 * privilege of one object after another.
 */
final class NaiveDatabase {
  private final Map<String, Item> items;
  private final DatabaseAccess system;
  private final int firstRole;
  private final int accounts;
  private final boolean superuser;
  private final boolean closed;

  NaiveDatabase(
      Map<String, Item> items,
      DatabaseAccess system,
      int firstRole,
      int accounts,
      boolean superuser,
      boolean closed) {
    this.items = items;
    this.system = system;
    this.firstRole = firstRole;
    this.accounts = accounts;
    this.superuser = superuser;
    this.closed = closed;
  }

  Verdict decide(int account, Set<Integer> subjects, int right, int resource) {
    String path = system.resources().id(resource);
    long bit = DatabaseRights.RIGHTS.mask(right);
    String[] steps = path.equals("/") ? new String[0] : path.substring(1).split("/");
    Verdict way = Verdict.YES;
    if (steps.length > 0) {
      way = closed ? Verdict.NO : has("/d", account, subjects, DatabaseRights.CONNECT);
    }
    if (steps.length > 2) {
      way = way.and(has("/d/" + steps[1], account, subjects, DatabaseRights.USAGE));
    }
    return way.and(has(path, account, subjects, bit));
  }

  private Verdict has(String path, int account, Set<Integer> subjects, long bit) {
    Item item = items.get(path);
    if ((item.kind().rights() & bit) == 0) {
      return Verdict.NO;
    }
    if (superuser && account == 0) {
      return Verdict.YES;
    }
    String above = path.substring(0, Math.max(path.lastIndexOf('/'), 0));
    Verdict best = item.known() ? Verdict.NO : Verdict.UNDECIDED;
    if (is(item.owner(), subjects)) {
      boolean owners = bit == DatabaseRights.OWN || bit == DatabaseRights.DROP;
      best = owners || (bit & DatabaseRights.OPTIONS) != 0 ? Verdict.YES : best;
    }
    for (Given given : item.given()) {
      best = (given.mask() & bit) != 0 && is(given.trustee(), subjects) ? Verdict.YES : best;
    }
    boolean inSchema = items.containsKey(above) && items.get(above).kind() == Kind.SCHEMA;
    if (bit == DatabaseRights.DROP && inSchema && is(items.get(above).owner(), subjects)) {
      best = Verdict.YES;
    }
    if (item.kind() == Kind.COLUMN) {
      Verdict table = has(above, account, subjects, bit);
      best = table.ordinal() > best.ordinal() ? table : best;
    }
    return best;
  }

  private boolean is(int trustee, Set<Integer> subjects) {
    return trustee == 0
        || (trustee > 0
            && subjects.contains(
                trustee <= accounts ? trustee - 1 : firstRole + trustee - accounts - 1));
  }
}
