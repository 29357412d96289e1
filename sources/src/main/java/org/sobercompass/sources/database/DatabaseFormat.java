package org.sobercompass.sources.database;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.database.AclItem;
import org.sobercompass.core.system.database.DatabaseAccess;
import org.sobercompass.core.system.database.DatabaseFacts;
import org.sobercompass.core.system.database.DatabaseFacts.Given;
import org.sobercompass.core.system.database.DatabaseFacts.Item;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;
import org.sobercompass.core.system.database.DatabaseFacts.Policy;
import org.sobercompass.core.system.database.DatabaseFacts.Read;
import org.sobercompass.core.system.database.DatabaseFacts.Rows;
import org.sobercompass.core.system.database.DatabaseFacts.View;
import org.sobercompass.core.system.database.DatabaseRights;
import org.sobercompass.core.system.database.DefaultPrivileges;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.Ids;
import org.sobercompass.sources.SightReader;
import org.sobercompass.sources.SystemFormat;
import org.sobercompass.sources.text.Node;
import tools.jackson.databind.JsonNode;

/** The registration of databases; docs/databases.md describes the file. */
public final class DatabaseFormat implements SystemFormat {
  /** Stands in each database for whoever owns it (PostgreSQL 15 documentation, section 22.5). */
  private static final String DATABASE_OWNER = "pg_database_owner";

  /** Roles by which whoever is one acts as the server on its host, and how. */
  private static final Map<String, String> HOST_ROLES =
      Map.of(
          "pg_execute_server_program", "runs programs on the server's host, as the server",
          "pg_write_server_files", "writes files on the server's host, as the server",
          "pg_read_server_files", "reads files on the server's host, as the server");

  private static final Set<String> KEYS =
      Set.of("kind", "id", "name", "owner", "owners", "sight", "collection");

  @Override
  public String kind() {
    return DatabaseAccess.KIND;
  }

  @Override
  public Set<String> needs(Node file, Problems problems) {
    return new TreeSet<>(HostLimits.NEEDS);
  }

  @Override
  public List<String> files(Node file) {
    return file.texts("collection");
  }

  @Override
  public AccessSystem read(Node file, Context context) {
    file.only(KEYS);
    String id = Ids.check(file.need("id"), file, context.problems());
    Sight sight = SightReader.of(file, context);
    Sight counted =
        sight.with(
            new MembershipProfile(
                Set.of(Via.SIGNS_IN, Via.ROLE, Via.IMPLICIT), MembershipProfile.FULL, false));
    String collection = file.need("collection");
    Loading loading = new Loading(collection, sight.directory(), context);
    Path path = context.root().resolve(collection);
    new Lines(collection, context.problems()).read(path, loading::line);
    loading.finish();
    var admission =
        new Admission(context.facts(), false, Set.of(), Optional.empty()).barring(loading.barred);
    return new DatabaseAccess(
        new ListedSystem.Definition(
            id,
            file.text("name").orElse(id),
            counted,
            admission,
            List.of(collection, file.place().file())),
        loading.into.build(),
        context.facts());
  }

  @Override
  public void amend(Wanted wanted, Drafts into) {
    new DatabaseAmending(wanted.system().id(), into).grants(wanted);
  }

  /** One collection on its way into facts. */
  private static final class Loading {
    private final String name;
    private final String directory;
    private final Facts facts;
    private final Problems problems;
    private final Map<String, Integer> groupOf = new HashMap<>();
    private final Trustees.Builder trustees;
    private final DatabaseFacts.Builder into;
    private final Map<String, JsonNode> roles = new HashMap<>();
    private final List<JsonNode> members = new ArrayList<>();
    private final Map<Integer, List<Admission.Bar>> barred = new HashMap<>();
    private final Map<Integer, JsonNode> unfinished = new LinkedHashMap<>();
    private final Map<String, Item> items = new LinkedHashMap<>();
    private final Map<String, Integer> nodes = new HashMap<>();
    private final Map<String, List<Policy>> policies = new HashMap<>();
    private final Map<String, List<Read>> reads = new HashMap<>();
    private final Set<Integer> superusers = new HashSet<>();
    private final Set<Integer> signing = new TreeSet<>();
    private final Set<String> unread = new HashSet<>();
    private String owner = "";
    private boolean limited;
    private String database = "";

