package org.sobercompass.core.system.database;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.contract.Sample;
import org.sobercompass.core.contract.SmallFacts;
import org.sobercompass.core.contract.SystemContract;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.database.DatabaseFacts.Given;
import org.sobercompass.core.system.database.DatabaseFacts.Item;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;
import org.sobercompass.core.system.database.DatabaseFacts.Rows;

/**
 * The contract on random databases: owners, grants with the right to pass them on, columns,
 * superusers, a database that is closed, catalogues that were not read, roles that are perhaps not
 * seen.
 */
class DatabaseContractTest extends SystemContract {
  private static final int ACCOUNTS = 4;
  private static final int ROLES = 4;

  private final Map<String, Item> items = new HashMap<>();

  @Override
  protected Sample sample(long seed) {
    items.clear();
    Random random = new Random(seed);
    Facts facts = SmallFacts.of(random, ACCOUNTS, ROLES);
    DatabaseFacts.Builder into = new DatabaseFacts.Builder(trustees(facts));
    boolean superuser = random.nextInt(3) == 0;
    if (superuser) {
      into.superuser(0, 1);
      into.superuserRole(1);
    }
    put(into, 0, "/", Kind.SERVER, random);
    boolean closed = random.nextInt(6) == 0;
    int database = child(into, 0, "/", "d", Kind.DATABASE, random);
    if (closed) {
      into.close(database);
    }
    for (int s = 0; s < 2; s++) {
      int schema = child(into, database, "/d", "s" + s, Kind.SCHEMA, random);
      for (Kind kind : List.of(Kind.TABLE, Kind.SEQUENCE, Kind.FUNCTION)) {
        String above = "/d/s" + s;
        int node = child(into, schema, above, kind.word(), kind, random);
        if (kind == Kind.TABLE && random.nextBoolean()) {
          child(into, node, above + "/table", "c", Kind.COLUMN, random);
        }
      }
    }
    DatabaseAccess system =
        new DatabaseAccess(
            new ListedSystem.Definition(
                "x",
                "x",
                SmallFacts.sight(random.nextInt(3) > 0),
                new Admission(facts, false, Set.of(), Optional.empty()),
                List.of()),
            into.build(),
            facts);
    AccessModel model =
        AccessModel.of(facts, List.of(system), java.time.Instant.EPOCH, Optional.empty());
    NaiveDatabase naive =
        new NaiveDatabase(
            Map.copyOf(items), system, facts.firstGroup(), ACCOUNTS, superuser, closed);
    return Sample.of(model, naive::decide);
  }

  private static Trustees.Builder trustees(Facts facts) {
    Trustees.Builder trustees = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
    for (int a = 0; a < ACCOUNTS; a++) {
      trustees.add("a" + a, "a" + a, a);
    }
    for (int r = 0; r < ROLES; r++) {
      trustees.add("r" + r, "r" + r, facts.firstGroup() + r);
    }
    return trustees;
  }

  private int child(
      DatabaseFacts.Builder into, int above, String path, String name, Kind kind, Random random) {
    int node = into.paths().child(above, name.getBytes(StandardCharsets.UTF_8));
    put(into, node, (path.equals("/") ? "" : path) + "/" + name, kind, random);
    return node;
  }

  private void put(DatabaseFacts.Builder into, int node, String path, Kind kind, Random random) {
    boolean known = kind == Kind.SERVER || random.nextInt(12) > 0;
    List<Given> given = new ArrayList<>();
    for (int i = random.nextInt(4); i > 0 && known; i--) {
      long mask = random.nextLong() & kind.rights() & (DatabaseRights.OWN - 1);
      mask |= kind == Kind.DATABASE ? DatabaseRights.CONNECT : 0;
      mask |= kind == Kind.SCHEMA ? DatabaseRights.USAGE : 0;
      given.add(new Given(random.nextInt(1 + ACCOUNTS + ROLES), mask & kind.rights(), ""));
    }
    int owner = kind == Kind.SERVER || !known ? -1 : 1 + random.nextInt(ACCOUNTS + ROLES);
    Item item = new Item(kind, owner, given, known, Rows.ALL, Optional.empty(), Optional.empty());
    into.put(node, item);
    items.put(path, item);
  }
}
