package org.sobercompass.sources.local;

import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Moments;
import org.sobercompass.sources.text.YesNo;

/**
 * Reads accounts from CSV. Columns: {@code login} (needed), {@code id}, {@code name}, {@code mail},
 * {@code kind} (person, service, resource), {@code active}, {@code until}, {@code issuer} and
 * {@code subject} (a federated account; its id is then both), {@code certificate} and {@code
 * certificate until} (a service account that signs in with one), {@code groups} (by semicolons).
 */
public final class AccountsSource {
  private static final List<String> KNOWN =
      List.of(
          "login",
          "id",
          "name",
          "mail",
          "kind",
          "active",
          "until",
          "issuer",
          "subject",
          "certificate",
          "certificate until",
          "groups");
  private static final List<String> KINDS = List.of("person", "service", "resource");

  private final String name;
  private final ZoneId zone;
  private final FactsSource into;
  private final Problems problems;
  private final Map<String, Integer> groups = new HashMap<>();

  /**
   * A reader.
   *
   * @param name how the user names the file
   * @param zone in which dates are whole days
   */
  public AccountsSource(String name, ZoneId zone, FactsSource into, Problems problems) {
    this.name = name;
    this.zone = zone;
    this.into = into;
    this.problems = problems;
  }

  /** Reads a whole file. */
  public void read(Path file) {
    new CsvReader(name, KNOWN, List.of("login"), problems).read(file, this::row);
  }

  private void row(CsvReader.Row row) {
    String login = row.get("login");
    if (login.isEmpty()) {
      problems.error(row.place(), "the account has no login", "a name to sign in with");
      return;
    }
    boolean federated = !row.get("issuer").isEmpty();
    if (federated == row.get("subject").isEmpty()) {
      problems.error(
          row.place(),
          "the account has "
              + (federated ? "an issuer without a subject" : "a subject without an issuer"),
          "both, for a federated account");
    }
    String id = federated ? row.get("issuer") + "#" + row.get("subject") : row.get("id");
    id = id.isEmpty() ? login.toLowerCase(Locale.ROOT) : id;
    int number =
        into.add(
            new SubjectRow(
                SubjectKind.ACCOUNT,
                id,
                login,
                "?account/" + id,
                login,
                row.get("name"),
                row.get("mail"),
                flags(row),
                Math.min(until(row, "until"), until(row, "certificate until"))));
    into.name(number, Space.LOGIN, login);
    columns(row, number);
    for (String group : row.get("groups").split(";")) {
      if (!group.isBlank()) {
        into.refer(group(group.strip()), Via.MEMBER, Space.LOGIN, login);
      }
    }
  }

  private int flags(CsvReader.Row row) {
    String kind = row.get("kind").toLowerCase(Locale.ROOT);
    if (!kind.isEmpty() && !KINDS.contains(kind)) {
      problems.unknown(
          row.place(),
          "kind: " + Problem.quote(kind) + " is no kind of account",
          "one of " + String.join(", ", KINDS),
          kind,
          KINDS);
    }
    int flags =
        kind.equals("service") ? Facts.SERVICE : kind.equals("resource") ? Facts.RESOURCE : 0;
    String active = row.get("active");
    Optional<Boolean> yes = active.isEmpty() ? Optional.of(true) : YesNo.parse(active);
    if (yes.isEmpty()) {
      problems.error(
          row.place(), "active: " + Problem.quote(active) + " is neither yes nor no", "yes or no");
    }
    return flags | (yes.orElse(true) ? 0 : Facts.DISABLED);
  }

  private long until(CsvReader.Row row, String column) {
    String text = row.get(column);
    if (text.isEmpty()) {
      return Facts.NEVER;
    }
    Optional<Instant> at = Moments.end(text, zone);
    if (at.isEmpty()) {
      problems.error(
          row.place(), column + ": " + Problem.quote(text) + " is no date", Moments.EXPECTED);
    }
    return at.map(Instant::getEpochSecond).orElse(Facts.NEVER);
  }

  private void columns(CsvReader.Row row, int number) {
    for (String attribute : into.attributes()) {
      String value = row.get(attribute);
      if (!value.isEmpty()) {
        into.values(number, attribute, List.of(value));
      }
    }
  }

  private int group(String group) {
    return groups.computeIfAbsent(
        group.toLowerCase(Locale.ROOT),
        key ->
            into.add(
                new SubjectRow(
                    SubjectKind.GROUP,
                    key,
                    group,
                    "?group/" + key,
                    group,
                    group,
                    "",
                    0,
                    Facts.NEVER)));
  }
}
