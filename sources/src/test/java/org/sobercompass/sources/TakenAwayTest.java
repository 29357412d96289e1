package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Takes away one list of members, group, branch, attribute, access control list or source at a time
 * from random workspaces of every kind of system: no yes and nothing undecided becomes a definite
 * no, and nothing becomes a definite yes.
 */
class TakenAwayTest {
  private static final String DOMAIN = "S-1-5-21-7-8-9-";
  private static final int ACCOUNTS = 5;
  private static final int GROUPS = 4;
  private static final String[] CLEARANCES = {"Gold-1", "gold-1", "gold 1", "Silver", "17"};
  private static final String[] ASKED = {"gold-1", "Gold-1", "silver", "gold*", "0017"};

  @TempDir private Path root;

  private final Map<String, String> files = new LinkedHashMap<>();

  private static String pick(Random random, String... from) {
    return from[random.nextInt(from.length)];
  }

  private void staff(Random random) {
    StringBuilder out = new StringBuilder("dn: dc=x\nobjectClass: domain\ndc: x\n\n");
    for (String unit : List.of("people", "groups", "far")) {
      out.append("dn: ou=" + unit + ",dc=x\nobjectClass: organizationalUnit\nou: " + unit + "\n\n");
    }
    for (int a = 0; a < ACCOUNTS; a++) {
      out.append("dn: uid=u" + a + ",ou=people,dc=x\nobjectClass: inetOrgPerson\nuid: u" + a);
      out.append("\ncn: u" + a + "\nsn: u\nclearance: " + pick(random, CLEARANCES));
      out.append("\nfloor: " + pick(random, CLEARANCES) + "\n\n");
    }
    out.append("dn: cn=ruled,ou=groups,dc=x\nobjectClass: groupOfURLs\ncn: ruled\nmemberURL: ");
    out.append("ldap:///ou=people,dc=x??one?(clearance=" + pick(random, ASKED) + ")\n\n");
    for (int g = 0; g < GROUPS; g++) {
      String unit = g < 2 ? "groups" : "far";
      out.append("dn: cn=g" + g + ",ou=" + unit + ",dc=x\nobjectClass: groupOfNames\ncn: g" + g);
      out.append("\nmember: uid=u" + random.nextInt(ACCOUNTS) + ",ou=people,dc=x");
      if (random.nextBoolean()) {
        int other = random.nextInt(GROUPS);
        out.append("\nmember: cn=g" + other + ",ou=" + (other < 2 ? "groups" : "far") + ",dc=x");
      }
      out.append("\n\n");
    }
    files.put("staff.ldif", out.toString());
    files.put("schema.ldif", schema(random));
    teams(random);
    String combining = pick(random, "union", "deny-overrides", "{nearest: [node, subject]}");
    boolean denies = combining.equals("deny-overrides");
    files.put(
        "app.yaml",
        "id: app\nsight: {directory: staff, also: [teams], account-filter: '(|(!(floor="
            + pick(random, ASKED)
            + "))(uid=u0))'}\nregister: register.csv\nareas: [a, b]\nlevels: [view, edit]\n"
            + "nodes: {top: {n0: {}, n1: {}}}\nroles:\n  reader: {allows: {a: view, b: view}}\n"
            + "  editor: {allows: {a: edit}}\n  off: {"
            + (denies ? "denies: {a: view}" : "allows: {a: none}")
            + "}\ncombining: "
            + combining
            + "\nassignments: {actual: rows.csv}\n");
    StringBuilder rows = new StringBuilder("role,kind,subject,node\n");
    for (int g = 0; g < GROUPS; g++) {
      String role = g == 3 ? "off" : role(random);
      rows.append(role + ",group,g" + g + "," + pick(random, "top", "n0", "n1") + "\n");
    }
    rows.append("reader,account,u0,n1\n" + role(random) + ",group,ruled,top\n");
    for (int team = 0; team < 2; team++) {
      rows.append(role(random) + ",group,team" + team + ",top\n");
    }
    files.put(
        "register.csv",
        "kind,subject,active\n"
            + pick(random, "group,team0,yes\n", "group,g2,yes\n", "group,ruled,yes\n")
            + "account,u0,yes\naccount,u1,yes\n");
    files.put("rows.csv", rows.toString());
  }

  private static String role(Random random) {
    return pick(random, "reader", "editor");
  }

