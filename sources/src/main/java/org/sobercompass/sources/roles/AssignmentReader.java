package org.sobercompass.sources.roles;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.roles.ApplicationDefinition;
import org.sobercompass.sources.SystemFormat.Context;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Window;
import org.sobercompass.sources.text.YesNo;

/** Reads assignments from CSV; docs/workspace.md describes the columns. */
final class AssignmentReader {
  private static final List<String> KNOWN =
      List.of(
          "role",
          "kind",
          "subject",
          "node",
          "descendants",
          "from",
          "until",
          "on",
          "granted by",
          "reason");
  private static final List<String> NEEDED = List.of("role", "kind", "subject");

  private final ApplicationDefinition application;
  private final Context context;
  private final Problems problems;
  private final Map<String, Integer> roles = new HashMap<>();
  private final List<Grant> grants = new ArrayList<>();
  private final Set<String> ids = new HashSet<>();

  AssignmentReader(ApplicationDefinition application, Context context) {
    this.application = application;
    this.context = context;
    this.problems = context.problems();
    for (RoleInfo role : application.roles()) {
      roles.put(role.id(), roles.size());
    }
  }

  /** The grants of all files, in the byte order of their ids. */
  List<Grant> read(List<String> names) {
    for (String name : names) {
      new CsvReader(name, KNOWN, NEEDED, problems).read(context.root().resolve(name), this::row);
    }
    Comparator<String> order = Key.orderOf(() -> grants.stream().map(Grant::id).iterator());
    grants.sort(Comparator.comparing(Grant::id, order));
    return grants;
  }

  private void row(CsvReader.Row row) {
    int before = problems.errors();
    int role = role(row);
    int node = node(row);
    Optional<SubjectKind> kind = kind(row);
    boolean descends = yes(row, "descendants", true);
    boolean on = yes(row, "on", true);
    Window window =
        Window.read(row.get("from"), row.get("until"), context.zone(), row.place(), problems);
    String subject = row.get("subject");
    if (subject.isEmpty()) {
      problems.error(row.place(), "there is no subject", "whom the role is given to");
    }
    if (problems.errors() > before || kind.isEmpty()) {
      return;
    }
    int number = context.names().trustee(kind.get(), subject, row.place());
    String trustee = number < 0 ? "?" + subject : context.facts().key(number).text();
    String at = application.nodes().id(node);
    String id =
        Grant.usualId(row.get("role"), trustee, at, descends, window.from(), window.until());
    if (!ids.add(id)) {
      problems.error(row.place(), "the same assignment stands twice", "each once");
    }
    grants.add(
        new Grant(
            id,
            role,
            number,
            subject,
            node,
            descends,
            window.from().map(Instant::getEpochSecond).orElse(Long.MIN_VALUE),
            window.until().map(Instant::getEpochSecond).orElse(Long.MAX_VALUE),
            on,
            row.get("granted by"),
            row.get("reason"),
            row.place(),
            false));
  }

  private int role(CsvReader.Row row) {
    Integer role = roles.get(row.get("role"));
    if (role == null) {
      problems.unknown(
          row.place(),
          "there is no role " + Problem.quote(row.get("role")) + " in " + application.name(),
          "one of " + String.join(", ", roles.keySet().stream().sorted().limit(12).toList()),
          row.get("role"),
          roles.keySet());
      return 0;
    }
    return role;
  }

  private int node(CsvReader.Row row) {
    String id = row.get("node");
    Optional<Integer> node = id.isEmpty() ? Optional.of(0) : application.nodes().find(id);
    if (node.isEmpty()) {
      problems.unknown(
          row.place(),
          "there is no node " + Problem.quote(id) + " in " + application.name(),
          "a node of the application, or nothing for all of it",
          id,
          application.nodes().ids());
    }
    return node.orElse(0);
  }

  private Optional<SubjectKind> kind(CsvReader.Row row) {
    return switch (row.get("kind").toLowerCase(Locale.ROOT)) {
      case "account" -> Optional.of(SubjectKind.ACCOUNT);
      case "group" -> Optional.of(SubjectKind.GROUP);
      case "unit" -> Optional.of(SubjectKind.UNIT);
      case "implicit" -> implicit(row);
      default -> {
        problems.unknown(
            row.place(),
            Problem.quote(row.get("kind")) + " is no kind of subject",
            "account, group, unit or implicit",
            row.get("kind"),
            List.of("account", "group", "unit", "implicit"));
        yield Optional.empty();
      }
    };
  }

  private Optional<SubjectKind> implicit(CsvReader.Row row) {
    List<String> known = List.of("everyone", "members", "signed-in");
    if (!known.contains(row.get("subject"))) {
      problems.unknown(
          row.place(),
          Problem.quote(row.get("subject")) + " is no implicit group",
          "everyone, signed-in or members",
          row.get("subject"),
          known);
    }
    return Optional.of(SubjectKind.IMPLICIT);
  }

  private boolean yes(CsvReader.Row row, String column, boolean otherwise) {
    String text = row.get(column);
    Optional<Boolean> value = text.isEmpty() ? Optional.of(otherwise) : YesNo.parse(text);
    if (value.isEmpty()) {
      problems.error(
          row.place(), column + ": " + Problem.quote(text) + " is neither yes nor no", "yes or no");
    }
    return value.orElse(otherwise);
  }
}