    Loading(String name, String directory, Context context) {
      this.name = name;
      this.directory = directory;
      this.facts = context.facts();
      this.problems = context.problems();
      trustees = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
      into = new DatabaseFacts.Builder(trustees);
      for (int g = facts.firstGroup(); g < facts.firstGroup() + facts.groups(); g++) {
        if (facts.source(g).equals(directory)) {
          groupOf.put(facts.login(g), g);
        }
      }
    }

    void line(JsonNode node, Place place) {
      switch (Lines.text(node, "kind")) {
        case "role" -> role(node);
        case "member" -> members.add(node);
        case "database" -> database(node, place);
        case "schema" -> put(node, place, Kind.SCHEMA, Lines.text(node, "name"));
        case "relation" ->
            put(node, place, kind(node), Lines.text(node, "schema"), Lines.text(node, "name"));
        case "column" ->
            put(
                node,
                place,
                Kind.COLUMN,
                Lines.text(node, "schema"),
                Lines.text(node, "relation"),
                Lines.text(node, "name"));
        case "function" ->
            put(node, place, Kind.FUNCTION, Lines.text(node, "schema"), Lines.text(node, "name"));
        case "default" -> byDefault(node, place);
        case "policy" -> policy(node);
        case "read" -> read(node);
        case "server" ->
            into.creatorsReachAll(Lines.text(node, "version").matches("(9|1[0-5])([^0-9].*)?"));
        case "unread" -> {
          unread.add(Lines.text(node, "what"));
          problems.warning(
              place,
              "the " + Lines.text(node, "what") + "s could not be read: " + Lines.text(node, "why"),
              "a role that may; until then nothing is known of them");
        }
        default ->
            problems.error(
                place,
                Problem.quote(Lines.text(node, "kind")) + " is no kind of line",
                "what `sober collect database` wrote");
      }
    }

    /** What {@code alter default privileges} says. */
    private void byDefault(JsonNode node, Place place) {
      String schema = Lines.text(node, "schema");
      int at = schema.isEmpty() ? step(0, database) : step(step(0, database), schema);
      String maker = Lines.text(node, "role");
      trustee(maker);
      List<AclItem> given = new ArrayList<>();
      for (String text : Lines.texts(node, "grants")) {
        AclItem.of(text)
            .ifPresentOrElse(
                item -> {
                  given.add(item);
                  if (!item.grantee().isEmpty()) {
                    trustee(item.grantee());
                  }
                },
                () ->
                    problems.error(
                        place, Problem.quote(text) + " is no grant", "grantee=privileges/grantor"));
      }
      into.byDefault(
          at,
          new DefaultPrivileges(DefaultPrivileges.Made.of(Lines.text(node, "type")), maker, given));
    }

    private static Kind kind(JsonNode node) {
      return switch (Lines.text(node, "type")) {
        case "v", "m" -> Kind.VIEW;
        case "S" -> Kind.SEQUENCE;
        default -> Kind.TABLE;
      };
    }

    private void role(JsonNode node) {
      String role = Lines.text(node, "name");
      roles.put(role, node);
      if (role.equals(DATABASE_OWNER)) {
        // Who that is stands with the database.
        return;
      }
      int trustee = trustee(role);
      boolean superuser = Lines.yes(node, "superuser");
      if (superuser) {
        into.superuserRole(trustee);
      } else if (Lines.yes(node, "creates_roles")) {
        into.createsRoles(trustee, role);
      }
      String host = HOST_ROLES.getOrDefault(role, "");
      if (!host.isEmpty()) {
        into.reachesHost(trustee, host);
      }
      if (Lines.yes(node, "bypasses_rows")) {
        into.bypassesAsRole(trustee);
      }
      int group = groupOf.getOrDefault(role, Grant.MISSING);
      if (group < 0 || !Lines.yes(node, "login")) {
        return;
      }
      List<Integer> accounts = signingIn(group);
      into.signsIn(trustee, accounts);
      signing.addAll(accounts);
      for (int account : accounts) {
        if (superuser) {
          into.superuser(account, trustee);
          superusers.add(account);
        }
        if (Lines.yes(node, "bypasses_rows")) {
          into.bypasses(account);
        }
        // A limit on connections does not count for superusers.
        if (node.path("connections").asInt(-1) == 0 && !superuser) {
          bar(account, "the role " + role + " may have no connections", Long.MIN_VALUE, true);
        }
        OptionalLong until = Lines.until(node);
        if (until.isPresent() && !facts.source(account).equals(directory)) {
          bar(
              account,
              "the password of the role "
                  + role
                  + " in the database has expired; it counts where the sign-in asks for that"
                  + " password",
              until.getAsLong(),
              false);
        }
      }
    }

