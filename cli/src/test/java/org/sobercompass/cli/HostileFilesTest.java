package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Inputs that made the program fault or wait for ever: each is answered, or told with its place.
 */
@Timeout(60)
class HostileFilesTest {
  @TempDir Path folder;
  private Path root;
  private String said = "";

  @BeforeEach
  void write() throws IOException {
    root = folder.resolve("w");
    FullWorkspace.write(root);
  }

  private int sober(String... typed) {
    StringWriter out = new StringWriter();
    List<String> command = new ArrayList<>(List.of(typed));
    if (!command.contains("verify")) {
      command.addAll(List.of("--workspace", root.toString()));
    }
    PrintWriter both = new PrintWriter(out);
    int code = Sober.run(both, both, command.toArray(String[]::new));
    said = out.toString();
    return code;
  }

  private void change(String file, String from, String to) throws IOException {
    Path path = root.resolve(file);
    String text = Files.readString(path);
    assertThat(text).contains(from);
    Files.writeString(path, text.replace(from, to));
  }

  private void put(String file, String text) throws IOException {
    Files.writeString(root.resolve(file), text);
  }

  private void answersAll() {
    assertThat(sober("findings")).as(() -> said).isLessThan(2);
    String[] lines = said.split("\n");
    int all = Integer.parseInt(lines[0].replaceAll(" .*", ""));
    for (int i = 1; i <= Math.min(all, 100); i++) {
      assertThat(sober("findings", "--detail", "" + i)).as(() -> said).isLessThan(2);
    }
    assertThat(sober("report", folder.resolve("p.html").toString())).as(() -> said).isZero();
  }

  @Test
  void theOwnershipOfWhoeverIsGoneIsAFindingWithoutARemoval() throws IOException {
    change("files/fieldshare.csv", "O:S-1-5-21-1871-2902-3733-512", "O:S-1-5-21-1-2-3-4");
    change("directory/desks.ldif", "O:S-1-5-21-1871-2902-3733-512", "O:S-1-5-21-1-2-3-4");
    answersAll();
  }

