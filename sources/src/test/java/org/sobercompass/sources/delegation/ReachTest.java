package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.problem.Problem;

/** What lies within reach in small directories: by which steps, and what stops them. */
class ReachTest extends SmallDirectory {
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
