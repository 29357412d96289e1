package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What somebody meets whose first workspace is not quite right: told once, with the way out. */
class NewUserTest {
  @TempDir Path folder;
  private Path root;

  @BeforeEach
  void write() throws IOException {
    root = folder.resolve("w");
    FullWorkspace.write(root);
  }

  private SoberTest.Said sober(String... command) {
    List<String> all = new java.util.ArrayList<>(List.of(command));
    all.addAll(List.of("--workspace", root.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  private List<String> told(String what) {
    SoberTest.Said said = sober("check", "--format", "csv");
    return (said.out() + said.err()).lines().filter(line -> line.contains(what)).toList();
  }

  private void change(String file, String from, String to) throws IOException {
    Path path = root.resolve(file);
    String text = Files.readString(path);
    assertThat(text).contains(from);
    Files.writeString(path, text.replace(from, to));
  }

  /** As {@code getfacl -R /srv/fernhollow} writes it. */
  private void withoutFoldersAbove() throws IOException {
    Path list = root.resolve("files/fernstore.getfacl");
    String text = Files.readString(list);
    Files.writeString(list, text.substring(text.indexOf("# file: /srv/fernhollow\n")));
  }

  @Test
  void foldersAboveThatWereNotReadAreToldOnceWithBothWaysOut() throws IOException {
    withoutFoldersAbove();
    assertThat(told("above what was collected"))
        .singleElement()
        .asString()
        .contains("2 folders above what was collected are missing: / /srv")
        .contains("getfacl -p / /srv")
        .contains("above: open");
    SoberTest.Said can = sober("can", "emoor", "fernstore:read", "--at", "/srv/fernhollow/minutes");
    assertThat(can.out().replaceAll("\\s+", " "))
        .contains("since search in / is not known (its list was not read); search in /srv is");
  }

  @Test
  void foldersAboveThatAreSaidToBeOpenLetPassAndGiveNoRightThemselves() throws IOException {
    withoutFoldersAbove();
    Path app = root.resolve("applications/fernstore.yaml");
    Files.writeString(app, Files.readString(app) + "above: open\n");
    assertThat(told("above what was collected")).isEmpty();
    assertThat(sober("show", "account", "emoor").out()).startsWith("Elin Moor (emoor) holds");
    assertThat(sober("can", "emoor", "fernstore:read", "--at", "/srv/fernhollow/minutes").out())
        .startsWith("Yes");
    assertThat(sober("can", "emoor", "fernstore:execute", "--at", "/srv").out())
        .startsWith("Undecided");
  }

  @Test
  void aMisspeltAttributeOfARuleIsToldWithTheNearest() throws IOException {
    change("compass.yaml", "peers: {by: [title]", "peers: {by: [titel]");
    change("compass.yaml", "link: [employeeNumber]", "link: [emploeeNumber]");
    change("applications/permits.yaml", "(!(employeeType=", "(!(emploeeType=");
    assertThat(told("\"titel\"").toString()).contains("compass.yaml").contains(",title");
    assertThat(told("emploeeNumber").toString())
        .contains("compass.yaml")
        .contains("employeenumber");
    assertThat(told("emploeetype").toString()).contains("relies on").contains("employeetype");
  }

  @Test
  void groupsOfAnotherClassThanTheFilterAsksForAreToldTogether() throws IOException {
    change("compass.yaml", "    schema: directory/schema.ldif\n", "");
    change(
        "applications/permits.yaml",
        "  account-filter:",
        "  group-filter: \"(objectClass=posixGroup)\"\n  account-filter:");
    assertThat(told("the filter leaves it out"))
        .singleElement()
        .asString()
        .contains("4 assignments are to groups that Permits does not see")
        .contains("its classes are groupOfNames, top");
  }
}