  /** Two attributes of its own, which compare as no usual type tells. */
  private static String schema(Random random) {
    StringBuilder out = new StringBuilder("dn: cn=subschema\nobjectClass: subschema\n");
    for (String type : List.of("objectClass", "cn", "sn", "uid", "ou", "dc", "member")) {
      String rule = type.equals("member") ? "distinguishedNameMatch" : "caseIgnoreMatch";
      out.append("attributeTypes: ( 1.1." + out.length() + " NAME '" + type + "' EQUALITY ");
      out.append(rule + " SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )\n");
    }
    for (String own : List.of("clearance", "floor")) {
      out.append("attributeTypes: ( 1.2." + out.length() + " NAME '" + own + "' EQUALITY ");
      out.append(pick(random, "caseIgnoreMatch", "caseExactMatch", "telephoneNumberMatch"));
      out.append(" SUBSTR caseExactSubstringsMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )\n");
    }
    return out.append("\n").toString();
  }

  /** A directory of groups alone, whose members stand in another. */
  private void teams(Random random) {
    StringBuilder out = new StringBuilder("dn: dc=t\nobjectClass: domain\ndc: t\n\n");
    for (int team = 0; team < 2; team++) {
      out.append("dn: cn=team" + team + ",dc=t\nobjectClass: groupOfNames\ncn: team" + team);
      out.append("\nmember: uid=u" + random.nextInt(ACCOUNTS) + ",ou=people,dc=x\n\n");
    }
    files.put("teams.ldif", out.toString());
  }

  private static String list(Random random) {
    StringBuilder out = new StringBuilder("O:" + DOMAIN + "1000D:");
    for (int i = 1 + random.nextInt(3); i > 0; i--) {
      out.append("(" + (random.nextInt(4) == 0 ? "D" : "A") + ";;");
      out.append(pick(random, "WP", "CCDC", "SD", "WD", "GA", "CR") + ";;;");
      out.append(DOMAIN + (1000 + random.nextInt(ACCOUNTS + GROUPS)) + ")");
    }
    return out.toString();
  }

  private void desks(Random random) {
    StringBuilder out = new StringBuilder("dn: dc=d\nobjectClass: domainDNS\ndc: d\n");
    out.append("objectSid: S-1-5-21-7-8-9\nnTSecurityDescriptor: " + list(random) + "\n\n");
    out.append("dn: ou=o,dc=d\nobjectClass: organizationalUnit\nou: o\n");
    out.append("nTSecurityDescriptor: " + list(random) + "\n\n");
    for (int i = 0; i < ACCOUNTS + GROUPS; i++) {
      boolean group = i >= ACCOUNTS;
      String name = group ? "t" + (i - ACCOUNTS) : "d" + i;
      out.append("dn: cn=" + name + ",ou=o,dc=d\nobjectClass: " + (group ? "group" : "user"));
      out.append("\nsAMAccountName: " + name + "\nobjectSid: " + DOMAIN + (1000 + i));
      out.append("\nobjectGUID: 00000000-0000-0000-0000-00000000" + (1000 + i));
      out.append(group ? "\ngroupType: -2147483646" : "\nuserAccountControl: 512");
      if (group) {
        out.append("\nmember: cn=d" + random.nextInt(ACCOUNTS) + ",ou=o,dc=d");
      }
      out.append("\nnTSecurityDescriptor: " + list(random) + "\n\n");
    }
    files.put("desks.ldif", out.toString());
    files.put(
        "share.yaml",
        "kind: shared-files\nid: share\nsight: {directory: desks}\nlists: share.csv\n");
    StringBuilder share = new StringBuilder("path,kind,list\n");
    for (String path : List.of("/,folder", "/a,folder", "/a/f,file")) {
      share.append(path + "," + list(random).replace("GA", "FA").replace(";;WP;", ";;FR;"));
      share.append("\n");
    }
    files.put("share.csv", share.toString().replace("(D;;CR", "(D;;FW").replace(";;CR;", ";;FW;"));
  }

  private void host(Random random) {
    StringBuilder out = new StringBuilder("root:x:0:0::/:/bin/sh\n");
    for (int a = 0; a < ACCOUNTS; a++) {
      out.append("h" + a + ":x:" + (1000 + a) + ":100::/home:/bin/sh\n");
    }
    out.append("root:x:0:\nmembers:x:100:\n");
    for (int g = 0; g < GROUPS; g++) {
      out.append("k" + g + ":x:" + (2000 + g) + ":h" + random.nextInt(ACCOUNTS) + "\n");
    }
    files.put("host.getent", out.toString());
    files.put("tree.yaml", "kind: posix-files\nid: tree\nsight: {directory: host}\nlists: t.acl\n");
    StringBuilder tree = new StringBuilder();
    for (String path : List.of("/", "/s", "/s/f")) {
      tree.append("# file: " + path + "\n# owner: h" + random.nextInt(ACCOUNTS));
      tree.append("\n# group: k" + random.nextInt(GROUPS) + "\nuser::rwx\n");
      if (random.nextBoolean()) {
        tree.append("group:k" + random.nextInt(GROUPS) + ":" + pick(random, "rwx", "r-x", "---"));
        tree.append("\ngroup::r-x\nmask::rwx\n");
      } else {
        tree.append("group::" + pick(random, "rwx", "r-x", "---") + "\n");
      }
      tree.append("other::" + pick(random, "r-x", "---", "--x") + "\n\n");
    }
    files.put("t.acl", tree.toString());
  }

