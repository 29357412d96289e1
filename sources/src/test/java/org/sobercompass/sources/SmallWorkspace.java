package org.sobercompass.sources;

import static java.util.stream.Collectors.joining;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.workspace.Workspace;

/** A workspace put together from a few lines, for tests that ask it questions by name. */
public final class SmallWorkspace {
  private final Path root;
  private final StringBuilder ldif = new StringBuilder();
  private String at = "2026-06-01T12:00:00Z";
  private String main = "";

  public SmallWorkspace(Path root) {
    this.root = root;
  }

  /** An account {@code uid=NAME,ou=OU,dc=x} with further lines. */
  public SmallWorkspace account(String name, String ou, String... lines) {
    return entry("uid=" + name + ",ou=" + ou + ",dc=x", "inetOrgPerson", "uid: " + name, lines);
  }

  /** A group {@code cn=NAME,ou=groups,dc=x} of these DNs' first parts. */
  public SmallWorkspace group(String name, String... members) {
    String[] lines = new String[members.length];
    for (int i = 0; i < members.length; i++) {
      lines[i] = "member: " + members[i] + ",dc=x";
    }
    // The class must list a member; one without a name stands for none.
    String[] shown = lines.length == 0 ? new String[] {"member:"} : lines;
    return entry("cn=" + name + ",ou=groups,dc=x", "groupOfNames", "cn: " + name, shown);
  }

  public SmallWorkspace unit(String name) {
    return entry("ou=" + name + ",dc=x", "organizationalUnit", "ou: " + name);
  }

  public SmallWorkspace entry(String dn, String objectClass, String first, String... lines) {
    ldif.append("dn: ").append(dn).append("\nobjectClass: ").append(objectClass).append('\n');
    ldif.append(first).append('\n');
    for (String line : lines) {
      ldif.append(line).append('\n');
    }
    ldif.append('\n');
    return this;
  }

  public SmallWorkspace at(String instant) {
    at = instant;
    return this;
  }

  /** More of compass.yaml. */
  public SmallWorkspace main(String text) {
    main = text;
    return this;
  }

  /** The application, without its assignments, and these. */
  public Asked with(String application, String... assignments) {
    write("d.ldif", ldif.toString());
    write("compass.yaml", "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\n" + main);
    write("app.yaml", "id: app\n" + application + "assignments: {actual: a.csv}\n");
    write(
        "a.csv",
        "role,kind,subject,node,descendants,from,until,on\n"
            + Arrays.stream(assignments).map(SmallWorkspace::row).collect(joining("\n"))
            + "\n");
    Workspace workspace = Workspace.open(root);
    return new Asked(workspace, workspace.model(Instant.parse(at), Optional.empty()));
  }

  /** A row of eight values, those at the end left out. */
  private static String row(String begin) {
    return begin + ",".repeat(Math.max(0, 7 - (int) begin.chars().filter(c -> c == ',').count()));
  }

  public void write(String name, String text) {
    try {
      Files.writeString(root.resolve(name), text);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** A model that is asked by name. */
  public record Asked(Workspace workspace, AccessModel model) {
    int account(String login) {
      List<Integer> found = model.facts().names().find(SubjectKind.ACCOUNT, login, login);
      if (found.size() != 1) {
        throw new AssertionError(login + " fits " + found.size());
      }
      return found.get(0);
    }

    /** {@code yes}, {@code no}, {@code blocked} or {@code undecided}. */
    String can(String login, String permission, String node) {
      SystemView app = model.system("app").orElseThrow();
      int right = app.rights().find(permission).orElseThrow();
      int at = node.isEmpty() ? 0 : app.resources().find(node).orElseThrow();
      Can can = model.asker().can(app, account(login), right, at);
      boolean held = can.held() == Verdict.YES && can.verdict() != Verdict.UNDECIDED;
      return held && can.standing().state() == Standing.State.BLOCKED
          ? "blocked"
          : can.verdict().name().toLowerCase(Locale.ROOT);
    }
  }
}
