package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What holds access data: no secret in it, its owner's alone, whole, nothing outside it opened. */
class KeptSafeTest {
  private static final String SECRET = "planted-secret";

  @TempDir Path folder;
  private Path root;

  @BeforeEach
  void write() throws IOException {
    root = folder.resolve("w");
    FullWorkspace.write(root);
  }

  private SoberTest.Said sober(String... typed) {
    List<String> all = new ArrayList<>(List.of(typed));
    all.addAll(List.of("--workspace", root.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  private void change(String file, String from, String to) throws IOException {
    Path path = root.resolve(file);
    String text = Files.readString(path);
    assertThat(text).contains(from);
    Files.writeString(path, text.replaceFirst(java.util.regex.Pattern.quote(from), to));
  }

  private Path survey() throws IOException {
    SoberTest.Said said = sober("survey");
    assertThat(said.code()).as(said.err()).isZero();
    try (var files = Files.list(root.resolve("surveys"))) {
      return files
          .filter(file -> file.toString().endsWith(".zip"))
          .max(Path::compareTo)
          .orElseThrow();
    }
  }

  private static List<String> texts(Path archive) throws IOException {
    List<String> all = new ArrayList<>();
    try (ZipFile zip = new ZipFile(archive.toFile())) {
      for (var entry : Collections.list(zip.entries())) {
        byte[] bytes = zip.getInputStream(entry).readAllBytes();
        all.add(entry.getName() + "\n" + new String(bytes, StandardCharsets.UTF_8));
      }
    }
    return all;
  }

  @Test
  void noSecretOfAnyKindIsInASurvey() throws IOException {
    String coded = Base64.getEncoder().encodeToString(SECRET.getBytes(StandardCharsets.UTF_8));
    change(
        "directory/alderfen.ldif",
        "objectClass: inetOrgPerson\n",
        "objectClass: inetOrgPerson\nuserPassword: "
            + SECRET
            + "\nUSERPASSWORD;x-a:: "
            + coded
            + "\nuserPass\n word: "
            + SECRET
            + "\nkrbPrincipalKey: planted-\n secret\n# old "
            + "userPassword: "
            + SECRET
            + "\n");
    change(
        "directory/desks.ldif",
        "objectClass: user\n",
        "objectClass: user\nunicodePwd:: " + coded + "\nms-Mcs-AdmPwd: " + SECRET + "\n");
    change(
        "directory/names.ldif", "cn: Open-Gate\n", "cn: Open-Gate\nuserPassword: " + SECRET + "\n");
    change("directory/gatehouse.txt", "$6$salt$hash", SECRET);
    change("directory/gatehouse.txt", "root:x:", "root:" + SECRET + ":");
    change(
        "directory/sharing.json",
        "\"active\": true",
        "\"active\": true, \"password\": \"" + SECRET + "\"");
    List<String> texts = texts(survey());
    assertThat(texts).noneMatch(text -> text.contains(SECRET) || text.contains(coded));
    assertThat(texts).noneMatch(text -> text.contains("planted-\n secret"));
    assertThat(texts).anyMatch(text -> text.contains("ilse.brandt"));
  }

  @Test
  void aSurveyAnswersAsTheWorkspaceItWasTakenOf() throws IOException {
    String before = sober("list", "holdings").out();
    String after = sober("list", "holdings", "--survey", survey().toString()).out();
    assertThat(after).isEqualTo(before);
  }

  @Test
  void whatIsWrittenIsItsOwnersAlone() throws IOException {
    sober("report", root.resolve("page.html").toString());
    sober(
        "findings",
        "--junit",
        root.resolve("j.xml").toString(),
        "--sarif",
        root.resolve("s.json").toString());
    survey();
    sober("findings", "--survey", survey().toString());
    Path begun = folder.resolve("begun/deep");
    SoberTest.sober("begin", begun.toString());
    for (String made : List.of("page.html", "j.xml", "s.json", "surveys", "surveys/.compass")) {
      mode(root.resolve(made));
    }
    try (var all = Files.walk(root.resolve("surveys"))) {
      all.forEach(KeptSafeTest::mode);
    }
    mode(begun);
    mode(begun.resolve("compass.yaml"));
  }

  private static void mode(Path path) {
    try {
      assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(path)))
          .as(path.toString())
          .endsWith("------");
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  @Test
  void aLinkStaysAndWhatItLeadsToIsReplaced() throws IOException {
    Path real = folder.resolve("real.html");
    Files.writeString(real, "old");
    Path link = Files.createSymbolicLink(folder.resolve("link.html"), real);
    assertThat(sober("report", link.toString()).code()).isZero();
    assertThat(link).isSymbolicLink();
    assertThat(Files.readString(real)).startsWith("<!DOCTYPE html>");
  }

  @Test
  void whatCannotBeWrittenIsToldAndEndsWithFour() throws IOException {
    Files.createDirectory(folder.resolve("there"));
    for (String place :
        List.of("/proc/x/p.html", folder.resolve("there").toString(), "/dev/full")) {
      SoberTest.Said said = sober("report", place);
      assertThat(said.code()).as(place).isEqualTo(4);
      assertThat(said.err()).contains(place).contains("cannot be written");
    }
    assertThat(sober("survey", "--out", folder.resolve("there").toString()).code()).isEqualTo(4);
  }

  @Test
  void surveysTakenAtOnceDoNotReplaceEachOther() throws Exception {
    var pool = Executors.newFixedThreadPool(4);
    List<Callable<Integer>> all = Collections.nCopies(6, () -> sober("survey").code());
    for (var code : pool.invokeAll(all)) {
      assertThat(code.get()).isZero();
    }
    pool.shutdown();
    try (var files = Files.list(root.resolve("surveys"))) {
      assertThat(files.filter(file -> file.toString().endsWith(".survey.zip"))).hasSize(6);
    }
  }

  @Test
  void oneSurveyIsAnsweredBySeveralAtOnce() throws Exception {
    Path survey = survey();
    var pool = Executors.newFixedThreadPool(4);
    List<Callable<String>> all =
        Collections.nCopies(6, () -> sober("expect", "--survey", survey.toString()).out());
    String first = null;
    for (var out : pool.invokeAll(all)) {
      first = first == null ? out.get() : first;
      assertThat(out.get()).isEqualTo(first).isNotEmpty();
    }
    pool.shutdown();
  }

  @Test
  void aCopyOfASurveyThatWasChangedIsNotAnsweredFrom() throws IOException {
    Path survey = survey();
    String before = sober("list", "memberships", "--survey", survey.toString()).out();
    try (var files = Files.walk(root.resolve("surveys/.compass"))) {
      Path entries = files.filter(f -> f.endsWith("parts/alderfen.ldif")).findFirst().orElseThrow();
      Files.writeString(
          entries,
          Files.readString(entries)
              + "dn: uid=stranger,ou=people,dc=alderfen,dc=example\nobjectClass: inetOrgPerson\n"
              + "uid: stranger\n\n");
    }
    assertThat(sober("list", "memberships", "--survey", survey.toString()).out()).isEqualTo(before);
  }

  @Test
  void aMappingOfASurveyOpensNoFileOutsideIt() throws IOException {
    Path outside = folder.resolve("outside.csv");
    Files.writeString(outside, "role,kind,subject\nr,account,top-secret-text\n");
    for (String name : List.of(outside.toString(), "../../../../../../" + outside)) {
      Path archive = folder.resolve("evil.survey.zip");
      try (var writer = new EvilSurvey(survey(), archive)) {
        writer.replace("workspace/applications/rounds.yaml", "assignments/rounds.csv", name);
      }
      SoberTest.Said said = sober("findings", "--survey", archive.toString());
      assertThat(said.code()).as(said.err()).isEqualTo(3);
      assertThat(said.err()).contains("outside the survey").doesNotContain("top-secret-text");
    }
  }

  @Test
  void aSchemaThatNamesAFileDoesNotOpenIt() throws IOException {
    Path outside = folder.resolve("outside.txt");
    Files.writeString(outside, "top-secret-text");
    Path schema = root.resolve("directory/schema.ldif");
    Files.writeString(
        schema,
        Files.readString(schema).stripTrailing() + "\ndescription:< file://" + outside + "\n\n");
    SoberTest.Said said = sober("check");
    assertThat(said.code()).isEqualTo(3);
    assertThat(said.err()).contains("names a file or address").doesNotContain("top-secret-text");
  }

  @Test
  void anAddressWithAPasswordIsRefusedAndNotRepeated() throws IOException {
    for (String kind : List.of("standard", "scim")) {
      String scheme = kind.equals("scim") ? "https" : "ldaps";
      FullWorkspace.write(root);
      change(
          "compass.yaml",
          "directories:\n",
          "directories:\n  far: {kind: "
              + kind
              + ", address: \""
              + scheme
              + "://me:"
              + SECRET
              + "@host.example/x\"}\n");
      for (String command : List.of("check", "survey")) {
        SoberTest.Said said = sober(command);
        assertThat(said.code()).isEqualTo(3);
        assertThat(said.out() + said.err()).contains("do not belong").doesNotContain(SECRET);
      }
    }
    SoberTest.Said said = SoberTest.sober("probe", "ldaps://me:" + SECRET + "@host.example");
    assertThat(said.code()).isEqualTo(2);
    assertThat(said.err()).doesNotContain(SECRET);
  }

  @Test
  void nothingThatATerminalActsOnIsPrinted() throws IOException {
    String nasty = "e\u001b[31mvil\u202egnp\u009b\u200f";
    String coded = Base64.getEncoder().encodeToString(nasty.getBytes(StandardCharsets.UTF_8));
    change("directory/alderfen.ldif", "cn: Ilse Brandt\n", "cn:: " + coded + "\n");
    String raw =
        ".*[\\x00-\\x08\\x0b\\x0c\\x0e-\\x1f\\x7f\\x80-\\x9f\u200e\u200f\u202a-\u202e\u2066-\u2069].*";
    for (String format : List.of("table", "csv", "json", "jsonl")) {
      for (List<String> typed :
          List.of(
              List.of("findings"),
              List.of("show", "account", "ilse.brandt"),
              List.of("list", "memberships"),
              List.of("list", "holdings"))) {
        if (typed.get(0).equals("list") && format.startsWith("table")) {
          continue;
        }
        List<String> command = new ArrayList<>(typed);
        command.addAll(List.of("--format", format));
        SoberTest.Said said = sober(command.toArray(String[]::new));
        assertThat((said.out() + said.err()).lines().filter(line -> line.matches(raw)))
            .as(format + " " + typed)
            .isEmpty();
      }
    }
  }

  @Test
  void aFindingIsAcceptedByItsIdAndStaysAcceptedWhateverIsFiltered() throws IOException {
    String before = sober("findings", "--weight", "high", "--format", "csv").out();
    String id = before.lines().skip(1).findFirst().orElseThrow().split(",")[0].replace("\"", "");
    assertThat(sober("findings", "--format", "csv").out()).contains(id);
    Path file = root.resolve("waivers.yaml");
    String written = Files.readString(file);
    SoberTest.Said said =
        sober("waive", id, "--by", "Maren: Holt", "--reason", "\"paper\"", "--until", "2027-01-31");
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out()).startsWith("Accepted until 2027-01-31");
    assertThat(Files.readString(file)).startsWith(written);
    assertThat(sober("findings").out()).contains("2 accepted");
    assertThat(
            sober("waive", "zzzzzz", "--by", "a", "--reason", "b", "--until", "2027-01-31").code())
        .isEqualTo(2);
    assertThat(sober("waive", id, "--by", "a", "--reason", "b", "--until", "soon").code())
        .isEqualTo(2);
  }

  @Test
  void thePageRunsNoScriptButItsOwn() throws Exception {
    Path page = folder.resolve("p.html");
    sober("report", page.toString());
    String html = Files.readString(page);
    String script = html.substring(html.indexOf("<script>") + 8, html.indexOf("</script>"));
    byte[] digest =
        java.security.MessageDigest.getInstance("SHA-256")
            .digest(script.getBytes(StandardCharsets.UTF_8));
    assertThat(html)
        .contains("script-src 'sha256-" + Base64.getEncoder().encodeToString(digest) + "'")
        .doesNotContain("script-src 'unsafe-inline'");
  }
}
