package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.delegation.ActionCheck;
import org.sobercompass.core.delegation.Actors;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.delegation.Tokens;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Delegations in small directories: who can do what, where each entry comes from, what it leads to.
 */
class DelegationTest {
  private static final String FULL = "CCDCLCSWRPWPDTLOCRSDRCWDWO";
  private static final String RESET = "00299570-246d-11d0-a768-00aa006e0529";
  private static final String USER = "bf967aba-0de6-11d0-a285-00aa003049e2";
  private static final String MEMBER = "bf9679c0-0de6-11d0-a285-00aa003049e2";
  private static final String DOMAIN = "S-1-5-21-7-8-9";

  @TempDir Path root;
  private final StringBuilder ldif = new StringBuilder();
  private final Problems problems = new Problems();

  private void entry(String dn, String sddl, String... lines) {
    ldif.append("dn: ").append(dn).append('\n');
    for (String line : lines) {
      ldif.append(line).append('\n');
    }
    if (!sddl.isEmpty()) {
      ldif.append("nTSecurityDescriptor: ").append(sddl).append('\n');
    }
    ldif.append('\n');
  }

  private void domain(String sddl) {
    entry("dc=x", sddl, "objectClass: domainDNS", "dc: x", "objectSid: " + DOMAIN);
  }

  private void unit(String name, String sddl) {
    entry("ou=" + name + ",dc=x", sddl, "objectClass: organizationalUnit", "ou: " + name);
  }

  private void user(String name, int rid, String unit, String sddl, String... more) {
    List<String> lines =
        new ArrayList<>(
            List.of(
                "objectClass: user",
                "sAMAccountName: " + name,
                "objectSid: " + DOMAIN + "-" + rid,
                "objectGUID: 00000000-0000-0000-0000-00000000" + rid));
    lines.addAll(List.of(more));
    entry("cn=" + name + ",ou=" + unit + ",dc=x", sddl, lines.toArray(String[]::new));
  }

  private void group(String name, int rid, String sddl, String... members) {
    List<String> lines =
        new ArrayList<>(
            List.of(
                "objectClass: group",
                "sAMAccountName: " + name,
                "groupType: -2147483646",
                "objectSid: " + DOMAIN + "-" + rid,
                "objectGUID: 00000000-0000-0000-0000-00000000" + rid));
    for (String member : members) {
      lines.add("member: " + member);
    }
    entry("cn=" + name + ",ou=a,dc=x", sddl, lines.toArray(String[]::new));
  }

  private static String sid(int rid) {
    return DOMAIN + "-" + rid;
  }

  private Powers powers() throws IOException {
    Files.writeString(root.resolve("d.ldif"), ldif.toString());
    if (!Files.exists(root.resolve("compass.yaml"))) {
      Files.writeString(
          root.resolve("compass.yaml"), "directories: {main: {kind: ad, file: d.ldif}}\n");
    }
    Workspace workspace = Workspace.open(root);
    AccessModel model = workspace.model();
    return new Powers(model, workspace.administration(), workspace.readTrees(problems));
  }

  private static int account(Powers powers, String login) {
    return NameResolver.find(powers.model().facts(), SubjectKind.ACCOUNT, login).get(0);
  }

  private static Powers.Thing thing(Powers powers, SubjectKind kind, String name) {
    return powers.thing(NameResolver.find(powers.model().facts(), kind, name).get(0));
  }

  private static String can(Powers powers, String who, String action, Powers.Thing object) {
    AdminAction act = powers.roles().administration().action(action).orElseThrow();
    return powers.can(account(powers, who), act, object, Optional.empty()).name();
  }

