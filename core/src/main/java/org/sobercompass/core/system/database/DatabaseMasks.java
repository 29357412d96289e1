package org.sobercompass.core.system.database;

import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.database.DatabaseFacts.Given;
import org.sobercompass.core.system.database.DatabaseFacts.Item;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;
import org.sobercompass.core.system.database.DatabaseFacts.Policy;
import org.sobercompass.core.system.database.DatabaseFacts.Read;
import org.sobercompass.core.system.database.DatabaseFacts.Rows;
import org.sobercompass.core.system.database.DatabaseFacts.View;

/**
 * What somebody has on each object: what its grants say, and what is left of it on the way. More
 * roles never take away. Allocates nothing.
 */
final class DatabaseMasks {

  /** How far views are followed that read from views. */
  private static final int DEEPEST = 64;

  private static final long WRITES =
      DatabaseRights.INSERT | DatabaseRights.UPDATE | DatabaseRights.DELETE;
  private static final long ROWS = WRITES | DatabaseRights.SELECT;

  private final DatabaseFacts facts;
  private final Who who;
  private final boolean superuser;
  private final boolean bypasses;

  DatabaseMasks(DatabaseFacts facts, DatabaseWho who) {
    this.facts = facts;
    this.who = who.who();
    this.superuser = who.superuser();
    this.bypasses = who.bypasses();
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
      mask |= DatabaseRights.OPTIONS | DatabaseRights.OWN | DatabaseRights.DROP;
    }
    int above = facts.tree.parent(resource);
    if (above >= 0 && facts.items[above].kind() == Kind.SCHEMA) {
      int owner = facts.items[above].owner();
      mask |= owner >= 0 && who.is(owner, favourable) ? DatabaseRights.DROP : 0;
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
    return inside ? own & ~behind(resource, own, favourable, 0) : 0;
  }

  /**
   * What is held and does not work all the same, as bits: rows that no policy lets through, and
   * what a view passes on to relations on which its owner, or who uses it, has no right.
   */
  long behind(int resource, long held, boolean favourable) {
    return behind(resource, held, favourable, 0);
  }

  private long behind(int resource, long held, boolean favourable, int depth) {
    Item item = facts.items[resource];
    if (item.kind() == Kind.COLUMN) {
      return behind(facts.tree.parent(resource), held, favourable, depth);
    }
    long missing = 0;
    if (item.rows() != Rows.ALL && !superuser && !bypasses) {
      missing |= hidden(item, held & ROWS, favourable);
    }
    if (item.view().isPresent()) {
      for (long left = held & ROWS & ~missing; left != 0; left &= left - 1) {
        long one = Long.lowestOneBit(left);
        missing |= works(item, item.view().get(), one, favourable, depth) ? 0 : one;
      }
    }
    return missing;
  }

  /** Row security: without a policy that lets some rows through there are none. */
  private long hidden(Item item, long held, boolean favourable) {
    boolean owns = item.owner() >= 0 && who.is(item.owner(), favourable);
    if (item.rows() == Rows.POLICIES && owns) {
      return 0;
    }
    if (item.policies().isEmpty()) {
      return favourable ? 0 : held;
    }
    long through = 0;
    for (Policy policy : item.policies().get()) {
      for (int trustee : policy.trustees()) {
        through |= who.is(trustee, favourable) ? policy.rights() : 0;
      }
    }
    return held & ~through;
  }

  /** Whether a statement on a view finds the rights it needs on what the view reads from. */
  private boolean works(Item item, View view, long right, boolean favourable, int depth) {
    if ((view.triggered() & ~view.updatable() & right) != 0) {
      return true;
    }
    if ((right & WRITES) != 0 && (view.updatable() & right) == 0) {
      return favourable && !view.known();
    }
    if (!view.known() || depth > DEEPEST || ((right & WRITES) != 0 && view.reads().size() != 1)) {
      return favourable;
    }
    DatabaseWho owner = facts.asRole.get(item.owner());
    DatabaseMasks asked = view.invoker() || owner == null ? this : new DatabaseMasks(facts, owner);
    for (Read read : view.reads()) {
      if (!asked.reads(read, right, favourable, this, depth)) {
        return false;
      }
    }
    return true;
  }

  /** A view of an invoker asks who began, however deep it stands. */
  private boolean reads(Read read, long right, boolean favourable, DatabaseMasks user, int depth) {
    Item item = facts.items[read.relation()];
    boolean mine = item.view().filter(View::invoker).isPresent();
    DatabaseMasks asked = mine ? user : this;
    long own = asked.own(read.relation(), favourable);
    boolean has = (own & right) != 0;
    boolean columns = right == DatabaseRights.SELECT && !read.columns().isEmpty();
    if (!has && columns) {
      has = true;
      for (int column : read.columns()) {
        has &= (asked.own(column, favourable) & right) != 0;
      }
    }
    return has && asked.behind(read.relation(), right, favourable, depth + 1) == 0;
  }

  /**
   * Whether anything may stand behind a right on an object: policies, or what a view reads from.
   */
  boolean isDirect(int resource) {
    Item item = facts.items[resource];
    return item.kind() == Kind.COLUMN
        ? isDirect(facts.tree.parent(resource))
        : item.rows() == Rows.ALL && item.view().isEmpty();
  }
}