    private void bar(int account, String reason, long from, boolean sure) {
      barred
          .computeIfAbsent(account, a -> new ArrayList<>())
          .add(new Admission.Bar(reason, from, sure));
    }

    private void policy(JsonNode node) {
      String command = Lines.text(node, "command");
      long rights = 0;
      for (char letter : "rawd".toCharArray()) {
        rights |=
            command.equals("*") || command.indexOf(letter) >= 0 ? DatabaseRights.bit(letter) : 0;
      }
      List<Integer> whom = new ArrayList<>();
      for (String role : Lines.texts(node, "roles")) {
        whom.add(role.isEmpty() ? Trustees.EVERYONE : trustee(role));
      }
      if (Lines.yes(node, "permissive")) {
        policies
            .computeIfAbsent(key(node, "schema", "relation"), k -> new ArrayList<>())
            .add(new Policy(rights, whom));
      }
    }

    private void read(JsonNode node) {
      Integer of = nodes.get(key(node, "of_schema", "of_name"));
      if (of == null) {
        return;
      }
      List<Integer> columns = new ArrayList<>();
      List<String> names = Lines.texts(node, "columns");
      for (String column : names) {
        Integer at = nodes.get(key(node, "of_schema", "of_name") + "\n" + column);
        if (at != null) {
          columns.add(at);
        }
      }
      reads
          .computeIfAbsent(key(node, "schema", "name"), k -> new ArrayList<>())
          .add(new Read(of, columns.size() == names.size() ? columns : List.of()));
    }

    private static String key(JsonNode node, String schema, String relation) {
      return Lines.text(node, schema) + "\n" + Lines.text(node, relation);
    }

    private List<Integer> signingIn(int group) {
      List<Integer> accounts = new ArrayList<>();
      var down = facts.arrays().memberships().down().rows();
      for (int at = down.start(group); at < down.end(group); at++) {
        int member = down.at(at);
        if (member < facts.accounts()) {
          accounts.add(member);
        }
      }
      return accounts;
    }

    private int trustee(String role) {
      int known = trustees.find(role);
      if (known >= 0) {
        return known;
      }
      boolean owning = role.equals(DATABASE_OWNER) && !owner.isEmpty();
      int group = groupOf.getOrDefault(owning ? owner : role, Grant.MISSING);
      return trustees.add(role, owning ? role + " (" + owner + ")" : role, group);
    }

    private void database(JsonNode node, Place place) {
      database = Lines.text(node, "name");
      owner = Lines.text(node, "owner");
      limited = node.path("connections").asInt(-1) == 0;
      int at = put(node, place, Kind.DATABASE);
      if (!Lines.yes(node, "open")) {
        into.close(at);
      }
    }

