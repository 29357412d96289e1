package org.sobercompass.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Writes a synthetic organization as a workspace: an LDIF export, application files, assignments.
 * The same seed and size give the same bytes. A fifth as many groups as accounts, on eight levels,
 * with some circles; about thirteen memberships an account; a third as many assignments as
 * accounts.
 */
public final class Generator {
  private static final int OWNERS = 2_000;
  private static final int LEVELS = 8;
  private static final int AREAS = 25;
  private static final String[] WORDS = {"view", "edit", "approve", "own"};

  private final Path root;
  private final int accounts;
  private final int groups;
  private final Shape shape;
  private final Random random;
  private final double @Nullable [] shares;

  /** A generator of an organization of some shape. */
  public Generator(Path root, int accounts, Shape shape, long seed) {
    this.root = root;
    this.accounts = accounts;
    this.groups = Math.max(LEVELS, accounts / 5);
    this.shape = shape;
    this.random = new Random(seed);
    this.shares = shape.powerLaw ? shares() : null;
  }

  /** {@code Generator DIR ACCOUNTS SHAPE [SEED]}. */
  public static void main(String[] args) throws IOException {
    long seed = args.length > 3 ? Long.parseLong(args[3]) : 1;
    new Generator(Path.of(args[0]), Integer.parseInt(args[1]), Shape.of(args[2]), seed).write();
    System.out.println(
        "Wrote " + args[2] + " organization of " + args[1] + " accounts to " + args[0]);
  }

  /** Sums of the shares of members: the n-th group by size has 1/n as many as the first. */
  private double[] shares() {
    double[] sums = new double[groups];
    int[] rank = random.ints(0, groups).distinct().limit(groups).toArray();
    double sum = 0;
    for (int g = 0; g < groups; g++) {
      sum += 1.0 / (rank[g] + 1);
      sums[g] = sum;
    }
    return sums;
  }

  private int anyGroup() {
    if (shares == null) {
      return random.nextInt(groups);
    }
    int at = Arrays.binarySearch(shares, random.nextDouble() * shares[groups - 1]);
    return at < 0 ? Math.min(-at - 1, groups - 1) : at;
  }

  /** Writes the workspace. */
  public void write() throws IOException {
    Files.createDirectories(root.resolve("applications"));
    Files.createDirectories(root.resolve("assignments"));
    try (BufferedWriter out = Files.newBufferedWriter(root.resolve("directory.ldif"))) {
      directory(out);
    }
    StringBuilder main =
        new StringBuilder("zone: UTC\ndirectories:\n  main:\n    kind: standard\n");
    main.append("    file: directory.ldif\n    taken: 2026-06-01T00:00:00Z\napplications:\n");
    for (int app = 0; app < shape.applications; app++) {
      main.append("  - applications/app").append(app).append(".yaml\n");
      Files.writeString(root.resolve("applications/app" + app + ".yaml"), application(app));
      try (BufferedWriter out =
          Files.newBufferedWriter(root.resolve("assignments/app" + app + ".csv"))) {
        assignments(out);
      }
    }
    main.append("separation:\n");
    for (int rule = 0; rule < 200; rule++) {
      main.append("  - {id: rule-")
          .append(rule)
          .append(", weight: high, sides: [[")
          .append(String.join("], [", threePermissions()))
          .append("]]}\n");
    }
    Files.writeString(root.resolve("compass.yaml"), main);
  }

  /** Three that differ: one right on two sides of a rule is an error. */
  private Set<String> threePermissions() {
    Set<String> sides = new LinkedHashSet<>();
    while (sides.size() < 3) {
      sides.add(permission());
    }
    return sides;
  }

  private String permission() {
    return "app" + random.nextInt(shape.applications) + ":area" + random.nextInt(AREAS) + ":own";
  }

  private void directory(BufferedWriter out) throws IOException {
    out.write("version: 1\n\ndn: dc=example,dc=org\nobjectClass: domain\ndc: example\n\n");
    for (int u = 0; u < 20; u++) {
      out.write(
          "dn: ou=site"
              + u
              + ",dc=example,dc=org\nobjectClass: organizationalUnit\nou: site"
              + u
              + "\n\n");
    }
    List<StringBuilder> members = new ArrayList<>(groups);
    for (int g = 0; g < groups; g++) {
      members.add(new StringBuilder());
    }
    for (int a = 0; a < accounts; a++) {
      account(out, a);
      for (int m = 0; m < 13; m++) {
        members.get(anyGroup()).append("member: ").append(accountDn(a)).append('\n');
      }
    }
    int perLevel = groups / LEVELS;
    for (int g = 0; g < perLevel * (LEVELS - 1); g++) {
      int level = g / perLevel;
      int parents = random.nextInt(100) < 12 ? 2 : 1;
      for (int p = 0; p < parents; p++) {
        int parent = (level + 1) * perLevel + random.nextInt(perLevel);
        members.get(parent).append("member: ").append(groupDn(g)).append('\n');
      }
    }
    for (int c = 0; c < groups / 1000; c++) {
      int top = (LEVELS - 1) * perLevel + random.nextInt(perLevel);
      int other = (LEVELS - 1) * perLevel + random.nextInt(perLevel);
      members.get(top).append("member: ").append(groupDn(other)).append('\n');
      members.get(other).append("member: ").append(groupDn(top)).append('\n');
    }
    for (int g = 0; g < groups; g++) {
      if (members.get(g).isEmpty() && shape.showsMembers()) {
        members.get(g).append("member: ").append(accountDn(g % accounts)).append('\n');
      }
      out.write(
          "dn: "
              + groupDn(g)
              + "\nobjectClass: top\nobjectClass: groupOfNames\ncn: group"
              + g
              + "\nowner: "
              + accountDn(g % OWNERS)
              + "\n");
      out.write(members.get(g).toString());
      out.write("\n");
    }
  }

