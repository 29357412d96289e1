package org.sobercompass.sources.local;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.TextFiles;

/**
 * Reads the users and groups of one host: what {@code getent passwd; getent group; getent shadow}
 * prints, in one file. A line with seven fields is a user, with four a group, with nine the state
 * of a password (days since 1970, as in shadow(5)); other numbers of fields are a problem.
 */
public final class HostSource {
  private static final long DAY = 86_400;

  /** As many days as this mean that a password never ends. */
  private static final long NO_END = 99_999;

  private final String name;
  private final FactsSource into;
  private final Problems problems;
  private final Map<String, String[]> states = new HashMap<>();
  private final Map<String, String> numbers = new HashMap<>();

  /** A reader; {@code name} is how the user names the file. */
  public HostSource(String name, FactsSource into, Problems problems) {
    this.name = name;
    this.into = into;
    this.problems = problems;
  }

  /** Reads a whole file. */
  public void read(Path file) {
    Optional<String> text = TextFiles.read(file, name, TextFiles.LARGEST, problems);
    String[] lines = text.orElse("").split("\n");
    for (int fields : new int[] {9, 7, 4}) {
      for (int i = 0; i < lines.length; i++) {
        String[] parts = lines[i].strip().split(":", -1);
        if (parts.length == fields) {
          line(parts, Place.of(name, i + 1));
        } else if (fields == 9 && !isKnown(parts, lines[i])) {
          problems.error(
              Place.of(name, i + 1),
              Problem.quote(lines[i]) + " has " + parts.length + " fields",
              "seven for a user, four for a group, nine for a password's state");
        }
      }
    }
  }

  private static boolean isKnown(String[] parts, String line) {
    return line.isBlank()
        || line.startsWith("#")
        || parts.length == 7
        || parts.length == 4
        || parts.length == 9;
  }

  private void line(String[] parts, Place place) {
    switch (parts.length) {
      case 7 -> user(parts, place);
      case 4 -> group(parts, place);
      default -> states.put(parts[0], parts);
    }
  }

  private void user(String[] parts, Place place) {
    if (!isNumber(parts[2]) || !isNumber(parts[3])) {
      problems.error(
          place, "the user " + Problem.quote(parts[0]) + " has no number", "uid and gid");
      return;
    }
    String display = parts[4].split(",", 2)[0];
    int row = add(SubjectKind.ACCOUNT, parts[0], display, expires(parts[0]));
    into.name(row, Space.LOGIN, parts[0]);
    into.values(row, "uidnumber", List.of(parts[2]));
    String other = numbers.putIfAbsent(parts[2], parts[0]);
    if (other != null) {
      problems.warning(
          place,
          "the user number "
              + parts[2]
              + " is that of "
              + other
              + " and "
              + parts[0]
              + ", who are one user to the system",
          "a number of its own for each account");
    }
    into.values(row, "gidnumber", List.of(parts[3]));
    into.values(row, "uid", List.of(parts[0]));
    into.refer(row, Via.PRIMARY, Space.GID, parts[3]);
    password(parts[0], row);
  }

  private void group(String[] parts, Place place) {
    if (!isNumber(parts[2])) {
      problems.error(place, "the group " + Problem.quote(parts[0]) + " has no number", "a gid");
      return;
    }
    int row = add(SubjectKind.GROUP, parts[0], parts[0], Facts.NEVER);
    into.name(row, Space.GID, parts[2]);
    into.values(row, "gidnumber", List.of(parts[2]));
    for (String member : parts[3].split(",")) {
      if (!member.isBlank()) {
        into.refer(row, Via.MEMBER_UID, Space.LOGIN, member.strip());
      }
    }
  }

  /** When the account ends; a locked password alone does not keep keys out. */
  private long expires(String user) {
    String[] state = states.get(user);
    return state != null && isNumber(state[7]) ? Long.parseLong(state[7]) * DAY : Facts.NEVER;
  }

  private void password(String user, int row) {
    String[] state = states.get(user);
    if (state != null
        && isNumber(state[2])
        && isNumber(state[4])
        && Long.parseLong(state[4]) < NO_END) {
      into.passwordEnds(row, (Long.parseLong(state[2]) + Long.parseLong(state[4])) * DAY);
    }
  }

  private static boolean isNumber(String text) {
    return text.matches("[0-9]{1,10}");
  }

  private int add(SubjectKind kind, String login, String display, long expires) {
    String form = "?" + kind.name().toLowerCase(java.util.Locale.ROOT) + "/" + login;
    return into.add(new SubjectRow(kind, login, login, form, login, display, "", 0, expires));
  }
}
