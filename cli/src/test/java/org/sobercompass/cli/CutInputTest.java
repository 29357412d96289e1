package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Input that was cut off or thinned out is told, with its place. */
class CutInputTest {
  @TempDir Path folder;
  private Path root;

  @BeforeEach
  void write() throws IOException {
    root = folder.resolve("w");
    FullWorkspace.write(root);
  }

  private SoberTest.Said check() {
    return SoberTest.sober("check", "--format", "jsonl", "--workspace", root.toString());
  }

  private void told(String file, String what) {
    SoberTest.Said said = check();
    assertThat(said.code()).isIn(1, 3);
    String all = said.out() + said.err();
    assertThat(all.lines().filter(line -> line.contains(file) && line.contains(what)).toList())
        .as(() -> all)
        .isNotEmpty();
  }

  @Test
  void theWholeWorkspaceIsSaidToBeCutNowhere() {
    assertThat(check().out()).doesNotContain("cut off");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "directory/alderfen.ldif   | 0.5 | ends inside a line",
        "directory/desks.ldif      | 0.7 | ends inside a line",
        "files/fernstore.getfacl   | 0.5 | cut off",
        "files/archive.nfs4        | 0.5 | expected",
        "files/fieldbook.jsonl     | 0.5 | cut off",
        "directory/sharing.json    | 0.5 | not JSON",
        "directory/gatehouse.txt   | 0.5 | fields",
        "usage/orders.jsonl        | 0.5 | no JSON",
        "assignments/seedbook.csv  | 0.99| cut off",
        "registers/rounds.csv      | 0.98| cut off",
        "directory/rounds-own.csv  | 0.98| cut off"
      })
  void aFileCutInsideALineIsTold(String file, double part, String what) throws IOException {
    byte[] bytes = Files.readAllBytes(root.resolve(file));
    int end = (int) (bytes.length * part);
    while (bytes[end] == '\n' || bytes[end - 1] == '\n') {
      end++;
    }
    Files.write(root.resolve(file), java.util.Arrays.copyOf(bytes, end));
    told(file, what);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "directory/alderfen.ldif   | 400 | without the empty line",
        "files/fernstore.getfacl   | 20  | cut off",
        "files/fieldbook.jsonl     | 30  | cut off"
      })
  void aFileCutBetweenTwoLinesIsTold(String file, int lines, String what) throws IOException {
    List<String> all = Files.readAllLines(root.resolve(file));
    int end = lines;
    while (all.get(end - 1).isEmpty() || all.get(end).isEmpty()) {
      end++;
    }
    Files.writeString(root.resolve(file), String.join("\n", all.subList(0, end)) + "\n");
    told(file, what);
  }

  private void change(String file, String from, String to) throws IOException {
    Path path = root.resolve(file);
    String text = Files.readString(path);
    assertThat(text).contains(from);
    Files.writeString(path, text.replaceFirst(java.util.regex.Pattern.quote(from), to));
  }

  @Test
  void twoEntriesWithoutAnEmptyLineAreTold() throws IOException {
    change("directory/fernhollow.ldif", "\n\ndn: uid=", "\ndn: uid=");
    told("directory/fernhollow.ldif", "another entry begins inside");
  }

  @Test
  void anExportThatItsToolSaysIsNotWholeIsTold() throws IOException {
    Path file = root.resolve("directory/fernhollow.ldif");
    Files.writeString(file, Files.readString(file) + "search: 2\nresult: 4 Size limit exceeded\n");
    told("directory/fernhollow.ldif", "stopped before the end");
  }

  @Test
  void aPartOfTheMembersLeavesTheGroupOpen() throws IOException {
    change("directory/alderfen.ldif", "\nmember: ", "\nmember;range=0-1499: ");
    told("directory/alderfen.ldif", "only a part of the members");
  }

  @Test
  void membersWithAnOptionAreMembers() throws IOException {
    String before = memberships();
    change("directory/alderfen.ldif", "\nmember: ", "\nmember;lang-en: ");
    assertThat(memberships()).isEqualTo(before);
  }

  private String memberships() {
    return SoberTest.sober("list", "memberships", "--workspace", root.toString()).out();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "directory/sharing.json  | {\"Resources\" | {\"totalResults\": 5, \"Resources\" | there are"
            + " 5",
        "directory/sharing.json  | true         | \"true\"       | no boolean",
        "files/fieldbook.jsonl   | \"superuser\":false | \"superuser\":\"false\" | is a text",
        "directory/fernhollow.ldif | gidNumber: | gidNumber: 1p | no number",
        "files/fernstore.getfacl | other::      | other::---\\\\nother:: | there twice",
        "waivers.yaml            | waivers:     | #             | waive",
        "compass.yaml            | zone:        | [zone]:       | compass.yaml",
        "assignments/doors.csv   | ,granted by  |               | values",
        "applications/fernstore.yaml | id:      | administrators: [nobody-here]\\\\n"
            + "id: | nobody-here",
        "applications/rounds.yaml | id:         | trusted: [nobody-here]\\\\nid: | nobody-here",
        "applications/rounds.yaml | sight:      | sight:\\\\n  bind: nobody-here | nobody-here"
      })
  void aThinnedOrSpoiledValueIsTold(String file, String from, String to, String what)
      throws IOException {
    change(file, from, to == null ? "" : to.replace("\\\\n", "\n"));
    told(file, what);
  }

  @Test
  void aSecondYamlDocumentIsTold() throws IOException {
    for (String more : List.of("---\nzone: UTC\n", "...\n---\n[]\n", "---\n", "--- x\n")) {
      FullWorkspace.write(root);
      Path file = root.resolve("waivers.yaml");
      Files.writeString(file, Files.readString(file) + more);
      told("waivers.yaml", "second document");
    }
  }

  @Test
  void anEmptiedFileIsTold() throws IOException {
    for (String file : List.of("waivers.yaml", "expectations.yaml", "persons.csv", "tasks.csv")) {
      FullWorkspace.write(root);
      Files.writeString(root.resolve(file), "");
      told(file, "");
    }
  }

  @Test
  void aListWhereAMapBelongsIsTold() throws IOException {
    change("admin.yaml", "scopes:", "scopes: []\nnothing:");
    told("admin.yaml", "a map");
  }

  @Test
  void twoUsersWithOneNumberAreTold() throws IOException {
    Path file = root.resolve("directory/gatehouse.txt");
    Files.writeString(file, Files.readString(file) + "emil:x:1001:1001:Emil:/home/emil:/bin/sh\n");
    told("directory/gatehouse.txt", "1001");
  }
}
