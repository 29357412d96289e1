package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.sobercompass.cli.SoberTest.sober;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A copy of the demo in which much happened, compared with the demo. */
class CompareSurveysTest {
  private static final String NEW =
      """

      dn: uid=bea.fern,ou=Head Office,ou=people,dc=alderfen,dc=example
      objectClass: inetOrgPerson
      uid: bea.fern
      cn: Bea Fern
      sn: Fern
      displayName: Bea Fern
      employeeType: staff
      entryUUID: 8890c906-4f4b-5395-a936-94999dce4242

      dn: cn=permit-helpers,ou=groups,dc=alderfen,dc=example
      objectClass: groupOfNames
      cn: permit-helpers
      entryUUID: 8890c906-4f4b-5395-a936-94999dce4243
      member: uid=quin.jarrow,ou=Herbarium,ou=people,dc=alderfen,dc=example

      """;

  @TempDir Path before;
  @TempDir Path now;

  @BeforeEach
  void write() throws IOException {
    DemoFiles.write(before);
    DemoFiles.write(now);
    edit(
        "directory/alderfen.ldif",
        "cn: orders-approvers\n",
        "cn: orders-approvers\nmodifiersName: uid=maren.holt,ou=Head Office,ou=people,dc=alderfen,"
            + "dc=example\nmember: cn=staff-office,ou=groups,dc=alderfen,dc=example\n");
    edit("directory/alderfen.ldif", "uid=pia.oakes,ou=Seed Vault", "uid=pia.oakes,ou=Herbarium");
    edit("directory/alderfen.ldif", "displayName: Wim Marsh\n", "displayName: Wim Marshal\n");
    edit("directory/alderfen.ldif", "(?s)dn: uid=sol.wick.*?\n\n", "");
    edit("directory/alderfen.ldif", "member: uid=sol.wick,[^\n]*\n", "");
    Path ldif = now.resolve("directory/alderfen.ldif");
    Files.writeString(ldif, Files.readString(ldif) + NEW);
    edit(
        "assignments/permits.actual.csv",
        "viewer,group,contractors.*\n",
        "clerk,group,permit-helpers,trust,yes,,,Maren Holt,help\n");
    edit(
        "applications/orders.yaml",
        "orders: raise, suppliers: view",
        "orders: raise, suppliers: raise");
    edit(
        "files/fernstore.getfacl",
        "group:treasurers:r-x\nmask::r-x",
        "group:treasurers:r-x\nuser:hpine:rwx\nmask::rwx");
  }

  private void edit(String file, String what, String with) throws IOException {
    Path path = now.resolve(file);
    String text = Files.readString(path);
    String edited = text.replaceAll(what, with);
    assertThat(edited).as(file + " has " + what).isNotEqualTo(text);
    Files.writeString(path, edited);
  }

  private List<String> csv(Path workspace, Path from, String... more) {
    List<String> arguments =
        new java.util.ArrayList<>(
            List.of("compare", "surveys", from.toString(), "-f", "csv", "-w", workspace + ""));
    arguments.addAll(List.of(more));
    return sober(arguments.toArray(String[]::new)).out().lines().toList();
  }

  private static long count(List<String> rows, String pattern) {
    return rows.stream().filter(row -> row.matches(pattern)).count();
  }

  @Test
  void eachChangeIsToldWithWhatItDid() {
    SoberTest.Said said = sober("compare", "surveys", before.toString(), "-w", now.toString());
    assertThat(said.code()).isEqualTo(Exit.NO);
    List<String> rows = csv(now, before);
    // Thirteen are of the office; two were approvers, and one is frozen.
    assertThat(
            count(
                rows,
                "gained,\"staff-office was put into orders-approvers\",\"Maren Holt"
                    + " [(]maren.holt[)]\",.*orders,payments:sign,.*"))
        .isEqualTo(10);
    assertThat(count(rows, "lost,\"The role Viewer of Permits was withdrawn from contract.*"))
        .isEqualTo(10);
    assertThat(count(rows, "gained,\"The role Clerk of Orders was made to allow raise in .*"))
        .isEqualTo(5);
    assertThat(count(rows, "gained,\"permit-helpers is new\".*Quin Jarrow.*permits,.*"))
        .isEqualTo(3);
    // Whom the mask let through besides, and the one whom the entry is for.
    assertThat(count(rows, "gained,\"The entry read, write, execute for hpine was added .*"))
        .isEqualTo(16);
    assertThat(count(rows, "lost,\"Sol Wick [(]sol.wick[)] is gone\".*")).isPositive();
    assertThat(count(rows, "gained,\"Bea Fern [(]bea.fern[)] is new\".*")).isPositive();
    assertThat(count(rows, "moved,.*is called.*|renamed,.*was moved.*")).isZero();
    assertThat(count(rows, "moved,.*pia.oakes.*was moved from ou=Seed Vault,.*")).isEqualTo(1);
    assertThat(count(rows, "renamed,.*Wim Marshal .*was called Wim Marsh [(]wim.marsh[)].*"))
        .isEqualTo(1);
    assertThat(count(rows, "\"finding began\",.*separation-of-duties.*")).isPositive();
    assertThat(count(rows, "gone,.*wim.marsh.*|new,.*pia.oakes.*")).isZero();
  }

