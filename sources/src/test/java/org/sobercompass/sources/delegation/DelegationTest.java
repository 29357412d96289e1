package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
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
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.NameResolver;

/**
 * Delegations in small directories: who can do what, where each entry comes from, what it leads to.
 */
class DelegationTest extends SmallDirectory {
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
    Optional<DirectoryTrees.Spot> b = thing(powers, SubjectKind.UNIT, "b").spot();
    Optional<DirectoryTrees.Spot> a = thing(powers, SubjectKind.UNIT, "a").spot();
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
    assertThat(can(powers, "bo", "take-ownership", di)).isEqualTo("NO");
  }

  @Test
  void aGroupThatListsSomebodyOfADomainThatWasNotReadMayHaveAnybody() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("bo", 1002, "a", "D:");
    user("di", 1004, "a", "D:(A;;WO;;;" + sid(1101) + ")");
    String foreign = "cn=S-1-5-21-1-1-1-77,cn=ForeignSecurityPrincipals,dc=x";
    entry(foreign, "D:", "objectClass: foreignSecurityPrincipal");
    group("all", 1101, "D:", foreign);
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "bo", "take-ownership", di)).isEqualTo("UNDECIDED");
  }

  /** A domain controller looks everyone signed in up for built-in groups only. */
  @ParameterizedTest
  @CsvSource({
    "S-1-5-21-7-8-9-1101, built-in, NO, 0",
    "S-1-5-32-545, built-in, YES, 2",
    "S-1-5-21-7-8-9-1101, all, YES, 2"
  })
  void everyoneSignedInCountsAsAMemberOfBuiltInGroupsUnlessSaidOtherwise(
      String group, String setting, String answer, int many) throws IOException {
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif, signed-in-members: " + setting + "}}\n");
    domain("D:");
    unit("a", "D:");
    user("bo", 1002, "a", "D:");
    user("di", 1004, "a", "D:(A;;WO;;;" + group + ")");
    entry(
        "cn=all,ou=a,dc=x",
        "D:",
        "objectClass: group",
        "sAMAccountName: all",
        "groupType: -2147483644",
        "objectSid: " + group,
        "objectGUID: 00000000-0000-0000-0000-000000001101",
        "member: cn=S-1-5-11,cn=ForeignSecurityPrincipals,dc=x");
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "bo", "take-ownership", di)).isEqualTo(answer);
    AdminAction take = powers.roles().administration().action("take-ownership").orElseThrow();
    assertThat(powers.who(take, di, Optional.empty()).yes().cardinality()).isEqualTo(many);
  }

  @Test
  void aTrusteeOfADomainThatWasNotReadMayBeAnybody() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("bo", 1002, "a", "D:");
    user("di", 1004, "a", "D:(A;;WO;;;S-1-5-21-1-1-1-77)(A;;WD;;;" + sid(4711) + ")");
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "bo", "take-ownership", di)).isEqualTo("UNDECIDED");
    assertThat(can(powers, "bo", "change-permissions", di)).isEqualTo("NO");
  }

  @Test
  void anAccountWhoseIdWasNotReadMayDoAnythingThere() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("di", 1004, "a", "D:(A;;WO;;;" + sid(1002) + ")");
    entry(
        "cn=bo,ou=a,dc=x",
        "D:",
        "objectClass: user",
        "sAMAccountName: bo",
        "objectGUID: 00000000-0000-0000-0000-000000001002");
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "bo", "take-ownership", di)).isEqualTo("UNDECIDED");
  }

  @Test
  void computersHoldWhatTheyHold() throws IOException {
    domain("D:");
    unit("a", "D:");
    entry(
        "cn=pc,ou=a,dc=x",
        "D:",
        "objectClass: user",
        "objectClass: computer",
        "sAMAccountName: pc$",
        "objectSid: " + sid(1300),
        "objectGUID: 00000000-0000-0000-0000-000000001300");
    group("hosts", 1101, "D:", "cn=pc,ou=a,dc=x");
    user("di", 1004, "a", "D:(A;;WO;;;" + sid(1101) + ")");
    Powers powers = powers();
    Powers.Thing di = thing(powers, SubjectKind.ACCOUNT, "di");
    assertThat(can(powers, "pc$", "take-ownership", di)).isEqualTo("YES");
    AdminAction take = powers.roles().administration().action("take-ownership").orElseThrow();
    assertThat(powers.who(take, di, Optional.empty()).yes().cardinality()).isEqualTo(1);
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
    DirectoryTree tree = powers.trees().all().get(0);
    Map<Verdict, Integer> counted = new TreeMap<>();
    for (AdminAction action : powers.roles().administration().actions()) {
      for (int object = 0; object < tree.size(); object++) {
        DirectoryTrees.Spot spot = new DirectoryTrees.Spot(tree, object);
        Crowd all = powers.lists().byList(action, spot);
        for (int account = 0; account < powers.model().facts().accounts(); account++) {
          Verdict one = powers.lists().byList(account, action, spot);
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
                      + powers.lists().sids(account)
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
    DirectoryTree tree = powers.trees().all().get(0);
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
}
