package org.sobercompass.core.system.database;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.system.PathTree;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Who;

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
      boolean dropped = !letters.isEmpty() && !word.equals("column");
      long mask = letters.isEmpty() ? 0 : DatabaseRights.OWN;
      mask |= dropped ? DatabaseRights.DROP : 0;
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
   * @param policies what lets rows through; empty where that was not read
   * @param view what it reads from, if it is a view
   */
  public record Item(
      Kind kind,
      int owner,
      List<Given> given,
      boolean known,
      Rows rows,
      Optional<List<Policy>> policies,
      Optional<View> view) {
    private Item giving(List<Given> others) {
      return new Item(kind, owner, List.copyOf(others), known, rows, policies, view);
    }

    private Item ownedBy(int other, List<Given> others) {
      return new Item(kind, other, List.copyOf(others), known, rows, policies, view);
    }
  }

  /**
   * A policy that lets rows through (PostgreSQL 15 documentation, section 5.8).
   *
   * @param rights the statements it is for: select, insert, update, delete
   * @param trustees for whom
   */
  public record Policy(long rights, List<Integer> trustees) {}

  /**
   * What a view reads from. On that its owner is asked, or whoever uses it where it is an
   * invoker's.
   *
   * @param known whether it was read what it reads from
   * @param invoker whether it asks for the rights of whoever uses it
   * @param reads the relations read from, each with the columns used, where rights are kept for
   *     them
   * @param updatable the statements that it passes on to what it reads from
   * @param triggered the statements that a trigger of its own carries out
   */
  public record View(
      boolean known, boolean invoker, List<Read> reads, long updatable, long triggered) {

    /** The same where each item has another number. */
    View numbered(int[] numbers) {
      List<Read> others =
          reads.stream()
              .map(
                  read ->
                      new Read(
                          numbers[read.relation],
                          read.columns.stream().map(column -> numbers[column]).toList()))
              .toList();
      return new View(known, invoker, others, updatable, triggered);
    }
  }

  /**
   * A relation that a view reads from.
   *
   * @param relation the number of the relation
   * @param columns the numbers of the columns used; empty where no right on columns would do
   */
  public record Read(int relation, List<Integer> columns) {}

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
  private final boolean whole;
  final int readAll;
  final int writeAll;
  final BitSet closed;
  final List<Switch> switches;
  final Map<Integer, List<DefaultPrivileges>> defaults;
  final Set<Integer> bypassing;
  private final Set<Integer> bypassingRoles;
  final Map<Integer, DatabaseWho> asRole;
  final Map<Integer, String> powerful;
  final Map<Integer, List<Integer>> signingIn;
  final boolean creatorsReachAll;
  final Map<Integer, String> creators;

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
    powerful = Map.copyOf(builder.powerful);
    signingIn = Map.copyOf(builder.signingIn);
    creatorsReachAll = builder.creatorsReachAll;
    creators = Map.copyOf(builder.creators);
    trustees = builder.trustees.build();
    items = new Item[tree.size()];
    closed = new BitSet();
    for (int r = 0; r < items.length; r++) {
      items[r] = unread(tree.depth(r));
    }
    builder.items.forEach(
        (node, item) -> items[built.numbers()[node]] = numbered(item, built.numbers()));
    whole = Arrays.stream(items).allMatch(DatabaseFacts::isWhole);
    defaults = new HashMap<>();
    builder.defaults.forEach((node, all) -> defaults.put(built.numbers()[node], all));
    bypassing = Set.copyOf(builder.bypassing);
    builder.closed.forEach(node -> closed.set(built.numbers()[node]));
    switches = List.copyOf(builder.switches);
    superusers = Map.copyOf(builder.superusers);
    readAll = trustees.find("pg_read_all_data");
    writeAll = trustees.find("pg_write_all_data");
    bypassingRoles = Set.copyOf(builder.bypassingRoles);
    asRole = new HashMap<>();
    askedAsRoles();
  }

  /** What views read from is asked as whom they belong to. */
  private void askedAsRoles() {
    for (Item item : items) {
      if (item.view().isPresent() && item.owner() >= 0) {
        asRole.computeIfAbsent(item.owner(), this::role);
      }
    }
  }

  private static Item numbered(Item item, int[] numbers) {
    return item.view().isEmpty()
        ? item
        : new Item(
            item.kind,
            item.owner,
            item.given,
            item.known,
            item.rows,
            item.policies,
            Optional.of(item.view().orElseThrow().numbered(numbers)));
  }

  /** A role as the server counts it: itself, and all that it inherits from. */
  private DatabaseWho role(int trustee) {
    long[] sure = new long[(trustees.size() + 63) >> 6];
    Deque<Integer> open = new ArrayDeque<>(List.of(trustee));
    Set<Integer> seen = new HashSet<>(open);
    sure[0] |= 1L << Trustees.EVERYONE;
    while (!open.isEmpty()) {
      int at = open.remove();
      sure[at >> 6] |= 1L << at;
      for (Switch one : switches) {
        if (one.member() == at && one.inherits() && seen.add(one.role())) {
          open.add(one.role());
        }
      }
    }
    String power = powerful.getOrDefault(trustee, "");
    return new DatabaseWho(
        new Who(sure, new long[sure.length], 2),
        power.equals(SUPERUSER),
        bypassingRoles.contains(trustee));
  }

  /** What a superuser is powerful by. */
  static final String SUPERUSER = "a superuser";

  private DatabaseFacts(DatabaseFacts from, Item[] items) {
    this(from, items, from.defaults);
  }

  private DatabaseFacts(
      DatabaseFacts from, Item[] items, Map<Integer, List<DefaultPrivileges>> defaults) {
    this.tree = from.tree;
    this.items = items;
    this.whole = from.whole;
    this.trustees = from.trustees;
    this.superusers = from.superusers;
    this.readAll = from.readAll;
    this.writeAll = from.writeAll;
    this.closed = from.closed;
    this.switches = from.switches;
    this.defaults = defaults;
    this.bypassing = from.bypassing;
    this.bypassingRoles = from.bypassingRoles;
    this.asRole = new HashMap<>(from.asRole);
    this.powerful = from.powerful;
    this.signingIn = from.signingIn;
    this.creatorsReachAll = from.creatorsReachAll;
    this.creators = from.creators;
    askedAsRoles();
  }

  /** The same with other default privileges. */
  DatabaseFacts defaulting(Map<Integer, List<DefaultPrivileges>> others) {
    return new DatabaseFacts(this, items, others);
  }

  /** The same with one more grant on an object. */
  DatabaseFacts with(int resource, Given more) {
    Item[] others = items.clone();
    List<Given> all = new ArrayList<>(items[resource].given());
    all.add(more);
    others[resource] = items[resource].giving(all);
    return new DatabaseFacts(this, others);
  }

  /**
   * The same with an object, and its columns, owned by somebody else. What the owner before had
   * been given, and had given, is then the new owner's, as the server does it (PostgreSQL 15
   * documentation, section 5.7); grants keep their places.
   */
  DatabaseFacts owned(int resource, int owner) {
    Item[] others = items.clone();
    int was = items[resource].owner();
    for (int r = resource; r < tree.end(resource); r++) {
      if (r == resource || (tree.parent(r) == resource && items[r].kind() == Kind.COLUMN)) {
        others[r] = items[r].ownedBy(owner, given(items[r].given(), was, owner));
      }
    }
    return new DatabaseFacts(this, others);
  }

  private List<Given> given(List<Given> all, int was, int owner) {
    String before = trustees.text(was);
    List<Given> mapped = new ArrayList<>();
    for (Given one : all) {
      int trustee = one.trustee() == was ? owner : one.trustee();
      String by = one.by().equals(before) ? trustees.text(owner) : one.by();
      long more = one.mask();
      for (int i = 0; i < mapped.size(); i++) {
        Given there = mapped.get(i);
        if (there.trustee() == trustee && there.by().equals(by)) {
          mapped.set(i, new Given(trustee, there.mask() | more, by));
          more = 0;
        }
      }
      mapped.add(new Given(trustee, more, by));
    }
    return mapped;
  }

  /** The same as if one grant on an object gave nothing. */
  DatabaseFacts without(int resource, int given) {
    Item[] others = items.clone();
    Item item = items[resource];
    List<Given> left = new ArrayList<>(item.given());
    left.set(given, new Given(left.get(given).trustee(), 0, left.get(given).by()));
    others[resource] = item.giving(left);
    return new DatabaseFacts(this, others);
  }

  /** What nothing was read of, but something below it: its grants are not known. */
  private static Item unread(int depth) {
    Kind kind =
        depth == 0
            ? Kind.SERVER
            : depth == 1 ? Kind.DATABASE : depth == 2 ? Kind.SCHEMA : Kind.TABLE;
    return new Item(kind, -1, List.of(), depth == 0, Rows.ALL, Optional.empty(), Optional.empty());
  }

  /** Whether all grants, policies and what views read from were read. */
  boolean isWhole() {
    return whole;
  }

  private static boolean isWhole(Item item) {
    boolean rows = item.rows() == Rows.ALL || item.policies().isPresent();
    return item.known() && rows && item.view().stream().allMatch(View::known);
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
    private final Map<Integer, List<DefaultPrivileges>> defaults = new HashMap<>();
    private final Set<Integer> bypassing = new HashSet<>();
    private final Set<Integer> bypassingRoles = new HashSet<>();
    private final Map<Integer, String> powerful = new HashMap<>();
    private final Map<Integer, List<Integer>> signingIn = new HashMap<>();
    private final Map<Integer, String> creators = new HashMap<>();
    private boolean creatorsReachAll = true;

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
    public void byDefault(int node, DefaultPrivileges one) {
      defaults.computeIfAbsent(node, n -> new ArrayList<>()).add(one);
    }

    /** Says that an account signs in as a role for which row security does not count. */
    public void bypasses(int account) {
      bypassing.add(account);
    }

    /** Says that row security does not count for a role. */
    public void bypassesAsRole(int trustee) {
      bypassingRoles.add(trustee);
    }

    /** Says which accounts sign in as a role. */
    public void signsIn(int trustee, List<Integer> accounts) {
      signingIn.put(trustee, List.copyOf(accounts));
    }

    /** Says that whoever is a role may everything, as a superuser. */
    public void superuserRole(int trustee) {
      powerful.put(trustee, SUPERUSER);
    }

    /** Says by what whoever is a role comes to everything that the server may do on its host. */
    public void reachesHost(int trustee, String how) {
      powerful.putIfAbsent(trustee, how);
    }

    /** Says that a role may create roles. */
    public void createsRoles(int trustee, String name) {
      creators.put(trustee, name);
    }

    /**
     * Says whether who may create roles may give itself every role but a superuser's: up to version
     * 15; after it, those over which it has the admin option (PostgreSQL 16 release notes, E.1.3).
     */
    public void creatorsReachAll(boolean all) {
      creatorsReachAll = all;
    }

    /** The frozen facts. */
    public DatabaseFacts build() {
      return new DatabaseFacts(this, paths.build());
    }
  }
}
