package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
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

  @Test
  void aTextIsQuotedSoThatYamlReadsItBack() {
    assertThat(Connection.quoted("cn=a\\,b,dc=\"x\"")).isEqualTo("\"cn=a\\\\,b,dc=\\\"x\\\"\"");
  }
}
