package org.sobercompass.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Writes a synthetic organization with all that real ones have: applications as of shape {@code
 * full}, every fourth open to three directories, persons with accounts in two of them, 5,000 admin
 * scopes that ten groups of helpers have roles over, and a file host with as many paths as there
 * are accounts. The same seed and size give the same bytes.
 */
public final class RichGenerator {
  private static final int SCOPES = 5_000;

  private final Path root;
  private final int accounts;
  private final int people;
  private final int field;
  private final int fieldGroups;
  private final int desks;
  private final long seed;
  private final Random random;

  /**
   * A generator.
   *
   * @param accounts of all directories together: eight of ten in the first, three of twenty in the
   *     second, one of twenty in the third
   */
  public RichGenerator(Path root, int accounts, long seed) {
    this.root = root;
    this.accounts = accounts;
    this.desks = accounts / 20;
    this.field = accounts * 3 / 20;
    this.fieldGroups = Math.max(10, field / 20);
    this.people = accounts - field - desks;
    this.seed = seed;
    this.random = new Random(seed);
  }

  /** {@code RichGenerator DIR ACCOUNTS [SEED]}. */
  public static void main(String[] args) throws IOException {
    long seed = args.length > 2 ? Long.parseLong(args[2]) : 1;
    new RichGenerator(Path.of(args[0]), Integer.parseInt(args[1]), seed).write();
    System.out.println("Wrote rich organization of " + args[1] + " accounts to " + args[0]);
  }

  /** Writes the workspace. */
  public void write() throws IOException {
    new Generator(root, people, Shape.FULL, seed).write();
    field(root.resolve("field.ldif"));
    desks(root.resolve("desks.ldif"));
    for (int app = 0; app < Shape.FULL.applications(); app += 4) {
      Path file = root.resolve("applications/app" + app + ".yaml");
      String text = Files.readString(file);
      Files.writeString(
          file, text.replace("  directory: main\n", "  directory: main\n  also: [field, desks]\n"));
    }
    admin();
    new FileTree(random, field, fieldGroups, "f").write(root.resolve("tree.getfacl"), accounts);
    Files.writeString(
        root.resolve("applications/files.yaml"),
        "kind: posix-files\nid: files\nname: File host\nsight:\n  directory: field\n"
            + "lists: tree.getfacl\n");
    Path main = root.resolve("compass.yaml");
    Files.writeString(
        main,
        Files.readString(main)
            .replace(
                "applications:\n",
                directory("field", "posix")
                    + directory("desks", "standard")
                    + "admin: admin.yaml\npersons: {link: [mail]}\n"
                    + "applications:\n  - applications/files.yaml\n"));
  }

  private static String directory(String name, String kind) {
    return "  %s:\n    kind: %s\n    file: %s.ldif\n    taken: 2026-06-01T00:00:00Z\n"
        .formatted(name, kind, name);
  }

  /** Accounts of a file host; each is of somebody of the first directory, by the address. */
  private void field(Path file) throws IOException {
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write("version: 1\n\ndn: dc=field,dc=org\nobjectClass: domain\ndc: field\n\n");
      List<StringBuilder> members = new ArrayList<>();
      for (int g = 0; g < fieldGroups; g++) {
        members.add(new StringBuilder());
      }
      for (int a = 0; a < field; a++) {
        out.write(
            ("dn: uid=f%d,dc=field,dc=org\nobjectClass: inetOrgPerson\nobjectClass: posixAccount\n"
                    + "uid: f%d\ncn: Field Account %d\nsn: Account\nmail: user%d@example.org\n"
                    + "uidNumber: %d\ngidNumber: %d\nhomeDirectory: /home/f%d\n\n")
                .formatted(a, a, a, a, 10_000 + a, 10_000 + a % fieldGroups, a));
        for (int i = 0; i < 4; i++) {
          members.get(random.nextInt(fieldGroups)).append("memberUid: f").append(a).append('\n');
        }
      }
      for (int g = 0; g < fieldGroups; g++) {
        out.write(
            "dn: cn=g%d,dc=field,dc=org\nobjectClass: posixGroup\ncn: g%d\ngidNumber: %d\n%s\n"
                .formatted(g, g, 10_000 + g, members.get(g)));
      }
    }
  }

  private void desks(Path file) throws IOException {
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write("version: 1\n\ndn: dc=desks,dc=org\nobjectClass: domain\ndc: desks\n\n");
      for (int a = 0; a < desks; a++) {
        out.write(
            ("dn: uid=d%d,dc=desks,dc=org\nobjectClass: inetOrgPerson\nuid: d%d\n"
                    + "cn: Desk Account %d\nsn: Account\nmail: d%d@desks.example\n\n")
                .formatted(a, a, a, a));
      }
      for (int g = 0; g < desks / 10; g++) {
        out.write(
            "dn: cn=desk-group%d,dc=desks,dc=org\nobjectClass: groupOfNames\ncn: desk-group%d\n"
                .formatted(g, g));
        for (int i = 0; i < 20; i++) {
          out.write("member: uid=d" + random.nextInt(desks) + ",dc=desks,dc=org\n");
        }
        out.write("\n");
      }
    }
  }

  /** Scopes of groups and units, roles over them. */
  private void admin() throws IOException {
    StringBuilder text = new StringBuilder("scopes:\n");
    StringBuilder given = new StringBuilder("role,kind,subject,scope,from,until\r\n");
    int groups = people / 5;
    for (int s = 0; s < SCOPES; s++) {
      String include =
          s % 100 == 0
              ? "{subtree: \"ou=site" + s / 100 % 20 + ",dc=example,dc=org\", groups: object}"
              : "{group: group" + random.nextInt(groups) + ", groups: members}";
      text.append("  scope").append(s).append(": {include: [").append(include).append("]}\n");
      given
          .append(s % 3 == 0 ? "desk" : "helper")
          .append(",group,group")
          .append(s % 3 == 0 ? random.nextInt(3) : 3 + random.nextInt(7))
          .append(",scope")
          .append(s)
          .append(",,\r\n");
    }
    text.append("roles:\n  desk: {actions: [set-password, unlock, edit-contact]}\n");
    text.append("  helper: {actions: [unlock]}\nassignments: assignments/admin.csv\n");
    Files.writeString(root.resolve("admin.yaml"), text);
    Files.writeString(root.resolve("assignments/admin.csv"), given);
  }
}