  /** Ann helps; Bo is in an inner group of the helpers; Cy is nobody; Di is to be helped. */
  private void people(String diList) {
    domain("D:(A;;LC;;;AU)");
    unit("a", "D:(A;;LC;;;AU)");
    user("ann", 1001, "a", "D:");
    user("bo", 1002, "a", "D:");
    user("cy", 1003, "a", "D:");
    user("di", 1004, "a", diList);
    group("inner", 1102, "D:", "cn=bo,ou=a,dc=x");
    group("helpers", 1101, "D:", "cn=ann,ou=a,dc=x", "cn=inner,ou=a,dc=x");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "D:(OA;;CR;RESET;;H)                  | ann bo   | set-password",
        "D:(OD;;CR;RESET;;A)(OA;;CR;RESET;;H) | bo       | set-password",
        "D:(OA;;CR;RESET;;H)(OD;;CR;RESET;;A) | ann bo   | set-password",
        "D:(A;;CR;;;H)                        | ann bo   | set-password",
        "D:(A;;GA;;;A)                        | ann      | full-control",
        "D:(A;;WD;;;AU)                       | ann bo cy di | change-permissions",
        "D:(A;;WO;;;PS)                       | di       | take-ownership",
        "D:(A;;RP;;;H)                        | ''       | read-confidential",
        "D:(A;;RPCR;;;H)                      | ann bo   | read-confidential",
        "O:AD:                                | ann      | change-permissions",
        "D:(OA;;WP;77b5b886-944a-11d1-aebd-0000f80367c1;;A) | ann | edit-contact",
        "D:NO_ACCESS_CONTROL                  | ann bo cy di | full-control",
        "D:                                   | ''       | full-control"
      })
  void theListDecidesForEachAndForAllAtOnce(String list, String names, String action)
      throws IOException {
    people(
        list.replace("RESET", RESET)
            .replaceAll("(?<=[;:])H(?=\\))", sid(1101))
            .replaceAll("(?<=[;:])A(?=[)D])", sid(1001))
            .replace("O:AD:", "O:" + sid(1001) + "D:"));
    Powers powers = powers();
    assertThat(problems.list()).isEmpty();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    Set<String> expected = names.isEmpty() ? Set.of() : Set.of(names.split(" "));
    for (String who : List.of("ann", "bo", "cy", "di")) {
      assertThat(can(powers, who, action, di))
          .as(who)
          .isEqualTo(expected.contains(who) ? "YES" : "NO");
    }
    AdminAction act = powers.roles().administration().action(action).orElseThrow();
    BitSet all = powers.who(act, di, Optional.empty()).yes();
    assertThat(
            all.stream().mapToObj(a -> powers.model().facts().login(a)).collect(Collectors.toSet()))
        .isEqualTo(expected);
  }

  @Test
  void anUnreadableListIsUndecidedAndItsObjectNamed() throws IOException {
    people("");
    ldif.append("dn: cn=ed,ou=a,dc=x\nobjectClass: user\nsAMAccountName: ed\n")
        .append("nTSecurityDescriptor:: AQAEgBQAAAA=\n\n");
    Powers powers = powers();
    assertThat(can(powers, "ann", "set-password", thing(powers, SubjectKind.ACCOUNT, "di")))
        .isEqualTo("UNDECIDED");
    assertThat(can(powers, "ann", "set-password", thing(powers, SubjectKind.ACCOUNT, "ed")))
        .isEqualTo("UNDECIDED");
    assertThat(problems.list())
        .extracting(Problem::toString)
        .singleElement()
        .asString()
        .contains("cn=ed,ou=a,dc=x")
        .contains("its access control list is wrong");
  }

  @Test
  void deletingAndMovingConcernSeveralObjects() throws IOException {
    domain("D:");
    unit("a", "D:(OA;;DC;" + USER + ";;" + sid(1001) + ")");
    unit("b", "D:(OA;;CC;" + USER + ";;" + sid(1001) + ")");
    user("ann", 1001, "a", "D:");
    user("di", 1004, "a", "D:(A;;WP;;;" + sid(1001) + ")");
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "ann", "delete-account", di)).isEqualTo("YES");
    assertThat(can(powers, "di", "delete-account", di)).isEqualTo("NO");
    AdminAction move = powers.roles().administration().action("move").orElseThrow();
    Optional<Tokens.Spot> b = thing(powers, SubjectKind.UNIT, "b").spot();
    Optional<Tokens.Spot> a = thing(powers, SubjectKind.UNIT, "a").spot();
    int ann = account(powers, "ann");
    assertThat(powers.can(ann, move, di, b)).isEqualTo(Verdict.YES);
    assertThat(powers.can(ann, move, di, a)).isEqualTo(Verdict.NO);
    assertThat(powers.can(ann, move, di, Optional.empty())).isEqualTo(Verdict.UNDECIDED);
  }

  @Test
  void idsBroughtAlongAndTrusteesOfElsewhereCount() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("ann", 1001, "a", "D:", "sIDHistory: S-1-5-21-1-1-1-77");
    user("bo", 1002, "a", "D:");
    user("di", 1004, "a", "D:(A;;WD;;;S-1-5-21-1-1-1-77)(A;;WO;;;" + sid(1101) + ")");
    group("all", 1101, "D:", "cn=S-1-5-11,cn=ForeignSecurityPrincipals,dc=x");
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "ann", "change-permissions", di)).isEqualTo("YES");
    assertThat(can(powers, "bo", "change-permissions", di)).isEqualTo("NO");
    assertThat(can(powers, "bo", "take-ownership", di)).isEqualTo("YES");
    AdminAction take = powers.roles().administration().action("take-ownership").orElseThrow();
    assertThat(powers.who(take, di, Optional.empty()).yes().cardinality()).isEqualTo(3);
  }

  @Test
  void aGroupMayListAnAccountOfAnotherDirectoryByItsSid() throws IOException {
    Files.writeString(
        root.resolve("e.ldif"),
        "dn: cn=guest,dc=y\nobjectClass: user\nsAMAccountName: guest\n"
            + "objectSid: S-1-5-21-4-4-4-501\n");
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif}, other: {kind: ad, file: e.ldif}}\n");
    domain("D:");
    unit("a", "D:");
    user("di", 1004, "a", "D:(A;;WO;;;" + sid(1101) + ")");
    group("guests", 1101, "D:", "CN=S-1-5-21-4-4-4-501,CN=ForeignSecurityPrincipals,dc=x");
    Powers powers = powers();
    int guests = NameResolver.find(powers.model().facts(), SubjectKind.GROUP, "guests").get(0);
    assertThat(powers.model().graph().downCount(guests)).isEqualTo(1);
    assertThat(powers.model().facts().login(powers.model().graph().downMember(guests, 0)))
        .isEqualTo("guest");
    assertThat(can(powers, "guest", "take-ownership", thing(powers, SubjectKind.ACCOUNT, "di")))
        .isEqualTo("YES");
  }

  /** Random lists over a small tree: one by one and all at once must say the same. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void oneByOneAndAllAtOnceAgreeOnRandomDirectories(long seed) throws IOException {
    Random random = new Random(seed);
    domain(randomList(random));
    unit("a", randomList(random));
    for (int i = 0; i < 8; i++) {
      user("u" + i, 1000 + i, "a", random.nextInt(12) == 0 ? "" : randomList(random));
    }
    for (int g = 0; g < 4; g++) {
      group(
          "g" + g,
          1100 + g,
          randomList(random),
          "cn=u" + random.nextInt(8) + ",ou=a,dc=x",
          "cn=g" + random.nextInt(4) + ",ou=a,dc=x");
    }
    Powers powers = powers();
    DirectoryTree tree = powers.tokens().trees().get(0);
    Map<Verdict, Integer> counted = new TreeMap<>();
    for (AdminAction action : powers.roles().administration().actions()) {
      for (int object = 0; object < tree.size(); object++) {
        Actors.Answer all = new Actors(tree, powers.tokens()).who(action.need(), object, -1);
        for (int account = 0; account < powers.model().facts().accounts(); account++) {
          Verdict one =
              new ActionCheck(tree, powers.tokens().of(account)).decide(action.need(), object, -1);
          Verdict same =
              all.yes().get(account)
                  ? Verdict.YES
                  : all.perhaps().get(account) ? Verdict.UNDECIDED : Verdict.NO;
          assertThat(same)
              .as(
                  action.id()
                      + " on "
                      + tree.dn(object)
                      + " by "
                      + powers.model().facts().login(account)
                      + " "
                      + powers.tokens().of(account)
                      + "\n"
                      + ldif)
              .isEqualTo(one);
          counted.merge(one, 1, Integer::sum);
        }
      }
    }
    assertThat(counted).hasSizeGreaterThan(1);
  }

  private static String randomList(Random random) {
    StringBuilder list = new StringBuilder("O:" + sid(1000 + random.nextInt(8)) + "D:");
    String[] parts = {"", RESET, USER, MEMBER, "5f202010-79a5-11d0-9020-00c04fc2d4cf"};
    String[] rights = {"CR", "WP", "RPCR", "CCDC", "WDWO", "GA", "SD", "SW"};
    for (int i = 0; i < random.nextInt(7); i++) {
      String part = parts[random.nextInt(parts.length)];
      boolean deny = random.nextInt(3) == 0;
      boolean conditional = random.nextInt(8) == 0;
      String type = deny ? "D" : "A";
      String letters = part.isEmpty() ? conditional ? "X" + type : type : "O" + type;
      String who =
          switch (random.nextInt(5)) {
            case 0 -> "AU";
            case 1 -> "PS";
            case 2 -> sid(1100 + random.nextInt(4));
            default -> sid(1000 + random.nextInt(8));
          };
      list.append('(')
          .append(letters)
          .append(random.nextInt(6) == 0 ? ";CIIO;" : ";;")
          .append(rights[random.nextInt(rights.length)])
          .append(';')
          .append(part)
          .append(";;")
          .append(who)
          .append(letters.startsWith("X") ? ";(a == 1)" : "")
          .append(')');
    }
    return list.toString();
  }

  @Test
  void eachEntryIsOfWhereItReallyComesFrom() throws IOException {
    String down = "(A;CI;WP;;;" + sid(1001) + ")";
    entry(
        "cn=user,cn=schema,dc=x",
        "",
        "objectClass: classSchema",
        "lDAPDisplayName: user",
        "schemaIDGUID: " + USER,
        "subClassOf: organizationalPerson",
        "defaultSecurityDescriptor: D:(A;;GA;;;DA)(A;;RC;;;AU)");
    domain("D:" + down);
    unit("a", "D:(A;CIID;WP;;;" + sid(1001) + ")(A;;SD;;;" + sid(1002) + ")");
    user(
        "di",
        1004,
        "a",
        "D:(A;;"
            + FULL
            + ";;;"
            + sid(512)
            + ")(A;;RC;;;AU)(A;CIID;WP;;;"
            + sid(1001)
            + ")(A;ID;WD;;;"
            + sid(1002)
            + ")(A;;WO;;;"
            + sid(1003)
            + ")");
    Powers powers = powers();
    DirectoryTree tree = powers.tokens().trees().get(0);
    int di = thing(powers, SubjectKind.ACCOUNT, "di").spot().orElseThrow().object();
    Origins origins = new Origins(tree, Optional.empty());
    assertThat(origins.of(di))
        .containsExactly(
            Origin.DEFAULT, Origin.DEFAULT, Origin.INHERITED, Origin.CLAIMED, Origin.ADDED);
    Delegations delegations =
        new Delegations(tree, origins, powers.roles().administration().actions());
    List<Delegation> found = delegations.on(di, EnumSet.of(Origin.ADDED, Origin.CLAIMED));
    assertThat(found)
        .extracting(d -> d.trustee() + " " + d.actions().get(0).id())
        .containsExactly(sid(1002) + " change-permissions", sid(1003) + " take-ownership");
    assertThat(new Origins(tree, Optional.of(tree)).of(di))
        .containsExactly(
            Origin.DEFAULT,
            Origin.DEFAULT,
            Origin.INHERITED,
            Origin.PROVISIONED,
            Origin.PROVISIONED);
    assertThat(origins.missing(di)).isEmpty();
  }

  @Test
  void whoCanWriteWhatAScopeGoesByCanWidenIt() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("ann", 1001, "a", "D:", "title: Keeper");
    user("bo", 1002, "a", "D:(A;;WP;;;" + sid(1003) + ")");
    user("cy", 1003, "a", "D:");
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif}}\nadmin: admin.yaml\n");
    Files.writeString(
        root.resolve("admin.yaml"),
        "scopes: {keepers: {include: [{where: \"(title=Keeper)\"}]}}\n"
            + "roles: {desk: {actions: [unlock]}}\nassignments: admin.csv\n"
            + "powers: {till: {name: open the till, groups: [], accounts: [bo]}}\n");
    Files.writeString(
        root.resolve("admin.csv"), "role,kind,subject,scope\ndesk,account,cy,keepers\n");
    Powers powers = powers();
    assertThat(new org.sobercompass.core.admin.AdminCheck(powers).run())
        .extracting(Problem::what)
        .containsExactly(
            "cy can widen the scope keepers, over which she is set, by writing title of bo");
    NamedPower till =
        org.sobercompass.core.admin.NamedPowers.of(powers).stream()
            .filter(p -> p.id().equals("till"))
            .findFirst()
            .orElseThrow();
    assertThat(new Reach(powers, till).answer().held().cardinality()).isEqualTo(1);
    assertThat(new Reach(powers, till).answer().within().cardinality()).isZero();
  }

  /** Bo is in the helpers and denied; Cy could join them, and is denied; Di could join them. */
  @Test
  void whoIsDeniedDoesNotComeToItThroughTheGroup() throws IOException {
    domain("D:(A;;WD;;;" + sid(1001) + ")");
    unit("a", "D:");
    String denied = "(D;;CR;;;" + sid(1002) + ")(D;;CR;;;" + sid(1003) + ")";
    user("ann", 1001, "a", "D:" + denied + "(OA;;CR;" + RESET + ";;" + sid(1102) + ")");
    for (int i = 2; i < 6; i++) {
      user(List.of("bo", "cy", "di", "ed").get(i - 2), 1000 + i, "a", "D:");
    }
    group(
        "helpers",
        1102,
        "D:(OA;;WP;" + MEMBER + ";;" + sid(1003) + ")(OA;;WP;" + MEMBER + ";;" + sid(1004) + ")",
        "cn=bo,ou=a,dc=x",
        "cn=ed,ou=a,dc=x");
    Powers powers = powers();
    NamedPower power = org.sobercompass.core.admin.NamedPowers.of(powers).get(0);
    assertThat(
            new Reach(powers, power)
                .answer().within().stream().mapToObj(a -> powers.model().facts().login(a)))
        .containsExactlyInAnyOrder("di", "ed");
  }

  @Test
  void anAdminRoleOverAnAccountLeadsItsHoldersToItsPower() throws IOException {
    domain("D:(A;;WD;;;" + sid(1001) + ")");
    unit("a", "D:");
    user("ann", 1001, "a", "D:");
    user("bo", 1002, "a", "D:");
    group("desk", 1101, "D:", "cn=bo,ou=a,dc=x");
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif}}\nadmin: admin.yaml\n");
    Files.writeString(
        root.resolve("admin.yaml"),
        "scopes: {}\nroles: {desk: {actions: [set-password]}}\nassignments: admin.csv\n");
    Files.writeString(
        root.resolve("admin.csv"), "role,kind,subject,scope\ndesk,group,desk,everything\n");
    Powers powers = powers();
    Reach reach = new Reach(powers, org.sobercompass.core.admin.NamedPowers.of(powers).get(0));
    int bo = account(powers, "bo");
    assertThat(reach.answer().within().get(bo)).isTrue();
    assertThat(reach.chain(bo)).hasSize(1);
  }

  /** A formula of a workspace's own, with both at the parent: the class is that of the object. */
  @Test
  void atTheParentTheClassOfTheObjectIsMeantHoweverDeepTheFormula() throws IOException {
    domain("D:");
    unit("a", "D:(OA;;DC;" + USER + ";;" + sid(1001) + ")");
    user("ann", 1001, "a", "D:");
    user("di", 1004, "a", "D:");
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif}}\nadmin: admin.yaml\n");
    Files.writeString(
        root.resolve("admin.yaml"),
        "actions: {clear: {needs: {parent: {any: [{delete-child: own}, {do: everything}]}}}}\n");
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "ann", "clear", di)).isEqualTo("YES");
    assertThat(can(powers, "di", "clear", di)).isEqualTo("NO");
    AdminAction clear = powers.roles().administration().action("clear").orElseThrow();
    assertThat(powers.who(clear, di, Optional.empty()).yes().cardinality()).isEqualTo(1);
  }

  @Test
  void whoControlsAnAccountThatAnApplicationTrustsIsWithinReachOfIt() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("ann", 1001, "a", "D:");
    user("svc", 1002, "a", "D:(OA;;CR;" + RESET + ";;" + sid(1001) + ")");
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif}}\napplications: [app.yaml]\n");
    Files.writeString(
        root.resolve("app.yaml"),
        "id: app\nsight: {directory: main}\nareas: [a]\nlevels: [view]\nroles: {r: {}}\n"
            + "trusted: [svc]\n");
    Powers powers = powers();
    NamedPower app =
        org.sobercompass.core.admin.NamedPowers.of(powers).stream()
            .filter(p -> p.id().equals("app"))
            .findFirst()
            .orElseThrow();
    Reach reach = new Reach(powers, app);
    assertThat(reach.answer().held().get(account(powers, "svc"))).isTrue();
    assertThat(reach.answer().within().get(account(powers, "ann"))).isTrue();
    assertThat(app.ofDirectory()).isFalse();
  }

  @Test
  void rightsThatLeadToRightsAreFollowedByAShortestChain() throws IOException {
    domain("D:(A;;WD;;;" + sid(1101) + ")");
    unit("a", "D:");
    user("ann", 1001, "a", "D:(OA;;CR;" + RESET + ";;" + sid(1102) + ")");
    user("bo", 1002, "a", "D:");
    user("cy", 1003, "a", "D:(A;;GA;;;" + sid(1004) + ")");
    user("di", 1004, "a", "D:");
    user("ed", 1005, "a", "D:(A;;RP;;;AU)");
    group("owners", 1101, "D:", "cn=ann,ou=a,dc=x");
    group("helpers", 1102, "D:(OA;;WP;" + MEMBER + ";;" + sid(1003) + ")", "cn=bo,ou=a,dc=x");
    Powers powers = powers();
    NamedPower power = org.sobercompass.core.admin.NamedPowers.of(powers).get(0);
    Reach reach = new Reach(powers, power);
    Map<String, String> chains = new TreeMap<>();
    reach.answer().within().stream()
        .forEach(
            a ->
                chains.put(
                    powers.model().facts().login(a),
                    reach.chain(a).stream()
                        .map(
                            s ->
                                s.action().map(AdminAction::id).orElse("in")
                                    + " "
                                    + powers.model().facts().login(s.to()))
                        .collect(Collectors.joining(", "))));
    assertThat(reach.answer().held().stream().mapToObj(a -> powers.model().facts().login(a)))
        .containsExactly("ann");
    assertThat(chains)
        .containsExactlyInAnyOrderEntriesOf(
            Map.of(
                "bo", "set-password ann, in owners",
                "cy", "edit-members helpers, set-password ann, in owners",
                "di", "set-password cy, edit-members helpers, set-password ann, in owners"));
  }
}
