package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Every kind of bad input is told with its place, what was expected, and the nearest right thing.
 */
class BadInputTest {
  private static final String LDIF =
      "dn: dc=x\n"
          + "objectClass: domain\n"
          + "dc: x\n\n"
          + "dn: uid=ann,dc=x\n"
          + "objectClass: inetOrgPerson\n"
          + "uid: ann\n\n"
          + "dn: cn=crew,dc=x\n"
          + "objectClass: groupOfNames\n"
          + "cn: crew\n"
          + "member: uid=ann,dc=x\n\n";
  private static final String APP =
      "id: app\nsight:\n  directory: main\nareas: [records]\nlevels: [view, edit]\n"
          + "nodes:\n  top:\n    north:\nroles:\n  reader:\n    allows: {records: view}\n"
          + "  keeper:\n    includes: [reader]\n    allows: {records: edit}\n"
          + "assignments:\n  actual: app.csv\n";
  private static final String CSV =
      "role,kind,subject,node,from,until\nkeeper,group,crew,north,,\n";
  private static final String MAIN =
      "directories:\n  main:\n    file: d.ldif\napplications: [app.yaml]\n";

  @TempDir Path root;

  @BeforeEach
  void good() throws IOException {
    write("compass.yaml", MAIN);
    write("d.ldif", LDIF);
    write("app.yaml", APP);
    write("app.csv", CSV);
  }

  private void write(String name, String text) throws IOException {
    Files.writeString(root.resolve(name), text);
  }

  private String refused() {
    BadInputException bad =
        catchThrowableOfType(BadInputException.class, () -> Workspace.open(root));
    assertThat(bad).as("the workspace was read").isNotNull();
    return bad.getMessage();
  }

