package org.sobercompass.sources.database;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.database.DatabaseAccess;
import org.sobercompass.core.system.database.DatabaseFacts;
import org.sobercompass.core.system.database.DefaultPrivileges;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.SystemFormat;
import tools.jackson.databind.JsonNode;

/** Makes grants and revokes of steps: all of one database in one transaction. */
final class DatabaseAmending {
  private final String target;
  private final Drafts into;
  private final Set<Integer> steps = new TreeSet<>();
  private final Map<String, List<String>> removed = new LinkedHashMap<>();
  private final Map<String, List<String>> added = new LinkedHashMap<>();
  private final Map<Integer, List<SystemFormat.Comes>> owners = new LinkedHashMap<>();

  /**
   * Of one target.
   *
   * @param target the name of the system, or of the directory of its roles
   */
  DatabaseAmending(String target, Drafts into) {
    this.target = target;
    this.into = into;
  }

  /** Grants on objects are revoked, and given. */
  void grants(SystemFormat.Wanted wanted) {
    DatabaseAccess system = (DatabaseAccess) wanted.system();
    String database = "";
    for (SystemFormat.Gone one : wanted.gone()) {
      int resource = system.grants(system.usualBasis()).get(one.grant()).resource();
      database = way(system.facts().tree().id(resource)).get(0);
      remove(one.step(), object(system, resource), system.entryText(one.grant()).orElseThrow());
    }
    for (SystemFormat.Comes one : wanted.come()) {
      database = way(system.facts().tree().id(one.resource())).get(0);
      if (system.isExclusive(one.text())) {
        owners.computeIfAbsent(one.resource(), r -> new ArrayList<>()).add(one);
        continue;
      }
      Optional<DefaultPrivileges.Item> later = DefaultPrivileges.item(one.text());
      if (later.isPresent()) {
        later(one, later.get(), way(system.facts().tree().id(one.resource())));
      } else {
        add(one.step(), object(system, one.resource()), one.text());
      }
    }
    put(database);
    for (Map.Entry<Integer, List<SystemFormat.Comes>> one : owners.entrySet()) {
      owner(system, one.getKey(), one.getValue(), database);
    }
  }

  /**
   * An object gets another owner, after all grants, in a record of its own: its undo comes first.
   * The server makes what the owner before had been given, and had given, the new owner's; where
   * that has grants there, both become one, and no undo could part them.
   */
  private void owner(
      DatabaseAccess system, int resource, List<SystemFormat.Comes> items, String database) {
    Optional<SystemFormat.Comes> is = items.stream().filter(SystemFormat.Comes::added).findFirst();
    DatabaseFacts facts = system.facts();
    String role = is.map(one -> one.text().substring(one.text().indexOf(':') + 1)).orElse("");
    int owner = facts.trustees().find(role);
    boolean merges = false;
    for (int r = resource; r < facts.tree().end(resource); r++) {
      boolean column =
          facts.tree().parent(r) == resource && facts.item(r).kind() == DatabaseFacts.Kind.COLUMN;
      boolean own = r == resource || column;
      merges |=
          own
              && facts.item(r).given().stream()
                  .anyMatch(given -> given.trustee() == owner || given.by().equals(role));
    }
    if (is.isEmpty() || merges) {
      String why =
          is.isEmpty()
              ? "an object always has an owner"
              : role
                  + " has grants there, which the server would make one with those of the owner"
                  + " before; revoke them first, or change the owner by hand";
      items.forEach(one -> into.byHand(one.step(), why));
      return;
    }
    String was = facts.trustees().text(facts.item(resource).owner());
    into.add(
        new Drafts.Draft(
            Drafts.steps(items),
            target,
            SqlTargetKind.ID,
            database,
            List.of(
                new Difference(
                    SqlForm.OWNER_OF + object(system, resource), List.of(was), List.of(role)))));
  }

  private void later(SystemFormat.Comes one, DefaultPrivileges.Item item, List<String> way) {
    String schema = way.size() == 1 ? "" : way.get(1);
    String object = SqlForm.later(item.made(), item.item().grantor(), schema);
    if (one.added()) {
      add(one.step(), object, item.item().text());
    } else {
      remove(one.step(), object, item.item().text());
    }
  }

  private static String object(DatabaseAccess system, int resource) {
    List<String> way = way(system.facts().tree().id(resource));
    List<String> names = way.size() == 1 ? way : way.subList(1, way.size());
    return SqlForm.object(system.facts().item(resource).kind(), names);
  }

  /** The names on the way to an object, as they are. */
  private static List<String> way(String path) {
    List<String> way = new ArrayList<>();
    for (String step : path.substring(1).split("/")) {
      way.add(step.replace("\\057", "/").replace("\\134", "\\"));
    }
    return way;
  }

  /** Roles are given to roles, or taken from them. */
  void members(SourceKind.Wanted wanted) {
    String[] database = {""};
    Map<String, Boolean> admin = new HashMap<>();
    Set<String> roles = new HashSet<>();
    Path file = wanted.entries().path();
    new Lines(wanted.entries().shown(), new Problems())
        .read(
            file,
            (node, place) -> {
              switch (Lines.text(node, "kind")) {
                case "database" -> database[0] = Lines.text(node, "name");
                case "role" -> roles.add(Lines.text(node, "name"));
                case "member" -> admin.put(pair(node), Lines.yes(node, "admin"));
                default -> {}
              }
            });
    for (SourceKind.Wish wish : wanted.steps()) {
      member(wanted.facts(), wish, admin);
    }
    put(database[0]);
  }

  private static String pair(JsonNode node) {
    return Lines.text(node, "member") + "\n" + Lines.text(node, "role");
  }

  private void member(Facts facts, SourceKind.Wish wish, Map<String, Boolean> admin) {
    if (wish.what() instanceof Step.Leave leave) {
      int member = facts.find(leave.member()).orElse(-1);
      String role = facts.find(leave.group()).map(facts::login).orElse("");
      if (isRole(facts, member)) {
        String name = facts.login(member);
        boolean passes = admin.getOrDefault(name + "\n" + role, false);
        remove(
            wish.step(), SqlForm.ROLE + " " + SqlForm.quoted(role), SqlForm.member(name, passes));
        return;
      }
    } else if (wish.what() instanceof Step.Join join) {
      int member = facts.find(join.member()).orElse(-1);
      String role = facts.find(join.group()).map(facts::login).orElse("");
      if (isRole(facts, member)) {
        add(
            wish.step(),
            SqlForm.ROLE + " " + SqlForm.quoted(role),
            SqlForm.member(facts.login(member), false));
        return;
      }
    }
    into.byHand(
        wish.step(), "who signs in to the database as which role stands in the server's own files");
  }

  private static boolean isRole(Facts facts, int member) {
    return member >= 0 && facts.kind(member) == SubjectKind.GROUP;
  }

  private void remove(int step, String object, String item) {
    steps.add(step);
    removed.computeIfAbsent(object, o -> new ArrayList<>()).add(item);
  }

  private void add(int step, String object, String item) {
    steps.add(step);
    added.computeIfAbsent(object, o -> new ArrayList<>()).add(item);
  }

  private void put(String database) {
    Set<String> objects = new TreeSet<>(removed.keySet());
    objects.addAll(added.keySet());
    List<Difference> differences = new ArrayList<>();
    for (String object : objects) {
      differences.add(
          new Difference(
              object,
              removed.getOrDefault(object, List.of()),
              added.getOrDefault(object, List.of())));
    }
    if (!differences.isEmpty()) {
      into.add(new Drafts.Draft(steps, target, SqlTargetKind.ID, database, differences));
    }
  }
}