  private void database(Random random) {
    StringBuilder out = new StringBuilder();
    for (String role : List.of("o", "p", "q", "r")) {
      out.append("{\"kind\":\"role\",\"name\":\"" + role + "\",\"superuser\":false,");
      out.append("\"inherits\":true,\"login\":true}\n");
    }
    out.append("{\"kind\":\"database\",\"name\":\"b\",\"owner\":\"o\",\"open\":true,");
    out.append("\"grants\":[\"=Tc/o\"]}\n");
    String grants = pick(random, "\"p=U/o\"", "\"=U/o\"", "\"q=UC/o\"");
    out.append(
        "{\"kind\":\"schema\",\"name\":\"s\",\"owner\":\"o\",\"grants\":[" + grants + "]}\n");
    out.append("{\"kind\":\"relation\",\"schema\":\"s\",\"name\":\"t\",\"type\":\"table\",");
    out.append("\"owner\":\"o\",\"grants\":[\"p=r/o\",\"q=" + pick(random, "r", "rw", "a"));
    out.append("/o\"]}\n");
    files.put("b.jsonl", out.toString());
    files.put("b.yaml", "kind: postgresql\nid: b\nsight: {directory: b}\ncollection: b.jsonl\n");
  }

  private void write(Map<String, String> texts) throws IOException {
    for (Map.Entry<String, String> file : texts.entrySet()) {
      Files.writeString(root.resolve(file.getKey()), file.getValue());
    }
  }

  /** Every answer that the workspace gives, by who, what and where. */
  private Map<String, Verdict> answers(Map<String, String> texts) throws IOException {
    write(texts);
    Workspace workspace = Workspace.open(root);
    AccessModel model = workspace.model();
    Map<String, Verdict> all = new TreeMap<>();
    Asker asker = model.asker();
    for (SystemView view : model.systems()) {
      for (int account = 0; account < model.facts().accounts(); account++) {
        for (int node = 0; node < view.resources().size(); node++) {
          for (int right = 0; right < view.rights().size(); right++) {
            all.put(
                who(model, account)
                    + " "
                    + view.id()
                    + ":"
                    + view.rights().text(right)
                    + " "
                    + view.resources().id(node),
                asker.can(view, account, right, node).verdict());
          }
        }
      }
    }
    acts(workspace, model, all);
    return all;
  }

  private static String who(AccessModel model, int account) {
    return model.facts().source(account) + "/" + model.facts().login(account);
  }

  private static void acts(Workspace workspace, AccessModel model, Map<String, Verdict> all) {
    Powers powers = workspace.powers(model, new Problems());
    for (DirectoryTree tree : powers.trees().all()) {
      for (int object = 0; object < tree.size(); object++) {
        Powers.Thing thing = powers.thing(new DirectoryTrees.Spot(tree, object));
        for (AdminAction action : powers.roles().administration().actions()) {
          for (int account = 0; account < model.facts().accounts(); account++) {
            if (model.facts().source(account).equals("desks")) {
              all.put(
                  who(model, account) + " " + action.id() + " " + tree.dn(object),
                  powers.can(account, action, thing, Optional.empty()));
            }
          }
        }
      }
    }
  }

  private static String without(String text, String pattern) {
    return text.lines().filter(line -> !line.matches(pattern)).collect(Collectors.joining("\n"))
        + "\n";
  }

  private static String withoutBlock(String text, String start) {
    return Arrays.stream(text.split("\n\n"))
            .filter(block -> !block.matches("(?s)" + start + ".*"))
            .collect(Collectors.joining("\n\n"))
        + "\n\n";
  }

  /** In one block of a file only. */
  private static String inBlock(String text, String start, UnaryOperator<String> change) {
    return Arrays.stream(text.split("\n\n"))
            .map(
                block -> block.matches("(?s)" + start + ".*") ? change.apply(block).strip() : block)
            .collect(Collectors.joining("\n\n"))
        + "\n\n";
  }

  /** What is taken away from one file, and with it from the workspace's own. */
  private record Removal(
      String file, String name, UnaryOperator<String> change, UnaryOperator<String> also) {
    Removal(String file, String name, UnaryOperator<String> change) {
      this(file, name, change, text -> text);
    }
  }

