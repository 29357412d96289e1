package org.sobercompass.sources.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.disk.Ending;

/** What was collected of a share, whole, cut off and changed; and lines of another tool. */
class CollectedShareTest {
  private static final String ROWS =
      "{\"path\":\"/\",\"kind\":\"folder\",\"list\":\"O:S-1-5-18G:S-1-5-18D:(A;OICI;FA;;;WD)\"}\n"
          + "{\"path\":\"/a\",\"kind\":\"file\",\"list\":\"O:S-1-5-18G:S-1-5-18D:(A;;FA;;;WD)\"}\n";

  @TempDir Path folder;
  private Path lists;

  @BeforeEach
  void workspace() throws IOException {
    lists = folder.resolve("lists.jsonl");
    Files.writeString(
        folder.resolve("desks.ldif"),
        "dn: cn=ann,dc=x\nobjectClass: user\nsAMAccountName: ann\nobjectSid: S-1-5-21-1-2-3-4\n");
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  desks: {kind: ad, file: desks.ldif}\napplications: [s.yaml]\n");
    Files.writeString(folder.resolve("s.yaml"), "kind: shared-files\nid: s\nlists: lists.jsonl\n");
  }

  private String collected() throws IOException {
    try (OutputStream to = Files.newOutputStream(lists);
        Ending out = new Ending(to)) {
      out.write((JsonRows.COLLECTED + "\n" + ROWS).getBytes(StandardCharsets.UTF_8));
      out.end(Ending.Form.JSON);
    }
    return Files.readString(lists);
  }

  private int paths() {
    return Organization.open(folder).model().system("s").orElseThrow().resources().size();
  }

  @Test
  void wholeItIsRead() throws IOException {
    collected();
    assertThat(paths()).isEqualTo(2);
  }

  @Test
  void cutOffAtTheEndOfALineItIsRefused() throws IOException {
    String whole = collected();
    Files.writeString(lists, whole.substring(0, whole.indexOf("{\"path\":\"/a\"")));
    assertThatThrownBy(this::paths)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("the file is cut off");
  }

  @Test
  void changedItIsRefused() throws IOException {
    Files.writeString(lists, collected().replace("/a", "/b"));
    assertThatThrownBy(this::paths)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("cut, damaged or changed");
  }

  @Test
  void linesOfAnotherToolNeedNoEnd() throws IOException {
    Files.writeString(lists, ROWS);
    assertThat(paths()).isEqualTo(2);
  }
}