  private static String accountDn(int a) {
    return "uid=user" + a + ",ou=site" + a % 20 + ",dc=example,dc=org";
  }

  private static String groupDn(int g) {
    return "cn=group" + g + ",ou=site" + g % 20 + ",dc=example,dc=org";
  }

  private static void account(BufferedWriter out, int a) throws IOException {
    out.write(
        "dn: "
            + accountDn(a)
            + "\nobjectClass: top\nobjectClass: person\nobjectClass: inetOrgPerson\nuid: user"
            + a
            + "\ncn: User Number "
            + a
            + "\nsn: Number "
            + a
            + "\ngivenName: User\ndisplayName: User Number "
            + a
            + "\nmail: user"
            + a
            + "@example.org\ndepartmentNumber: "
            + a % 300
            + "\ntelephoneNumber: +00 000 "
            + a
            + "\n\n");
  }

  private String application(int app) {
    StringBuilder out = new StringBuilder("id: app" + app + "\nname: Application " + app + "\n");
    out.append("sight:\n  directory: main\nsign-in: [directory]\nareas: [");
    for (int area = 0; area < AREAS; area++) {
      out.append(area == 0 ? "" : ", ").append("area").append(area);
    }
    out.append("]\nlevels: [view, edit, approve, own]\nactions: [print, export]\n");
    boolean deny = shape.weighs() && app % 3 == 1;
    if (shape.nodes > 1) {
      nodes(out);
    }
    if (shape.weighs()) {
      out.append(
          app % 3 == 1
              ? "combining: deny-overrides\n"
              : app % 3 == 2 ? "combining: {nearest: [node, subject]}\n" : "");
    }
    out.append("roles:\n");
    for (int role = 0; role < shape.roles; role++) {
      out.append("  role").append(role).append(":\n    allows:\n");
      int first = random.nextInt(AREAS);
      int areas = shape.hasLargeRoles() ? 2 + random.nextInt(12) : 6;
      int step = shape.hasLargeRoles() ? 1 : 4;
      for (int i = 0; i < areas; i++) {
        out.append("      area")
            .append((first + i * step) % AREAS)
            .append(": [")
            .append(WORDS[random.nextInt(4)]);
        out.append(random.nextInt(3) == 0 ? ", print]\n" : "]\n");
      }
      if (deny && role % 10 == 0) {
        out.append("    denies: {area").append(random.nextInt(AREAS)).append(": approve}\n");
      }
    }
    return out.append("assignments:\n  actual: assignments/app")
        .append(app)
        .append(".csv\n")
        .toString();
  }

  /** A tree four levels deep, by indentation. */
  private void nodes(StringBuilder out) {
    out.append("nodes:\n  top:\n");
    int count = 1;
    for (int i = 0; count < shape.nodes; i++) {
      out.append("    n").append(i).append(":\n");
      count++;
      for (int j = 0; j < 4 && count < shape.nodes; j++) {
        out.append("      n").append(i).append('-').append(j).append(":\n");
        count++;
        for (int k = 0; k < 3 && count < shape.nodes; k++) {
          out.append("        n")
              .append(i)
              .append('-')
              .append(j)
              .append('-')
              .append(k)
              .append(":\n");
          count++;
        }
      }
    }
  }

  private void assignments(BufferedWriter out) throws IOException {
    out.write("role,kind,subject,node,descendants,from,until\r\n");
    int count = (int) (accounts * 0.32 / shape.applications);
    java.util.Set<String> seen = new java.util.HashSet<>();
    while (seen.size() < count) {
      boolean person = random.nextInt(50) == 0;
      String who =
          person
              ? "account,user" + random.nextInt(accounts)
              : "group,group" + random.nextInt(groups);
      String node = shape.nodes > 1 ? node() : "";
      String until =
          shape.weighs() && random.nextInt(5) == 0
              ? "2026-0" + (5 + random.nextInt(4)) + "-15"
              : "";
      String row = "role" + random.nextInt(shape.roles) + "," + who + "," + node;
      if (seen.add(row)) {
        boolean stays =
            shape.places == Shape.Places.SINGLE || (shape.weighs() && random.nextInt(5) == 0);
        out.write(row + "," + (stays ? "no" : "yes") + ",," + until + "\r\n");
      }
    }
  }

  private String node() {
    int kind = random.nextInt(4);
    int i = random.nextInt(shape.nodes >= 200 ? 11 : 2);
    return switch (kind) {
      case 0 -> "top";
      case 1 -> "n" + i;
      case 2 -> "n" + i + "-" + random.nextInt(4);
      default -> "n" + i + "-" + random.nextInt(4) + "-" + random.nextInt(3);
    };
  }
}
