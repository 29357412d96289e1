package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The table of who is who, as people and time leave it; and what is carried by it. */
class CrosswalkTest {
  @TempDir Path folder;
  private Path demo;
  private Path table;

  @BeforeEach
  void write() {
    demo = folder.resolve("demo");
    DemoFiles.write(demo);
    table = demo.resolve("crosswalks/fernhollow-alderfen.csv");
  }

  private SoberTest.Said sober(String... words) {
    List<String> all = new ArrayList<>(List.of(words));
    all.addAll(List.of("-w", demo.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  private void edit(Path file, UnaryOperator<String> how) throws IOException {
    String text = Files.readString(file);
    String changed = how.apply(text);
    assertThat(changed).isNotEqualTo(text);
    Files.writeString(file, changed);
  }

  private void accept(String... which) {
    List<String> words = new ArrayList<>(List.of("match"));
    for (String one : which) {
      words.addAll(List.of("--accept", one));
    }
    words.addAll(List.of("--as", "Ilse Brandt"));
    SoberTest.Said said = sober(words.toArray(String[]::new));
    assertThat(said.code()).as(said.err()).isZero();
  }

  private String row(String from) throws IOException {
    return Files.readAllLines(table).stream()
        .filter(line -> line.startsWith("account," + from + ","))
        .findFirst()
        .orElse("");
  }

  @Test
  void whatWasDecidedAndSaidStaysWhenItIsMatchedAgain() throws Exception {
    accept("rholm=rhea.jarrow");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(table)))
        .isEqualTo("rw-------");
    edit(
        table,
        text -> text.replaceAll("(?m)^(account,maxh,.*?,),,,,(\"mobile)", "$1,,,ask him,$2"));
    assertThat(sober("match", "--write").code()).isZero();
    assertThat(row("rholm")).contains("yes,\"Ilse Brandt\",");
    assertThat(row("maxh")).contains("ask him");
  }

  @Test
  void anotherNameInTheTableIsSomebodyElse() throws Exception {
    assertThat(sober("match", "--write").code()).isZero();
    edit(
        table,
        text ->
            text.replaceFirst(
                "account,jrush,\"Jette Rush\",,([^\n]*?),,,,,,(\"bcc7)",
                "account,jrush,\"Jette Rush\",lotte.vale,$1,yes,Ilse,2026-11-30,,,$2"));
    assertThat(row("jrush")).contains("lotte.vale").contains(",yes,");
    SoberTest.Said said = sober("match");
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out()).contains("lotte.vale").contains("1 accepted");
    assertThat(sober("show", "account", "lotte.vale").out()).contains("The same person");
  }

  @Test
  void aWorkbookIsReadAndWrittenToo() throws Exception {
    edit(
        demo.resolve("compass.yaml"),
        text -> text.replace("    strip: [fernhollow-]", "    file: who.xlsx"));
    accept("certain");
    assertThat(Files.readAllBytes(demo.resolve("who.xlsx"))).startsWith('P', 'K');
    assertThat(sober("match").out()).contains("4 accepted");
  }