    private int put(JsonNode node, Place place, Kind kind, String... way) {
      int at = step(0, database);
      for (String step : way) {
        at = step(at, step);
      }
      List<Given> given = new ArrayList<>();
      for (String text : Lines.texts(node, "grants")) {
        Optional<AclItem> item = AclItem.of(text);
        if (item.isEmpty()) {
          problems.error(place, Problem.quote(text) + " is no grant", "grantee=privileges/grantor");
        } else {
          String grantee = item.get().grantee();
          int trustee = grantee.isEmpty() ? Trustees.EVERYONE : trustee(grantee);
          given.add(new Given(trustee, item.get().mask(), item.get().grantor()));
        }
      }
      String owner = Lines.text(node, "owner");
      Rows rows =
          Lines.yes(node, "rows_forced")
              ? Rows.FORCED
              : Lines.yes(node, "rows") ? Rows.POLICIES : Rows.ALL;
      String owned = kind == Kind.COLUMN ? ownerAbove(way) : owner;
      if (owned.isEmpty()) {
        problems.error(
            place,
            "the "
                + kind.word()
                + (kind == Kind.COLUMN ? " stands before its table" : " has no owner"),
            "what `sober collect database` wrote");
        return at;
      }
      int owns = trustee(owned);
      Item item = new Item(kind, owns, given, true, rows, Optional.empty(), Optional.empty());
      boolean later =
          rows != Rows.ALL || (kind == Kind.VIEW && Lines.text(node, "type").equals("v"));
      if (later) {
        unfinished.put(at, node);
        items.put(way[0] + "\n" + way[1], item);
      }
      boolean first =
          later ? nodes.putIfAbsent(String.join("\n", way), at) == null : into.put(at, item);
      nodes.putIfAbsent(String.join("\n", way), at);
      if (!first) {
        problems.error(
            place, "the " + kind.word() + " stands twice", "one collection of one database");
      }
      if (kind == Kind.TABLE || kind == Kind.VIEW) {
        owners.put(way[0] + "\n" + way[1], owner);
      }
      return at;
    }

    private final Map<String, String> owners = new HashMap<>();

    private String ownerAbove(String... way) {
      return owners.getOrDefault(way[0] + "\n" + way[1], "");
    }

    private int step(int above, String text) {
      String clean = text.replace("\\", "\\134").replace("/", "\\057");
      return into.paths().child(above, clean.getBytes(StandardCharsets.UTF_8));
    }

    void finish() {
      if (database.isEmpty() && problems.errors() == 0) {
        problems.error(
            Place.of(name),
            "the collection has no database",
            "what `sober collect database` wrote");
      }
      unfinished.forEach(this::complete);
      if (limited) {
        for (int account : signing) {
          if (!superusers.contains(account)) {
            bar(
                account,
                "the database " + database + " may have no connections but a superuser's",
                Long.MIN_VALUE,
                true);
          }
        }
      }
      members.forEach(this::member);
    }

    /** That a role is a member of another, where that lets it switch. */
    private void member(JsonNode node) {
      JsonNode member = roles.get(Lines.text(node, "member"));
      JsonNode role = roles.get(Lines.text(node, "role"));
      boolean owning = Lines.text(node, "role").equals(DATABASE_OWNER);
      boolean inherits =
          node.has("inherits")
              ? Lines.yes(node, "inherits")
              : member != null && Lines.yes(member, "inherits");
      boolean switches = !node.has("switches") || Lines.yes(node, "switches") || inherits;
      if (member != null
          && role != null
          && switches
          && !owning
          && !Lines.yes(member, "superuser")) {
        into.switching(
            new DatabaseFacts.Switch(
                trustee(Lines.text(node, "member")),
                trustee(Lines.text(node, "role")),
                inherits,
                Lines.yes(role, "superuser")));
      }
    }

    /** Policies and what views read from come after the relations they are about. */
    private void complete(int at, JsonNode node) {
      String key = key(node, "schema", "name");
      Item item = Objects.requireNonNull(items.get(key));
      // A collection of before these were collected has none of them for any relation.
      boolean known = node.has("updatable");
      Optional<List<Policy>> through =
          known && !unread.contains("policy")
              ? Optional.of(List.copyOf(policies.getOrDefault(key, List.of())))
              : Optional.empty();
      Optional<View> view =
          item.kind() == Kind.VIEW
              ? Optional.of(
                  new View(
                      known && !unread.contains("read"),
                      Lines.yes(node, "invoker"),
                      List.copyOf(reads.getOrDefault(key, List.of())),
                      statements(node.path("updatable").asInt(0)),
                      statements(node.path("triggered").asInt(0))))
              : Optional.empty();
      into.put(
          at,
          new Item(
              item.kind(), item.owner(), item.given(), item.known(), item.rows(), through, view));
    }

    /** The server numbers update 2, insert 3 and delete 4, one bit each. */
    private static long statements(int bits) {
      return ((bits & 4) != 0 ? DatabaseRights.bit('w') : 0)
          | ((bits & 8) != 0 ? DatabaseRights.bit('a') : 0)
          | ((bits & 16) != 0 ? DatabaseRights.bit('d') : 0);
    }
  }
}
