package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.system.PathTree;
import org.sobercompass.core.system.Trustees;

/** The objects of one database with their owners and grants, frozen. Thread-safe. */
public final class DatabaseFacts {

  /** What an object is, and which rights there are on it. */
  public enum Kind {
    SERVER("server", ""),
    DATABASE("database", "cCT"),
    SCHEMA("schema", "UC"),
    TABLE("table", "arwdDxt"),
    VIEW("view", "arwdDxt"),
    SEQUENCE("sequence", "rwU"),
    COLUMN("column", "arwx"),
    FUNCTION("function", "X");

    private final String word;
    private final long rights;

    Kind(String word, String letters) {
      this.word = word;
      long mask = letters.isEmpty() ? 0 : DatabaseRights.OWN;
      for (char letter : letters.toCharArray()) {
        mask |= DatabaseRights.bit(letter) | DatabaseRights.option(letter);
      }
      rights = mask;
    }

    /** The kind in words. */
    public String word() {
      return word;
    }

    /** The rights there are on it, one bit each. */
    public long rights() {
      return rights;
    }
  }

  /**
   * One grant.
   *
   * @param trustee to whom, as a trustee's number
   * @param mask the rights given
   * @param by who gave it, or empty
   */
  public record Given(int trustee, long mask, String by) {}

  /**
   * One object.
   *
   * @param kind what it is
   * @param owner the trustee that owns it
   * @param given its grants; none for an object whose grants could not be read
   * @param known whether its grants could be read
   * @param rows whether rows are hidden by policies (row security), and from whom
   */
  public record Item(Kind kind, int owner, List<Given> given, boolean known, Rows rows) {}

  /** Row security of a table. */
  public enum Rows {
    ALL(""),
    /** Policies choose the rows, but not for the owner. */
    POLICIES("row security is on: only rows that its policies let through"),
    /** For the owner too. */
    FORCED("row security is forced: only rows that its policies let through, for the owner too");

    private final String words;

    Rows(String words) {
      this.words = words;
    }

    /** What it means for whoever reads. */
    public String words() {
      return words;
    }
  }

  final PathTree tree;
  final Item[] items;
  final Trustees trustees;
  final Map<Integer, Integer> superusers;
  final int readAll;
  final int writeAll;
  final BitSet closed;
  final List<Switch> switches;
  final Map<Integer, List<String>> defaults;
  final Set<Integer> bypassing;

  /**
   * A role that another may switch to.
   *
   * @param member the trustee that may
   * @param role the trustee it may switch to
   * @param inherits whether it has what the role has without switching
   * @param superuser whether the role is a superuser
   */
  public record Switch(int member, int role, boolean inherits, boolean superuser) {}

  private DatabaseFacts(Builder builder, PathTree.Built built) {
    tree = built.tree();
    trustees = builder.trustees.build();
    items = new Item[tree.size()];
    closed = new BitSet();
    for (int r = 0; r < items.length; r++) {
      items[r] = unread(tree.depth(r));
    }
    builder.items.forEach((node, item) -> items[built.numbers()[node]] = item);
    defaults = new HashMap<>();
    builder.defaults.forEach((node, words) -> defaults.put(built.numbers()[node], words));
    bypassing = Set.copyOf(builder.bypassing);
    builder.closed.forEach(node -> closed.set(built.numbers()[node]));
    switches = List.copyOf(builder.switches);
    superusers = Map.copyOf(builder.superusers);
    readAll = trustees.find("pg_read_all_data");
    writeAll = trustees.find("pg_write_all_data");
  }

  private DatabaseFacts(DatabaseFacts from, Item[] items) {
    this.tree = from.tree;
    this.items = items;
    this.trustees = from.trustees;
    this.superusers = from.superusers;
    this.readAll = from.readAll;
    this.writeAll = from.writeAll;
    this.closed = from.closed;
    this.switches = from.switches;
    this.defaults = from.defaults;
    this.bypassing = from.bypassing;
  }

  /** The same as if one grant on an object gave nothing. */
  DatabaseFacts without(int resource, int given) {
    Item[] others = items.clone();
    Item item = items[resource];
    List<Given> left = new ArrayList<>(item.given());
    left.set(given, new Given(left.get(given).trustee(), 0, left.get(given).by()));
    others[resource] = new Item(item.kind(), item.owner(), left, item.known(), item.rows());
    return new DatabaseFacts(this, others);
  }

  /** What nothing was read of, but something below it: its grants are not known. */
  private static Item unread(int depth) {
    Kind kind =
        depth == 0
            ? Kind.SERVER
            : depth == 1 ? Kind.DATABASE : depth == 2 ? Kind.SCHEMA : Kind.TABLE;
    return new Item(kind, -1, List.of(), depth == 0, Rows.ALL);
  }

  /** The tree: server, databases, schemas, what is in them, columns. */
  public PathTree tree() {
    return tree;
  }

  /** Whom the grants name. */
  public Trustees trustees() {
    return trustees;
  }

  /** An object. */
  public Item item(int resource) {
    return items[resource];
  }

  /** Collects objects. Not thread-safe. */
  public static final class Builder {
    private final Trustees.Builder trustees;
    private final PathTree.Builder paths = PathTree.builder();
    private final Map<Integer, Item> items = new HashMap<>();
    private final Map<Integer, Integer> superusers = new HashMap<>();
    private final List<Integer> closed = new ArrayList<>();
    private final List<Switch> switches = new ArrayList<>();
    private final Map<Integer, List<String>> defaults = new HashMap<>();
    private final Set<Integer> bypassing = new HashSet<>();

    /** Whose grants name these trustees. */
    public Builder(Trustees.Builder trustees) {
      this.trustees = trustees;
    }

    /** The paths; a name is one step, with slashes written out. */
    public PathTree.Builder paths() {
      return paths;
    }

    /** Adds an object; false when it was there. */
    public boolean put(int node, Item item) {
      return items.putIfAbsent(node, item) == null;
    }

    /** Says that nobody may connect to a database. */
    public void close(int node) {
      closed.add(node);
    }

    /** Says that an account signs in as a superuser. */
    public void superuser(int account, int trustee) {
      superusers.put(account, trustee);
    }

    /** Says that a role may switch to another. */
    public void switching(Switch allowed) {
      switches.add(allowed);
    }

    /** Says in words what something made in a schema, or anywhere in a database, would get. */
    public void byDefault(int node, String words) {
      defaults.computeIfAbsent(node, n -> new ArrayList<>()).add(words);
    }

    /** Says that an account signs in as a role for which row security does not count. */
    public void bypasses(int account) {
      bypassing.add(account);
    }

    /** The frozen facts. */
    public DatabaseFacts build() {
      return new DatabaseFacts(this, paths.build());
    }
  }
}