  @Test
  void whoIsRenamedIsTheSameAndWhoIsGoneOrChangedIsTold() throws Exception {
    accept("certain", "rholm=rhea.jarrow");
    Path export = demo.resolve("directory/alderfen.ldif");
    edit(export, text -> text.replace("uid=bea.garnet,", "uid=bea.holm,"));
    edit(export, text -> text.replace("uid: bea.garnet", "uid: bea.holm"));
    edit(export, text -> text.replace("mobile: +351 555 0107\n", ""));
    int from = Files.readString(export).indexOf("dn: uid=zeb.sedge,");
    edit(export, t -> t.substring(0, from) + t.substring(t.indexOf("\n\n", from) + 2));
    edit(demo.resolve("persons.csv"), text -> text.replaceAll("(?m)^zeb.sedge.*\n", ""));
    SoberTest.Said said = sober("match");
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out().replaceAll("\\s+", " "))
        .contains("bgarnet = bea.garnet: one of them is called bea.holm now, by its id")
        .contains("emoor = zeb.sedge: zeb.sedge is not there any more")
        .contains("rholm = rhea.jarrow: they agreed on mobile=+3515550107 when it was accepted,")
        .contains("and now on nothing; look at it again");
    SoberTest.Said carried = sober("carry");
    assertThat(carried.out()).contains("bea.holm");
    assertThat(carried.err()).contains("look at it again").contains("zeb.sedge is not there");
    assertThat(row("emoor")).as("nothing of the hand's work is lost").contains("yes");
    assertThat(sober("match", "--write").code()).isZero();
    assertThat(Files.readString(table)).containsPattern("account,emoor,.*zeb.sedge,.*yes");
  }

  @Test
  void twoLinesForOneAccountAndACircleStopIt() throws Exception {
    Files.createDirectories(table.getParent());
    Files.writeString(table, "from,to,decision\nibrandt,ilse.brandt,yes\nibrandt,bea.garnet,yes\n");
    SoberTest.Said twice = sober("carry");
    assertThat(twice.code()).isEqualTo(3);
    assertThat(twice.err())
        .contains("crosswalks/fernhollow-alderfen.csv:3")
        .contains("said to be \"ilse.brandt\" in a line before");
    edit(
        demo.resolve("compass.yaml"),
        text ->
            text.replace(
                "  - from: fernhollow\n    to: alderfen\n",
                "  - from: fernhollow\n    to: alderfen\n    file: a.csv\n"));
    Files.writeString(
        demo.resolve("a.csv"),
        "from,to,decision\nnobody,ilse.brandt,yes\nibrandt,ilse.brand,yes\nrholm,,yes\n"
            + "hpine,petra.vance,perhaps\n");
    SoberTest.Said wrong = sober("match");
    assertThat(wrong.code()).isEqualTo(3);
    assertThat(wrong.err())
        .contains("a.csv:2: from: there is no account \"nobody\" in fernhollow")
        .contains("a.csv:3: to: there is no account \"ilse.brand\" in alderfen")
        .contains("did you mean ilse.brandt?")
        .contains("a.csv:4: yes, and nobody is named in the column to")
        .contains("a.csv:5: \"perhaps\" is no decision");
  }

  @Test
  void aTableInAnotherEncodingIsTold() throws Exception {
    Files.createDirectories(table.getParent());
    Files.write(
        table, "from,to,decision\nÅse,ilse.brandt,yes\n".getBytes(StandardCharsets.ISO_8859_1));
    SoberTest.Said said = sober("match");
    assertThat(said.code()).isEqualTo(3);
    assertThat(said.err()).contains("UTF-8");
  }

  @Test
  void whatOneSideLacksTellsNothing() {
    SoberTest.Said said = sober("match", "--by", "pager", "--by", "name");
    assertThat(said.code()).isZero();
    assertThat(said.out().replaceAll("\\s+", " "))
        .contains(
            "Nothing to compare, since no account of that side has a value that was read: pager"
                + " (fernhollow).");
  }

  @Test
  void directoriesThatAreNotThereAreToldWithTheNearest() {
    SoberTest.Said said = sober("match", "fernholow", "alderfen");
    assertThat(said.code()).isEqualTo(2);
    assertThat(said.err()).contains("did you mean fernhollow?");
    assertThat(sober("match", "--accept", "certain").err()).contains("expected --as");
    assertThat(sober("carry").err()).contains("nobody has an accepted counterpart yet");
    accept("certain");
    assertThat(sober("carry", "--how", "insted").err()).contains("did you mean instead?");
  }

  @Test
  void twoThatTheWorkspaceDoesNotNameAreMatchedByWhatIsUsual() {
    SoberTest.Said said = sober("match", "desks", "alderfen", "--write");
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out()).contains("accounts of desks matched with alderfen: ");
    assertThat(said.err()).contains("crosswalks: [{from: desks, to: alderfen}]");
    assertThat(demo.resolve("crosswalks/desks-alderfen.csv")).exists();
  }

  @Test
  void whatIsStillToBeMadeIsWrittenForTheDirectory() throws Exception {
    accept("certain", "mhollis=max.hollis");
    Path made = folder.resolve("new.ldif");
    SoberTest.Said said = sober("match", "--make", made.toString());
    assertThat(said.err())
        .contains("nils.farrow is taken there, so nils.farrow2 is proposed")
        .contains("Hollis, Max (maxh) is left out");
    assertThat(Files.readString(made))
        .contains("dn: uid=cora.whitlow,ou=Volunteers,ou=people,dc=alderfen,dc=example")
        .contains("changetype: add")
        .contains("member: uid=zeb.sedge,")
        .doesNotContain("tam.umber");
  }

  /** Windows and nodes go with an assignment; what is powerful is left for a decision. */
  @Test
  void onlyAPartAndWithoutGroups() {
    accept("certain");
    SoberTest.Said part = sober("carry", "--in", "fernstore:/srv/fernhollow/treasury");
    assertThat(part.code()).as(part.err()).isZero();
    assertThat(part.out()).doesNotContain("Both sides are in step");
    SoberTest.Said csv = sober("carry", "--in", "fernstore:/srv/fernhollow/treasury", "-f", "csv");
    assertThat(csv.out().lines().filter(line -> line.contains("Member ledger")))
        .as("the ledger is left alone")
        .allMatch(line -> !line.contains(",yes,no,yes,"));
    SoberTest.Said left = sober("carry", "--leave-groups");
    assertThat(left.out()).contains("less");
  }
}