  @Test
  void whatHasNoListAtAllIsReportedAsOpenToEverybody() throws IOException {
    String text = Files.readString(root.resolve("directory/desks.ldif"));
    put("directory/desks.ldif", text.replaceAll("D:[A-Z]*\\(.*", "D:NO_ACCESS_CONTROL"));
    String share = Files.readString(root.resolve("files/fieldshare.csv"));
    put("files/fieldshare.csv", share.replaceAll("D:[A-Z]*\\(.*", "D:NO_ACCESS_CONTROL"));
    answersAll();
    sober("findings");
    assertThat(said.replaceAll("\\s+", " "))
        .contains("Everyone may write /herbarium")
        .contains("14 accounts could come to control the directory desks");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"[]", "{}", "[[]]", "\"\"", "~", "9999999999999999999", "\"a\\0b\"", "\"/\\0\""})
  void aValueOfAnotherKindIsTakenOrToldWithItsPlace(String value) throws IOException {
    for (String key : List.of("taken", "file", "kind", "zone", "admin", "waivers", "schema")) {
      FullWorkspace.write(root);
      String text = Files.readString(root.resolve("compass.yaml"));
      put(
          "compass.yaml",
          text.replaceFirst("(?m)^( *" + key + "): .*$", "$1: " + value.replace("\\", "\\\\")));
      takenOrTold("check", key, value, "compass.yaml:");
    }
    for (String key : List.of("at", "account", "permission", "until", "by", "reason", "id")) {
      for (String file : List.of("waivers.yaml", "expectations.yaml")) {
        FullWorkspace.write(root);
        String text = Files.readString(root.resolve(file));
        put(
            file,
            text.replaceFirst("(" + key + "): [^,}\n]*", "$1: " + value.replace("\\", "\\\\")));
        takenOrTold("expect", key, value, file + ":");
      }
    }
  }

  /** Answers, or ends with 3 and the place of what is wrong: in the file, or the file it names. */
  private void takenOrTold(String command, String key, String value, String place) {
    int code = sober(command);
    assertThat(code).as(() -> key + ": " + value + "\n" + said).isIn(0, 1, 3, 6);
    if (code == 3) {
      String bare = value.length() > 2 ? value.replace("\"", "") : value;
      String named = "\n" + bare.replace("\\0", "\uFFFD") + ": ";
      assertThat(said.contains(place) || said.contains(named)).as(() -> named + said).isTrue();
      assertThat(said).contains("expected");
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"9223372036854775806", "9999999999999999999", "-9223372036854775808"})
  void timesOfNineteenDigitsAreReadOrToldWithTheirPlace(String time) throws IOException {
    String text = Files.readString(root.resolve("directory/desks.ldif"));
    put(
        "directory/desks.ldif",
        text.replace(
            "objectClass: user\n",
            "objectClass: user\naccountExpires: "
                + time
                + "\npwdLastSet: "
                + time
                + "\nlockoutTime: "
                + time
                + "\nlastLogonTimestamp: "
                + time
                + "\n"));
    readOrTold("directory/desks.ldif:");
    FullWorkspace.write(root);
    text = Files.readString(root.resolve("directory/alderfen.ldif"));
    put(
        "directory/alderfen.ldif",
        text.replace(
            "objectClass: inetOrgPerson\n",
            "objectClass: inetOrgPerson\nobjectClass: shadowAccount\nshadowExpire: "
                + time
                + "\nshadowMax: "
                + time
                + "\nshadowLastChange: "
                + time
                + "\n"));
    readOrTold("directory/alderfen.ldif:");
  }

  private void readOrTold(String place) {
    for (String command : List.of("check", "findings")) {
      int code = sober(command);
      assertThat(code).as(() -> said).isIn(0, 1, 3);
      if (code == 3) {
        assertThat(said).contains(place).contains("expected");
      }
    }
  }

  @Test
  void aNameOfAFileWithNulIsNoNameOfAFile() throws IOException {
    assertThat(sober("can", "--questions", "a\0b")).isEqualTo(2);
    change("compass.yaml", "file: persons.csv", "file: \"persons\\0.csv\"");
    assertThat(sober("check")).isEqualTo(3);
    assertThat(said).contains("no name of a file");
  }

  @Test
  void questionsInAnotherEncodingAreTold() throws IOException {
    Path questions = root.resolve("q.csv");
    Files.write(
        questions, "account,permission\nJürgen,x:y\n".getBytes(StandardCharsets.ISO_8859_1));
    assertThat(sober("can", "--questions", questions.toString())).isEqualTo(3);
    assertThat(said).contains("not UTF-8");
  }

  @Test
  void aFolderIsNoArchiveAndNoExport() throws IOException {
    assertThat(sober("survey", "verify", root.toString())).isEqualTo(3);
    assertThat(said).contains("is a folder");
    assertThat(sober("findings", "--survey", root.toString())).isEqualTo(3);
    change("compass.yaml", "file: directory/alderfen.ldif", "file: directory");
    assertThat(sober("check")).isEqualTo(3);
    assertThat(said).contains("this is a folder");
    assertThat(sober("survey")).isEqualTo(3);
  }

  @Test
  void anArchiveWithAnImpossibleNameIsNoSurvey() throws IOException {
    for (List<String> names :
        List.of(
            List.of("a", "a/b", "manifest.json"),
            List.of("a/b", "a", "manifest.json"),
            List.of("x".repeat(5000), "manifest.json"),
            List.of("./x", "x", "manifest.json"),
            List.of("/etc/x", "manifest.json"),
            List.of("a\\b", "manifest.json"),
            List.of("\u0000", "manifest.json"),
            List.of("../x", "manifest.json"))) {
      Path archive = folder.resolve("a.survey.zip");
      try (OutputStream out = Files.newOutputStream(archive);
          ZipOutputStream zip = new ZipOutputStream(out)) {
        for (String name : names) {
          zip.putNextEntry(new ZipEntry(name));
          zip.write("{}".getBytes(StandardCharsets.UTF_8));
          zip.closeEntry();
        }
      }
      assertThat(sober("survey", "verify", archive.toString())).as(() -> said).isEqualTo(3);
    }
  }

  @Test
  void superiorTypesAndClassesInACircleEnd() throws IOException {
    change("directory/schema.ldif", "NAME 'name' EQUALITY", "NAME 'name' SUP cn EQUALITY");
    change("directory/schema.ldif", "NAME 'person' SUP top", "NAME 'person' SUP inetOrgPerson");
    assertThat(sober("check")).as(() -> said).isIn(1, 3);
    assertThat(said).contains("circle");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"Version: 1\n", "VERSION: 1\n\n", "version: 2\n", "version: x\n", "dn\n", "dn:\n"})
  void aStrangeHeadOfAnExportIsToldOrPassedOver(String head) throws IOException {
    Path file = root.resolve("directory/fernhollow.ldif");
    Files.writeString(file, head + Files.readString(file));
    assertThat(sober("check")).as(() -> said).isIn(1, 3);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "directory/alderfen.ldif",
        "directory/gatehouse.txt",
        "directory/sharing.json",
        "directory/schema.ldif",
        "files/fernstore.getfacl",
        "files/fieldbook.jsonl",
        "files/archive.nfs4",
        "assignments/seedbook.csv",
        "usage/orders.jsonl",
        "waivers.yaml",
        "compass.yaml"
      })
  void aPipeOrADeviceIsNoFile(String file) throws IOException, InterruptedException {
    Path path = root.resolve(file);
    Files.delete(path);
    assertThat(new ProcessBuilder("mkfifo", path.toString()).start().waitFor()).isZero();
    assertThat(sober("check")).as(() -> said).isEqualTo(3);
    Files.delete(path);
    Files.createSymbolicLink(path, Path.of("/dev/zero"));
    assertThat(sober("check")).as(() -> said).isEqualTo(3);
  }
}
