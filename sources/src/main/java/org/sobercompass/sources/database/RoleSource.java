package org.sobercompass.sources.database;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import tools.jackson.databind.JsonNode;

/**
 * Reads the roles of a database as facts: each role is a group, which an account signs in as. Where
 * the accounts of a directory sign in, a role that may log in is theirs by its name; any other such
 * role is an account of the database itself.
 */
public final class RoleSource {
  private final String name;
  private final Optional<String> accountsOf;
  private final FactsSource into;
  private final Problems problems;
  private final Map<String, Integer> groups = new HashMap<>();
  private final Map<String, Boolean> inherits = new HashMap<>();
  private final List<JsonNode> members = new ArrayList<>();
  private boolean unread;

  /**
   * A reader.
   *
   * @param name how the user names the file
   * @param accountsOf the directory whose accounts sign in by the names of roles
   */
  public RoleSource(String name, Optional<String> accountsOf, FactsSource into, Problems problems) {
    this.name = name;
    this.accountsOf = accountsOf;
    this.into = into;
    this.problems = problems;
  }

  /** Reads a whole collection. */
  public void read(Path file) {
    new Lines(name, problems).read(file, this::line);
    for (JsonNode node : members) {
      member(node);
    }
    if (unread) {
      groups.values().forEach(group -> into.open(group, Via.ROLE));
    }
  }

  private void line(JsonNode node, Place place) {
    switch (Lines.text(node, "kind")) {
      case "role" -> role(node, place);
      case "member" -> members.add(node);
      case "unread" -> unread |= Lines.text(node, "what").equals("member");
      default -> {}
    }
  }

  private void role(JsonNode node, Place place) {
    String role = Lines.text(node, "name");
    int group = add(SubjectKind.GROUP, role, role, 0, Facts.NEVER);
    into.name(group, Space.ID, role);
    groups.put(role, group);
    inherits.put(role, Lines.yes(node, "inherits"));
    if (!Lines.yes(node, "login")) {
      return;
    }
    Optional<String> directory = accountsOf.filter(d -> into.isIn(d, role));
    if (directory.isPresent()) {
      into.refer(group, Via.SIGNS_IN, Space.OTHER, directory.get() + "/" + role);
    } else {
      int account = add(SubjectKind.ACCOUNT, role, role, Facts.SERVICE, Facts.NEVER);
      until(node, place).ifPresent(end -> into.passwordEnds(account, end));
      into.refer(group, Via.SIGNS_IN, Space.LOGIN, role);
    }
  }

  /** When the password of a role ends ({@code VALID UNTIL}). */
  private OptionalLong until(JsonNode node, Place place) {
    OptionalLong end = Lines.until(node);
    if (end.isEmpty() && !Lines.text(node, "until").isEmpty()) {
      String text = Lines.text(node, "until");
      problems.error(place, Problem.quote(text) + " is no instant", "2026-01-31T00:00:00Z");
    }
    return end;
  }

  private void member(JsonNode node) {
    Integer group = groups.get(Lines.text(node, "role"));
    String member = Lines.text(node, "member");
    // Each database has an owner of its own, while the roles are of all databases of the server.
    boolean owning = Lines.text(node, "role").equals("pg_database_owner");
    if (group != null && !owning) {
      boolean has =
          node.has("inherits") ? Lines.yes(node, "inherits") : inherits.getOrDefault(member, true);
      into.refer(group, has ? Via.ROLE : Via.SWITCH, Space.ID, member);
    }
  }

  private int add(SubjectKind kind, String id, String display, int flags, long expires) {
    String form = "?" + kind.name().toLowerCase(java.util.Locale.ROOT) + "/" + id;
    int row = into.add(new SubjectRow(kind, id, id, form, id, display, "", flags, expires));
    if (kind == SubjectKind.ACCOUNT) {
      into.name(row, Space.LOGIN, id);
    }
    return row;
  }
}