  @Test
  void theGoodWorkspaceIsRead() {
    assertThat(Workspace.open(root).facts().accounts()).isEqualTo(1);
    assertThat(Workspace.open(root).problems()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "allows: {records: edit}|allows: {recods: edit}|app.yaml:13|did you mean records?",
        "allows: {records: edit}|allows: {records: edti}|app.yaml:13|did you mean edit?",
        "includes: [reader]|includes: [raeder]|app.yaml:13|did you mean reader?",
        "includes: [reader]|includes: [keeper]|keeper → keeper|no circle",
        "allows: {records: view}|denies: {records: view}|does not combine by deny|deny-overrides",
        "levels: [view, edit]|levels: [view, edit, view]|names something twice|each once",
        "directory: main|directory: man|which is not there|did you mean main?",
        "directory: main|'directory: main\n"
            + "  nesting: some'|no depth of nesting|full, none or a number",
        "directory: main|'directory: main\n"
            + "  account-filter: (uid=a'|is wrong at its column|closing parenthesis",
        "directory: main|'directory: main\n  account-bases: nowhere'|is no DN|a DN like",
        "directory: main|'directory: main\n"
            + "  acount-filter: (uid=a)'|there is no setting|did you mean account-filter?",
        "north:|top:|the node top stands twice|each node once",
        "levels: [view, edit]|levels: &a [view, edit]|anchors and aliases|app.yaml:5",
        "levels: [view, edit]|levels: [view, edit|this is not YAML|app.yaml",
        "areas: [records]|areas: ['rec:ords']|is no id|letters, digits",
        "id: app|'id: app\ncombining: most'|no way of combining|union, deny-overrides",
        "id: app|'id: app\nsign-in: none'|asks for no sign-in|everyone: and a role"
      })
  void anApplicationFileIsToldByPlaceAndNearest(
      String good, String bad, String says, String expects) throws IOException {
    assertThat(APP).contains(good);
    write("app.yaml", APP.replaceFirst(java.util.regex.Pattern.quote(good), bad));
    assertThat(refused()).contains(says).contains(expects);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "keper,group,crew,north,,|did you mean keeper?",
        "keeper,grup,crew,north,,|did you mean group?",
        "keeper,group,crew,nort,,|did you mean north?",
        "keeper,group,crew,north,2026-02-30,|is no date",
        "keeper,group,crew,north,2026-03-01,2026-02-01|it ends before it begins",
        "keeper,group,crew,north,,,,,,|the row has",
        "keeper,group,crew,north,,|the same assignment stands twice",
        "keeper,implicit,everybody,north,,|no implicit group",
        "keeper,group,,north,,|there is no subject"
      })
  void anAssignmentIsToldByLineAndNearest(String row, String says) throws IOException {
    write("app.csv", CSV + row + "\n");
    assertThat(refused()).contains("app.csv:3").contains(says);
  }

  @Test
  void aMissingSubjectIsKeptAndToldWithTheNearest() throws IOException {
    write("app.csv", CSV + "keeper,account,anna,north,,\n");
    Workspace workspace = Workspace.open(root);
    assertThat(workspace.problems())
        .singleElement()
        .asString()
        .contains("app.csv:3")
        .contains("no account \"anna\"")
        .contains("did you mean ann?");
    assertThat(workspace.systems().get(0).grants(workspace.systems().get(0).usualBasis()))
        .hasSize(2);
  }

  @Test
  void allProblemsOfAllFilesComeInOneGo() throws IOException {
    write("app.csv", CSV + "keper,group,crew,nort,,\nx,group,crew,north,,\n");
    assertThat(refused()).startsWith("3 problems").contains("app.csv:3").contains("app.csv:4");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "jpegPhoto:< file:///etc/hostname\n",
        "jpegPhoto:\n < file:///etc/hostname\n",
        "jpegPhoto\n :\n <file:///etc/hostname\n",
        "description: a\rjpegPhoto:< file:///etc/hostname\n"
      })
  void aValueThatNamesALocalFileIsNeverOpened(String line) throws IOException {
    write("d.ldif", LDIF + "dn: uid=eve,dc=x\nobjectClass: inetOrgPerson\nuid: eve\n" + line);
    assertThat(refused()).contains("names a file or address").contains("d.ldif:");
  }

  @Test
  void aColonInsideAValueIsNoAddress() throws IOException {
    write(
        "d.ldif",
        LDIF
            + "\n"
            + "dn: uid=eve,dc=x\n"
            + "objectClass: inetOrgPerson\n"
            + "uid: eve\n"
            + "description: a:< b\n"
            + "  :< c\n");
    assertThat(Workspace.open(root).facts().accounts()).isEqualTo(2);
  }

  @Test
  void malformedLinesAndBrokenBase64AreToldWithTheirLine() throws IOException {
    write(
        "d.ldif",
        LDIF + "\ndn: uid=eve,dc=x\nobjectClass: inetOrgPerson\nuid:: ***\n\nthis is not ldif\n");
    assertThat(refused()).contains("2 problems").contains("d.ldif:");
  }

  @Test
  void changesThatAreNoAddAreRefused() throws IOException {
    write("d.ldif", LDIF + "\ndn: uid=ann,dc=x\nchangetype: delete\n");
    assertThat(refused()).contains("uid=ann,dc=x").contains("changetype: add");
  }

  @Test
  void theSameEntryTwiceIsRefused() throws IOException {
    write("d.ldif", LDIF + "\ndn: UID=Ann , dc=x\nobjectClass: inetOrgPerson\nuid: ann\n");
    assertThat(refused()).contains("stands twice");
  }

  @Test
  void aWrongEncodingIsToldWithItsLine() throws IOException {
    byte[] latin = (LDIF + "description: caf\u00e9\n").getBytes(StandardCharsets.ISO_8859_1);
    Files.write(root.resolve("d.ldif"), latin);
    assertThat(refused()).contains("d.ldif:14").contains("not UTF-8");
    write("d.ldif", LDIF);
    Files.write(
        root.resolve("app.csv"),
        (CSV + "keeper,group,caf\u00e9,,,\n").getBytes(StandardCharsets.ISO_8859_1));
    assertThat(refused()).contains("app.csv:3").contains("not UTF-8");
  }

  @Test
  void aLineOfAHundredMegabytesIsCutAndTold() throws IOException {
    try (BufferedWriter out = Files.newBufferedWriter(root.resolve("d.ldif"))) {
      out.write(LDIF + "\ndn: uid=eve,dc=x\nobjectClass: inetOrgPerson\nuid: eve\ndescription: ");
      for (int i = 0; i < 100; i++) {
        out.write("x".repeat(1 << 20));
      }
      out.write("\n");
    }
    assertThat(refused()).contains("d.ldif:18").contains("too long");
  }

  @Test
  void missingFilesAreNamedAsTheUserNamesThem() throws IOException {
    Files.delete(root.resolve("app.csv"));
    assertThat(refused()).contains("app.csv: there is no such file");
    Files.delete(root.resolve("compass.yaml"));
    assertThat(refused()).contains("there is no workspace here").contains("sober begin");
  }

  @Test
  void aRuleIsToldByPlaceAndNearest() throws IOException {
    write(
        "compass.yaml",
        MAIN + "separation:\n  - {id: r, sides: [[app:records:edti], [ap:records:view]]}\n");
    assertThat(refused()).contains("did you mean records:edit?").contains("did you mean app?");
  }

  @Test
  void aChainOfTwoHundredThousandGroupsIsWalkedWithoutOverflow() throws IOException {
    int length = 200_000;
    try (BufferedWriter out = Files.newBufferedWriter(root.resolve("d.ldif"))) {
      out.write("dn: uid=ann\nobjectClass: inetOrgPerson\nuid: ann\n\n");
      for (int g = 0; g < length; g++) {
        out.write(
            "dn: cn=g"
                + g
                + "\nobjectClass: groupOfNames\ncn: g"
                + g
                + "\nmember: "
                + (g == 0 ? "uid=ann" : "cn=g" + (g - 1))
                + "\n\n");
      }
    }
    write("app.csv", "role,kind,subject,node\nkeeper,group,g" + (length - 1) + ",north\n");
    var model = Workspace.open(root).model();
    var view = model.systems().get(0);
    view.memberships().prepare();
    int right = view.rights().find("records:edit").orElseThrow();
    int north = view.resources().find("north").orElseThrow();
    var routes =
        new org.sobercompass.core.access.RouteFinder(
                model.asker(), org.sobercompass.core.system.Limits.USUAL)
            .find(view, 0, right, north);
    assertThat(routes.open())
        .singleElement()
        .satisfies(r -> assertThat(r.subjects()).hasSize(length + 1));
    assertThat(
            new org.sobercompass.core.access.Holders(model.asker()).find(view, right, north, false))
        .hasSize(1);
  }
}
