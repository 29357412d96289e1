package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.sobercompass.cli.SoberTest.sober;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Answers that go into a workbook. */
class WorkbookTest {
  @TempDir static Path demo;

  @TempDir Path folder;

  @BeforeAll
  static void write() {
    DemoFiles.write(demo);
  }

  private static String part(Path file, String name) throws IOException {
    try (ZipFile zip = new ZipFile(file.toFile())) {
      return new String(
          zip.getInputStream(zip.getEntry(name)).readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  @Test
  void allRowsGoThereAndTheHeadingIsPrinted() throws IOException {
    Path file = folder.resolve("f.xlsx");
    SoberTest.Said said =
        sober("findings", "--xlsx", file.toString(), "--workspace", demo.toString());
    assertThat(said.out()).isEqualTo("84 findings: 18 high, 30 medium, 36 low; 1 accepted.\n");
    assertThat(said.err()).contains("Written: " + file + ".");
    String sheet = part(file, "xl/worksheets/sheet2.xml");
    assertThat(sheet.split("<row ", -1)).as("rows, and what is before the first").hasSize(87);
    assertThat(part(file, "xl/sharedStrings.xml")).contains("finding:separation-of-duties/");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");
  }

  @Test
  void besideAnotherFormatBothAreThere() throws IOException {
    Path file = folder.resolve("c.xlsx");
    SoberTest.Said plain = sober("drift", "-f", "csv", "-w", demo.toString());
    SoberTest.Said both =
        sober("drift", "-f", "csv", "--xlsx", file.toString(), "-w", demo.toString());
    assertThat(both.out()).isEqualTo(plain.out());
    assertThat(part(file, "xl/workbook.xml")).contains("name=\"drift\"");
  }

  @ParameterizedTest
  @ValueSource(strings = {"list holdings", "delegations --tree"})
  void whatIsNoTableSaysSoAndWritesNothing(String command) {
    Path file = folder.resolve("n.xlsx");
    SoberTest.Said said = sober((command + " --xlsx " + file + " -w " + demo).split(" "));
    assertThat(said.code()).isEqualTo(Exit.USAGE);
    assertThat(said.err()).contains("--xlsx takes tables, and this is none");
    assertThat(file).doesNotExist();
  }
}