  @Test
  void theOtherWayRoundTheSameIsLost() {
    List<String> there = csv(now, before);
    List<String> back = csv(before, now);
    for (String what : List.of("payments:sign", "suppliers:raise", "permits:draft")) {
      assertThat(count(back, "lost,.*" + what + ".*"))
          .as(what)
          .isEqualTo(count(there, "gained,.*" + what + ".*"))
          .isPositive();
    }
    assertThat(count(back, "\"finding ended\",.*")).isEqualTo(count(there, "\"finding began\",.*"));
  }

  @Test
  void whatIsRoutineIsNotShownAndWhatIsNewStaysNewsUnlessItIs() throws IOException {
    edit(
        "compass.yaml",
        "\nfindings:\n",
        "\nfindings:\n  routine:\n    groups: [orders-approvers]\n    applications: [permits]\n"
            + "    accounts: [new, gone, renamed, moved]\n");
    List<String> rows = csv(now, before);
    assertThat(
            count(rows, ".*was put into orders-approvers.*|(new|gone|moved|renamed),.*account.*"))
        .isZero();
    assertThat(count(rows, ".*The role Viewer of Permits.*")).isZero();
    assertThat(count(rows, ".*The role Clerk of Orders.*")).isPositive();
    assertThat(count(rows, "new,.*group.*permit-helpers.*|new,.*is a new group.*")).isEqualTo(1);
    assertThat(count(rows, "\"finding began\",.*")).isPositive();
    SoberTest.Said said = sober("compare", "surveys", before.toString(), "-w", now.toString());
    assertThat(said.out()).contains("routine and not shown; --all shows them.");
    assertThat(count(csv(now, before, "--all"), ".*was put into orders-approvers.*")).isPositive();
  }

  @Test
  void aSurveyWithWhatIsReadNowAndAllSurveysInNumbers() throws IOException {
    assertThat(sober("compare", "surveys", "-w", now.toString()).err())
        .contains("there is no survey in ");
    assertThat(sober("survey", "-w", now.toString()).code()).isZero();
    SoberTest.Said same = sober("compare", "surveys", "-w", now.toString());
    assertThat(same.out()).contains(": nothing differs.");
    assertThat(same.code()).isZero();
    edit("assignments/doors.csv", "holder,group,doors-night.*\n", "");
    SoberTest.Said other = sober("compare", "surveys", "-w", now.toString());
    assertThat(other.out()).contains("The role Holder of Doors was withdrawn from doors-night");
    assertThat(other.code()).isEqualTo(Exit.NO);
    List<String> timeline =
        sober("compare", "timeline", "-f", "csv", "-w", now.toString()).out().lines().toList();
    assertThat(timeline).hasSize(3);
    assertThat(timeline.get(2)).startsWith("now,2026-11-20,114,1,94,");
  }

  @Test
  void whatAnAmendmentDidIsToldAsSuch() throws IOException {
    Path amendment = before.resolve("made");
    sober(
        "amend",
        "proposals/leave-approvers.ldif",
        "--out",
        amendment.toString(),
        "-w",
        before.toString());
    Path copy = Files.createDirectory(before.resolve("copy"));
    DemoFiles.write(copy);
    Path ldif = copy.resolve("directory/alderfen.ldif");
    String text = Files.readString(ldif);
    String left =
        text.replaceFirst("(cn: orders-approvers\n(?s:.*?))member: uid=ilse.brandt[^\n]*\n", "$1");
    Files.writeString(ldif, left);
    List<String> rows = csv(copy, before, "--amendment", amendment.toString());
    assertThat(count(rows, "lost,\"Ilse Brandt .* was taken out of orders-approvers\",.*,made,.*"))
        .isPositive();
    assertThat(count(csv(copy, before), "lost,\"Ilse Brandt .*,made,.*")).isZero();
  }
}
