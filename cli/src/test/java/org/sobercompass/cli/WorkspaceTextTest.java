package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.problem.BadInputException;

/** What is added to a workspace leaves the rest of its text as somebody wrote it. */
class WorkspaceTextTest {
  private static final List<String> LINES =
      List.of("staff:", "  kind: standard", "  address: ldaps://directory.alderfen.example");

  @TempDir Path root;

  private String after(String before) throws IOException {
    Files.writeString(root.resolve("compass.yaml"), before);
    WorkspaceText.add(root, "staff", LINES);
    return Files.readString(root.resolve("compass.yaml"));
  }

  @Test
  void aNewWorkspaceIsMadeWithIt() throws IOException {
    Path folder = root.resolve("new/one");
    WorkspaceText.add(folder, "staff", LINES);
    assertThat(Files.readString(folder.resolve("compass.yaml")))
        .contains("zone: UTC\ndirectories:\n  staff:\n    kind: standard\n");
  }

  @Test
  void commentsAndOrderStay() throws IOException {
    String before =
        "# ours, since spring\nzone: Europe/Lisbon # dates\n\ndirectories:  # two of them\n"
            + "  other: {file: d.ldif}   # the small one\n\nseparation: []\n";
    String after = after(before);
    assertThat(after)
        .isEqualTo(
            before.replace(
                "# two of them\n",
                "# two of them\n  staff:\n    kind: standard\n"
                    + "    address: ldaps://directory.alderfen.example\n"));
    assertThat(root.resolve("compass.yaml.part")).doesNotExist();
  }

  @Test
  void whereThereAreNoDirectoriesYetTheyAreAddedAtTheEnd() throws IOException {
    assertThat(after("zone: UTC\n")).startsWith("zone: UTC\ndirectories:\n  staff:\n");
  }

  @Test
  void aNameThatIsTakenIsRefusedAndNothingChanges() throws IOException {
    String before = "directories:\n  staff: {file: d.ldif}\n";
    assertThatThrownBy(() -> after(before))
        .isInstanceOf(UsageException.class)
        .hasMessageContaining("there is a directory staff");
    assertThat(Files.readString(root.resolve("compass.yaml"))).isEqualTo(before);
  }

  @Test
  void aWorkspaceThatCannotBeReadIsNotWrittenTo() throws IOException {
    String before = "directories: &all\n  other: {file: d.ldif}\n";
    assertThatThrownBy(() -> after(before)).isInstanceOf(BadInputException.class);
    assertThat(Files.readString(root.resolve("compass.yaml"))).isEqualTo(before);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "directories:\n    other:\n        file: d.ldif\nzone: UTC\n",
        "\"directories\":\n  other: {file: d.ldif}\n",
        "'directories' :\n  other: {file: d.ldif}\n",
        "\ufeffdirectories:\n  other: {file: d.ldif}\n",
        "\ufeffzone: UTC\ndirectories:\n  other: {file: d.ldif}\n",
        "zone: UTC\r\ndirectories:\r\n  other: {file: d.ldif}\r\n",
        "---\nzone: UTC\n...\n",
        "zone: UTC",
        "directories:\n  # none yet\n  other:\n    file: |-\n      d.ldif\n",
        "directories:\n  other:\n    file: >\n      d.ldif\napplications: []\n"
      })
  void whateverStyleItIsWrittenInStays(String before) throws IOException {
    Files.writeString(root.resolve("compass.yaml"), before);
    assertThat(WorkspaceText.add(root, "staff", LINES)).isPresent();
    String after = Files.readString(root.resolve("compass.yaml"));
    String rest = after;
    for (String line : LINES) {
      rest =
          rest.replaceFirst("(?m)^ *" + java.util.regex.Pattern.quote(line.strip()) + "\r?\n", "");
    }
    assertThat(rest.replaceFirst("\ndirectories:\r?\n(?=$|[.])", "\n").stripTrailing())
        .isEqualTo(before.stripTrailing());
    assertThat(after.contains("\r\n")).isEqualTo(before.contains("\r\n"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "directories: {other: {file: d.ldif}}\n",
        "directories: {}\n",
        "{directories: {other: {file: d.ldif}}}\n",
        "{zone: UTC}\n",
        "? directories\n: other: {file: d.ldif}\n"
      })
  void whatCannotBeEditedSafelyIsLeftAlone(String before) throws IOException {
    Files.writeString(root.resolve("compass.yaml"), before);
    assertThat(WorkspaceText.add(root, "staff", LINES)).isEmpty();
    assertThat(Files.readString(root.resolve("compass.yaml"))).isEqualTo(before);
  }

  @Test
  void aFileBehindASymbolicLinkIsEditedAndTheLinkStays() throws IOException {
    Path real = root.resolve("shared.yaml");
    Files.writeString(real, "zone: UTC\n");
    Files.createSymbolicLink(root.resolve("compass.yaml"), real);
    assertThat(WorkspaceText.add(root, "staff", LINES)).isPresent();
    assertThat(root.resolve("compass.yaml")).isSymbolicLink();
    assertThat(Files.readString(real)).contains("staff:");
  }

  @Test
  void whatBeginWroteAndNobodyFilledInGivesWayToTheDirectoryThatWasProbed() throws IOException {
    assertThat(SoberTest.sober("begin", root.toString()).code()).isZero();
    assertThat(WorkspaceText.add(root, "staff", LINES)).isPresent();
    assertThat(Files.readString(root.resolve("compass.yaml")))
        .contains("directories:\n  staff:\n")
        .doesNotContain("directory.ldif\n    # taken");
    assertThat(Files.readString(root.resolve("applications/app.yaml")))
        .contains("directory: staff");
  }

  @Test
  void theModeOfAFileStays() throws IOException {
    Path file = root.resolve("compass.yaml");
    Files.writeString(file, "zone: UTC\n");
    var mode = java.nio.file.attribute.PosixFilePermissions.fromString("rw-r-----");
    Files.setPosixFilePermissions(file, mode);
    WorkspaceText.add(root, "staff", LINES);
    assertThat(Files.getPosixFilePermissions(file)).isEqualTo(mode);
  }

  @Test
  void aTextIsQuotedSoThatYamlReadsItBack() {
    assertThat(Connection.quoted("cn=a\\,b,dc=\"x\"")).isEqualTo("\"cn=a\\\\,b,dc=\\\"x\\\"\"");
  }
}
