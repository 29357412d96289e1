package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** What is very deep, very long or very many ends, and is answered or told. */
@Timeout(120)
class DepthTest {
  private static final String APP =
      "id: app\nname: App\nsight: {directory: main}\nareas: [a, b]\nlevels: [view]\n"
          + "roles: {r: {allows: {a: view}}, s: {allows: {b: view}}}\n"
          + "assignments: {actual: a.csv}\n";

  @TempDir Path root;

  @BeforeEach
  void write() throws IOException {
    put("compass.yaml", "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\n");
    put("d.ldif", people(40));
    put("app.yaml", APP);
    put("a.csv", "role,kind,subject\nr,account,p1\ns,account,p1\n");
  }

  private void put(String name, String text) throws IOException {
    Files.writeString(root.resolve(name), text);
  }

  private static String lines(int count, java.util.function.IntFunction<String> line) {
    return IntStream.range(0, count).mapToObj(line).collect(Collectors.joining());
  }

  private static String people(int count) {
    return lines(
        count, i -> "dn: uid=p" + i + ",dc=x\nobjectClass: inetOrgPerson\nuid: p" + i + "\n\n");
  }

  private SoberTest.Said sober(String... typed) {
    var all = new java.util.ArrayList<>(java.util.List.of(typed));
    all.addAll(java.util.List.of("--workspace", root.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  @Test
  void scopesMadeOfScopesFiveThousandDeep() throws IOException {
    put(
        "compass.yaml",
        "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\nadmin: admin.yaml\n");
    put(
        "admin.yaml",
        "scopes:\n  s0: {include: [{account: p0}]}\n"
            + lines(4999, i -> "  s" + (i + 1) + ": {include: [{scope: s" + i + "}]}\n")
            + "roles:\n  helper: {actions: [set-password]}\nassignments: ad.csv\n");
    put("ad.csv", "role,kind,subject,scope\nhelper,account,p1,s4999\n");
    assertThat(sober("check").code()).isLessThan(2);
    assertThat(sober("findings").code()).isLessThan(2);
    assertThat(sober("can", "p1", "set-password", "--on", "p0").code()).isZero();
  }

  @Test
  void aThousandSeparationRulesOfFiftySides() throws IOException {
    put(
        "compass.yaml",
        "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\nseparation:\n"
            + lines(
                1000,
                r ->
                    "  - id: r"
                        + r
                        + "\n    at-least: 25\n    sides:\n"
                        + lines(50, s -> "      - [app:a" + (r + s) % 60 + ":view]\n")));
    put(
        "app.yaml",
        "id: app\nsight: {directory: main}\nlevels: [view]\nareas: ["
            + IntStream.range(0, 60).mapToObj(i -> "a" + i).collect(Collectors.joining(", "))
            + "]\nroles:\n"
            + lines(60, i -> "  r" + i + ": {allows: {a" + i + ": view}}\n")
            + "assignments: {actual: a.csv}\n");
    put("a.csv", "role,kind,subject\n" + lines(60, i -> "r" + i + ",account,p1\n"));
    assertThat(sober("findings").out()).startsWith("1061 findings: 1000 high");
  }

  @Test
  void oneRuleWithManySubjects() throws IOException {
    put(
        "compass.yaml",
        "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\n"
            + "separation: [{id: one, sides: [[app:a:view], [app:b:view]]}]\n");
    put("d.ldif", people(333));
    put(
        "a.csv",
        "role,kind,subject\n" + lines(333, i -> "r,account,p" + i + "\ns,account,p" + i + "\n"));
    String id = sober("findings", "--kind", "separation-of-duties", "-f", "csv").out();
    String first = id.lines().skip(1).findFirst().orElseThrow().split(",")[0].replace("\"", "");
    assertThat(sober("findings", "--detail", first).out()).contains("proved least");
  }

  @Test
  void aCircleOfTwentyThousandGroups() throws IOException {
    int groups = 20_000;
    put(
        "d.ldif",
        people(2)
            + lines(
                groups,
                i ->
                    "dn: cn=g"
                        + i
                        + ",dc=x\nobjectClass: groupOfNames\ncn: g"
                        + i
                        + "\nmember: cn=g"
                        + (i + 1) % groups
                        + ",dc=x\n"
                        + (i == 5 ? "member: uid=p1,dc=x\n" : "")
                        + "\n"));
    put("a.csv", "role,kind,subject\nr,group,g0\n");
    SoberTest.Said said = sober("findings", "--kind", "circular-nesting", "--detail", "1");
    assertThat(said.code()).isEqualTo(1);
    assertThat(said.out()).contains("best found").doesNotContain("proved least");
  }

  @Test
  void aRuleWithVeryManyWildcardsIsRefusedWithTheBound() throws IOException {
    put(
        "compass.yaml",
        "directories: {main: {file: d.ldif}}\napplications: [app.yaml]\n"
            + "groups: {big: {directory: main, members: \"(cn="
            + "*a".repeat(300_000)
            + ")\"}}\n");
    SoberTest.Said said = sober("check");
    assertThat(said.code()).isEqualTo(3);
    assertThat(said.err()).contains("at most 1000 pieces");
  }

  @Test
  void aNameOfAHundredThousandPartsIsRefusedWithTheBound() throws IOException {
    put(
        "d.ldif",
        people(2)
            + "dn: uid=deep,"
            + lines(100_000, i -> "ou=u" + i + ",")
            + "dc=x\nobjectClass: inetOrgPerson\nuid: deep\n\n");
    SoberTest.Said said = sober("check");
    assertThat(said.code()).isEqualTo(3);
    assertThat(said.err()).contains("100002 parts").contains("at most 1000");
  }

  @Test
  void aDisplayNameOfFourMegabytesIsShownInPart() throws IOException {
    put(
        "d.ldif",
        people(2)
            + "dn: uid=long,dc=x\nobjectClass: inetOrgPerson\nuid: long\ndisplayName: "
            + "x y".repeat(1_400_000)
            + "\n\n");
    put("a.csv", "role,kind,subject\nr,account,long\n");
    SoberTest.Said said = sober("show", "account", "long");
    assertThat(said.code()).isZero();
    assertThat(said.out()).contains("characters)").hasSizeLessThan(20_000);
  }

  @Test
  void aListLineWithAMegabyteOfSpaces() throws IOException {
    put(
        "app.yaml",
        "kind: posix-files\nid: store\nname: Store\nsight: {directory: main}\nlists: t.getfacl\n");
    put(
        "t.getfacl",
        "# file: /\n# owner: root\n# group: root\nuser::rwx"
            + " ".repeat(1_000_000)
            + "\ngroup::r-x\nother::r-x\n\n");
    assertThat(sober("check").code()).isLessThan(2);
  }
}