  private static List<Removal> removals() {
    List<Removal> all = new ArrayList<>();
    for (int g = 0; g < GROUPS; g++) {
      String staff = "dn: cn=g" + g + ",.*";
      all.add(
          new Removal(
              "staff.ldif",
              "the members of g" + g,
              t -> inBlock(t, staff, b -> without(b, "member: .*"))));
      String host = "k" + g + ":.*";
      all.add(new Removal("host.getent", "the group k" + g, t -> without(t, host)));
      String object = "dn: cn=t" + g + ",.*";
      all.add(
          new Removal(
              "desks.ldif",
              "the list of t" + g,
              t -> inBlock(t, object, b -> without(b, "nTSecurityDescriptor: .*"))));
      all.add(
          new Removal(
              "desks.ldif",
              "the SID of t" + g,
              t -> inBlock(t, object, b -> without(b, "objectSid: .*"))));
    }
    all.add(new Removal("staff.ldif", "the branch far", t -> withoutBlock(t, "dn: [^\n]*ou=far,")));
    all.add(new Removal("compass.yaml", "the schema", t -> t.replace(", schema: schema.ldif", "")));
    all.add(
        new Removal(
            "app.yaml",
            "the directory of teams",
            t -> t.replace(", also: [teams]", ""),
            t -> without(t, "  teams: .*")));
    all.add(new Removal("staff.ldif", "all members", t -> without(t, "member: .*")));
    all.add(new Removal("desks.ldif", "all lists", t -> without(t, "nTSecurityDescriptor: .*")));
    all.add(new Removal("desks.ldif", "the states", t -> without(t, "userAccountControl: .*")));
    all.add(
        new Removal(
            "t.acl",
            "the list of /s",
            t -> inBlock(t, "# file: /s\n", b -> "# file: /s\n# unread: denied")));
    all.add(
        new Removal(
            "t.acl",
            "all lists but the modes",
            t -> modes(t).replace("\nuser::", "\n# mode only\nuser::")));
    all.add(
        new Removal(
            "share.csv", "the list of /a", t -> t.replaceAll("(?m)^/a,folder,.*$", "/a,folder,")));
    all.add(
        new Removal(
            "b.jsonl",
            "the grants of the table",
            t ->
                without(t, ".*\"relation\".*")
                    + "{\"kind\":\"unread\",\"what\":\"relation\",\"why\":\"denied\"}\n"));
    return all;
  }

  /** What a mode shows of a list: its mask where there is one, as the group's. */
  private static String modes(String text) {
    return Arrays.stream(text.split("\n\n"))
            .map(
                block ->
                    block.contains("mask::")
                        ? without(block.replaceAll("group::...", ""), "group:k.*|")
                            .replace("mask::", "group::")
                            .strip()
                        : block.strip())
            .collect(Collectors.joining("\n\n"))
        + "\n\n";
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10})
  void whatIsTakenAwayMakesNoAnswerDefinite(long seed) throws IOException {
    Random random = new Random(seed);
    staff(random);
    desks(random);
    host(random);
    database(random);
    files.put(
        "compass.yaml",
        "directories:\n  staff: {file: staff.ldif, schema: schema.ldif}\n"
            + "  teams: {file: teams.ldif}\n  desks: {kind: ad, file: desks.ldif}\n"
            + "  host: {kind: host, file: host.getent}\n"
            + "  b: {kind: postgresql, file: b.jsonl}\n"
            + "applications: [app.yaml, share.yaml, tree.yaml, b.yaml]\n");
    Map<String, Verdict> before = answers(files);
    assertThat(before.values()).contains(Verdict.YES, Verdict.NO);
    int turned = 0;
    for (Removal removal : removals()) {
      Map<String, String> less = new HashMap<>(files);
      String text = files.getOrDefault(removal.file(), "");
      less.put("compass.yaml", removal.also().apply(files.get("compass.yaml")));
      less.put(removal.file(), removal.change().apply(text));
      assertThat(less.get(removal.file())).as(removal.name()).isNotEqualTo(text);
      Map<String, Verdict> after = answers(less);
      int common = 0;
      for (Map.Entry<String, Verdict> asked : before.entrySet()) {
        Verdict now = after.get(asked.getKey());
        if (now != null) {
          common++;
          turned += now == asked.getValue() ? 0 : 1;
          assertThat(now)
              .as("seed %d without %s: %s", seed, removal.name(), asked.getKey())
              .isIn(asked.getValue(), Verdict.UNDECIDED);
        }
      }
      assertThat(common).as(removal.name()).isGreaterThan(before.size() / 2);
    }
    assertThat(turned).as("what is taken away is missed").isGreaterThan(50);
  }
}
