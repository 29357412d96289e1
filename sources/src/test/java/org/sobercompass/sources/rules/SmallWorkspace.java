package org.sobercompass.sources.rules;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.sources.workspace.Workspace;

/** A workspace of one directory and one application, with what a test asks for. */
final class SmallWorkspace {
  static final String NOW = "2026-06-01T12:00:00Z";

  final StringBuilder people = new StringBuilder();
  private final Path root;
  private final StringBuilder rows = new StringBuilder("role,kind,subject,node,from,until,on\n");
  private String rules = "";
  private String head = "";
  private String combining = "union";
  private String emergency = "emergency: [{account: key, tried: 2026-05-02}]\n";

  SmallWorkspace(Path root) {
    this.root = root;
  }

  SmallWorkspace account(String uid, String... lines) {
    people.append("dn: uid=").append(uid).append(",dc=x\nobjectClass: inetOrgPerson\nuid: ");
    people.append(uid).append('\n');
    for (String line : lines) {
      people.append(line).append('\n');
    }
    people.append('\n');
    return this;
  }

  SmallWorkspace group(String cn, String... members) {
    people.append("dn: cn=").append(cn).append(",dc=x\nobjectClass: groupOfNames\ncn: ");
    people.append(cn).append('\n');
    if (members.length == 0) {
      // The class must list a member; one without a name stands for none.
      people.append("member:\n");
    }
    for (String member : members) {
      boolean raw = member.indexOf(':') > 0;
      people.append(raw ? member : "member: " + dn(member)).append('\n');
    }
    people.append('\n');
    return this;
  }

  /** A unit that stands above all whose names end with its own. */
  SmallWorkspace unit(String dn) {
    people.insert(0, "dn: " + dn + "\nobjectClass: organizationalUnit\n\n");
    return this;
  }

  private String dn(String name) {
    return (people.indexOf("dn: uid=" + name + ",") >= 0 ? "uid=" : "cn=") + name + ",dc=x";
  }

  SmallWorkspace given(String... lines) {
    for (String line : lines) {
      rows.append(line).append('\n');
    }
    return this;
  }

  SmallWorkspace rules(String yaml) {
    rules += rules.contains(yaml + "\n") ? "" : yaml + "\n";
    return this;
  }

  SmallWorkspace head(String yaml) {
    head += yaml + "\n";
    return this;
  }

  SmallWorkspace combining(String word) {
    combining = word;
    return this;
  }

  SmallWorkspace emergency(String line) {
    emergency = line;
    return this;
  }

  SmallWorkspace file(String name, String text) {
    try {
      Files.writeString(root.resolve(name), text);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return this;
  }

  Workspace open() {
    file("d.ldif", people.toString());
    file(
        "compass.yaml",
        "directories: {main: {file: d.ldif, taken: 2026-06-01T12:00:00Z}}\n"
            + "applications: [app.yaml]\n"
            + rules);
    boolean deny = combining.equals("deny-overrides");
    file(
        "app.yaml",
        "id: app\n"
            + head
            + emergency
            + (head.contains("sight:") ? "" : "sight: {directory: main}\n")
            + "areas: [a, b]\nlevels: [view, edit]\n"
            + "nodes: {top: {north: North, south: {house: House}}}\nroles:\n"
            + "  reader: {allows: {a: view, b: view}}\n  a: {allows: {a: edit}}\n"
            + "  b: {allows: {b: edit}}\n  both: {includes: [a, b]}\n"
            + (deny
                ? "  stop: {denies: {a: edit}}\n  swap: {allows: {b: view}, denies: {a: edit}}\n"
                    + "  odd: {allows: {a: edit}, denies: {a: edit}}\n"
                : "")
            + "  nothing: {allows: {a: none}}\ncombining: "
            + combining
            + "\nassignments:\n  actual: a.csv\n");
    file("a.csv", rows.toString());
    return Workspace.open(root);
  }

  Assessment assessment() {
    Workspace workspace = open();
    AccessModel model = workspace.model(Instant.parse(NOW), Optional.empty());
    return workspace.assessment(model);
  }

  List<Finding> findings() {
    return Findings.of(assessment());
  }

  List<String> kinds() {
    return findings().stream().map(finding -> finding.kind().id()).toList();
  }
}
