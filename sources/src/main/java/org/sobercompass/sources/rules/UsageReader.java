package org.sobercompass.sources.rules;

import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Usage;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Moments;
import org.sobercompass.sources.text.TextFiles;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Reads when permissions or roles were last used: CSV with the columns {@code account}, {@code
 * permission} or {@code role}, and {@code last}; or JSON lines with the same names. Records of
 * accounts that are not there are counted and told once.
 */
final class UsageReader {
  private static final List<String> COLUMNS = List.of("account", "permission", "role", "last");
  private static final JsonMapper JSON = JsonMapper.shared();
  private static final int DAY = 86_400;

  private final String name;
  private final AccessSystem system;
  private final Facts facts;
  private final ZoneId zone;
  private final long now;
  private final Problems problems;
  private final Usage.Builder into = new Usage.Builder();
  private final TreeSet<String> unknown = new TreeSet<>();

  UsageReader(
      String name, AccessSystem system, Facts facts, ZoneId zone, long now, Problems problems) {
    this.name = name;
    this.system = system;
    this.facts = facts;
    this.zone = zone;
    this.now = now;
    this.problems = problems;
  }

  Usage.OfSystem read(Path file, long since) {
    if (name.endsWith(".jsonl")) {
      TextFiles.lines(file, name, problems, this::line);
    } else {
      new CsvReader(name, COLUMNS, List.of("account", "last"), problems)
          .read(
              file,
              row ->
                  record(
                      row.get("account"),
                      row.get("permission"),
                      row.get("role"),
                      row.get("last"),
                      row.place()));
    }
    if (!unknown.isEmpty()) {
      problems.warning(
          Place.of(name),
          (unknown.size() == 1
                  ? "1 account with records of use is"
                  : unknown.size() + " accounts with records of use are")
              + " in no directory: "
              + String.join(", ", unknown.stream().limit(5).toList())
              + (unknown.size() > 5 ? " and more" : ""),
          "accounts that are read; their records count for nobody");
    }
    return into.build(since, List.copyOf(unknown));
  }

  private void line(String line, Place place) {
    try {
      JsonNode node = JSON.readTree(line);
      record(
          node.path("account").asString(""),
          node.path("permission").asString(""),
          node.path("role").asString(""),
          node.path("last").asString(""),
          place);
    } catch (JacksonException e) {
      problems.error(
          place, "this is no JSON: " + Problem.quote(e.getOriginalMessage()), "one object a line");
    }
  }

  private void record(String account, String permission, String role, String last, Place place) {
    Optional<Instant> at = moment(last, "last", zone, place, problems);
    if (at.isEmpty()) {
      return;
    }
    long second = at.get().getEpochSecond();
    if (second > now + DAY) {
      problems.error(
          place,
          "last: " + Problem.quote(last) + " is in the future",
          "a day up to when the directories were read");
      return;
    }
    List<Integer> found = NameResolver.find(facts, SubjectKind.ACCOUNT, account);
    if (found.size() != 1) {
      unknown.add(account);
    } else if (permission.isEmpty() == role.isEmpty()) {
      problems.error(
          place, "the record names neither or both of permission and role", "one of them");
    } else if (permission.isEmpty()) {
      role(found.get(0), role, second, place);
    } else {
      right(found.get(0), permission, second, place);
    }
  }

  private void right(int account, String permission, long at, Place place) {
    String prefix = system.id() + ":";
    boolean whole = system.rights().find(permission).isEmpty() && permission.startsWith(prefix);
    String text = whole ? permission.substring(prefix.length()) : permission;
    system
        .rights()
        .find(text)
        .ifPresentOrElse(
            right -> into.right(account, right, at),
            () ->
                problems.unknown(
                    place,
                    "there is no permission " + Problem.quote(text) + " in " + system.id(),
                    "an area and a level or action",
                    text,
                    system.rights().texts()));
  }

  private void role(int account, String role, long at, Place place) {
    system
        .findRole(role)
        .ifPresentOrElse(
            r -> into.role(account, r, at),
            () ->
                problems.unknown(
                    place,
                    "there is no role " + Problem.quote(role) + " in " + system.id(),
                    "a role of the application",
                    role,
                    system.roles().stream().map(RoleInfo::id).toList()));
  }

  static Optional<Instant> moment(
      String text, String key, ZoneId zone, Place place, Problems problems) {
    Optional<Instant> at = Moments.begin(text, zone);
    if (at.isEmpty()) {
      problems.error(place, key + ": " + Problem.quote(text) + " is no date", Moments.EXPECTED);
    }
    return at;
  }
}
