package org.sobercompass.core.system.database;

import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.database.DatabaseFacts.Given;
import org.sobercompass.core.system.database.DatabaseFacts.Item;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;

/**
 * What somebody has on each object: what its grants say, and what is left of it on the way. More
 * roles never take away. Allocates nothing.
 */
final class DatabaseMasks {
  private final DatabaseFacts facts;
  private final Who who;
  private final boolean superuser;

  DatabaseMasks(DatabaseFacts facts, DatabaseWho who) {
    this.facts = facts;
    this.who = who.who();
    this.superuser = who.superuser();
  }

  /** What the grants of an object itself give, as the server's privilege functions say. */
  long own(int resource, boolean favourable) {
    Item item = facts.items[resource];
    if (who.comes() == 0 || (who.comes() == 1 && !favourable)) {
      return 0;
    }
    if (superuser || (!item.known() && favourable)) {
      return item.kind().rights();
    }
    long mask = byRole(item, favourable);
    if (item.owner() >= 0 && who.is(item.owner(), favourable)) {
      mask |= DatabaseRights.OPTIONS | DatabaseRights.OWN;
    }
    for (Given given : item.given()) {
      if ((given.mask() & ~mask) != 0 && who.is(given.trustee(), favourable)) {
        mask |= given.mask();
      }
    }
    if (item.kind() == Kind.COLUMN) {
      mask |= own(facts.tree.parent(resource), favourable);
    }
    return mask & item.kind().rights();
  }

  /** Roles that read or write everything (PostgreSQL 15 documentation, section 22.5). */
  private long byRole(Item item, boolean favourable) {
    boolean reads = facts.readAll >= 0 && who.is(facts.readAll, favourable);
    boolean writes = facts.writeAll >= 0 && who.is(facts.writeAll, favourable);
    return (reads ? readAll(item.kind()) : 0) | (writes ? writeAll(item.kind()) : 0);
  }

  static long readAll(Kind kind) {
    return switch (kind) {
      case TABLE, VIEW, SEQUENCE, COLUMN -> DatabaseRights.SELECT;
      case SCHEMA -> DatabaseRights.USAGE;
      case SERVER, DATABASE, FUNCTION -> 0;
    };
  }

  static long writeAll(Kind kind) {
    return switch (kind) {
      case TABLE, VIEW, SEQUENCE, COLUMN ->
          DatabaseRights.INSERT | DatabaseRights.UPDATE | DatabaseRights.DELETE;
      case SCHEMA -> DatabaseRights.USAGE;
      case SERVER, DATABASE, FUNCTION -> 0;
    };
  }

  /** Whether an object lets pass to what is in it: connecting to a database, using a schema. */
  boolean passes(int resource, boolean favourable) {
    return switch (facts.items[resource].kind()) {
      case DATABASE ->
          !facts.closed.get(resource) && (own(resource, favourable) & DatabaseRights.CONNECT) != 0;
      case SCHEMA -> (own(resource, favourable) & DatabaseRights.USAGE) != 0;
      default -> who.comes() == 2 || (favourable && who.comes() == 1);
    };
  }

  /** Whether everything above lets pass. */
  boolean reaches(int resource, boolean favourable) {
    for (int at = facts.tree.parent(resource); at >= 0; at = facts.tree.parent(at)) {
      if (!passes(at, favourable)) {
        return false;
      }
    }
    return true;
  }

  /** What can be used, given whether everything above lets pass. */
  long usable(int resource, boolean reached, boolean favourable) {
    if (!reached) {
      return 0;
    }
    long own = own(resource, favourable);
    boolean inside = facts.items[resource].kind() != Kind.DATABASE || passes(resource, favourable);
    return inside ? own : 0;
  }
}
