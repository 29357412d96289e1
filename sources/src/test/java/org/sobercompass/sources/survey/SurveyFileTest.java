package org.sobercompass.sources.survey;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Completeness;

/** A survey comes back as it was written, or is refused; damage and tricks are told. */
class SurveyFileTest {
  private static final Instant AT = Instant.parse("2026-11-20T06:00:00Z");
  private static final SurveyPart PART =
      new SurveyPart(
          "main",
          "ldap",
          "ldaps://directory.alderfen.example:636",
          "dn:cn=reader,dc=x",
          "TLS from the start",
          AT.minusSeconds(4),
          AT,
          true,
          List.of("17", "18"),
          2,
          List.of("dc=x"),
          List.of("ldap://elsewhere.example/dc=y"),
          List.of("uid=moved,dc=x"),
          List.of(new Completeness("main", "uid", 2, 1, 0)),
          "parts/main.ldif",
          java.util.Optional.empty());

  @TempDir Path root;
  private Path archive;

  @BeforeEach
  void write() throws IOException {
    archive = root.resolve("a.survey.zip");
    write(archive);
  }

  private String write(Path target) throws IOException {
    Path ldif = Files.writeString(root.resolve("entries.ldif"), "dn: dc=x\nobjectClass: domain\n");
    Path main = Files.writeString(root.resolve("main.yaml"), "zone: UTC\n");
    SurveyWriter writer = new SurveyWriter();
    writer.part(PART, ldif);
    writer.workspaceFile("compass.yaml", main);
    return writer.write(target);
  }

  private Map<String, byte[]> content() throws IOException {
    Map<String, byte[]> files = new TreeMap<>();
    try (ZipFile zip = new ZipFile(archive.toFile())) {
      for (var e = zip.entries(); e.hasMoreElements(); ) {
        ZipEntry entry = e.nextElement();
        files.put(entry.getName(), zip.getInputStream(entry).readAllBytes());
      }
    }
    return files;
  }

  private void put(Map<String, byte[]> files) throws IOException {
    try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(archive))) {
      for (Map.Entry<String, byte[]> file : files.entrySet()) {
        zip.putNextEntry(new ZipEntry(file.getKey()));
        zip.write(file.getValue());
        zip.closeEntry();
      }
    }
  }

  private SurveyFile unpack() {
    return SurveyFile.unpack(archive, root.resolve("unpacked"));
  }

  private void refused(String says) {
    assertThatThrownBy(this::unpack)
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(says);
  }

  @Test
  void whatWasWrittenComesBack() throws IOException {
    SurveyFile back = unpack();
    assertThat(back.manifest().parts()).containsExactly(PART);
    assertThat(back.hasWorkspace()).isTrue();
    assertThat(Files.readString(back.entries(PART))).startsWith("dn: dc=x");
    assertThat(SurveyFile.reopen(archive, back.folder()).orElseThrow().manifest())
        .isEqualTo(back.manifest());
  }

  @Test
  void anUnpackedCopyThatWasChangedIsNotTakenAgain() throws IOException {
    SurveyFile back = unpack();
    Files.writeString(
        back.entries(PART), "dn: cn=stranger,dc=x\n", java.nio.file.StandardOpenOption.APPEND);
    assertThat(SurveyFile.reopen(archive, back.folder())).isEmpty();
  }

  @Test
  void anUnpackedCopyWithAFileOfSomebodyElseIsNotTakenAgain() throws IOException {
    SurveyFile back = unpack();
    Files.writeString(back.folder().resolve("more.txt"), "x");
    assertThat(SurveyFile.reopen(archive, back.folder())).isEmpty();
  }

  @Test
  void theSameContentIsTheSameFile() throws IOException {
    String digest = write(root.resolve("b.survey.zip"));
    assertThat(Files.readAllBytes(root.resolve("b.survey.zip")))
        .isEqualTo(Files.readAllBytes(archive));
    assertThat(SurveyFile.digest(archive)).isEqualTo(digest).hasSize(64);
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 10, 200, 500})
  void aTruncatedOneIsRefused(int kept) throws IOException {
    byte[] all = Files.readAllBytes(archive);
    assertThat(all.length).isGreaterThan(600);
    Files.write(archive, java.util.Arrays.copyOf(all, kept));
    refused("is damaged or no survey at all");
  }

  @Test
  void anAlteredFileIsNamed() throws IOException {
    Map<String, byte[]> files = content();
    files.put("parts/main.ldif", "dn: dc=z\n".getBytes(StandardCharsets.UTF_8));
    put(files);
    refused("(parts/main.ldif): the file was altered or damaged");
  }

  @Test
  void aMissingAndAnAddedFileAreNamed() throws IOException {
    Map<String, byte[]> files = content();
    files.remove("parts/main.ldif");
    files.put("workspace/more.csv", new byte[0]);
    put(files);
    assertThatThrownBy(this::unpack)
        .hasMessageContaining("(parts/main.ldif): the file is missing")
        .hasMessageContaining("(workspace/more.csv): the file is not in the list");
  }

  @ParameterizedTest
  @ValueSource(strings = {"../out.txt", "/out.txt", "parts/../../out.txt", "parts\\..\\out.txt"})
  void aFileThatWouldLandElsewhereIsRefused(String name) throws IOException {
    Map<String, byte[]> files = content();
    files.put(name, new byte[] {1});
    put(files);
    refused("would be written elsewhere");
    assertThat(root.resolve("out.txt")).doesNotExist();
    assertThat(root.resolve("unpacked/../out.txt")).doesNotExist();
  }

  @Test
  void oneThatUnpacksToGigabytesIsStopped() throws IOException {
    byte[] zeros = new byte[1 << 20];
    try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(archive))) {
      zip.putNextEntry(new ZipEntry("parts/main.ldif"));
      for (int i = 0; i < 400; i++) {
        zip.write(zeros);
      }
      zip.closeEntry();
    }
    refused("would unpack to more than");
    assertThat(Files.size(root.resolve("unpacked/parts/main.ldif"))).isLessThan(200L << 20);
  }

  @Test
  void aNewerFormIsTold() throws IOException {
    Map<String, byte[]> files = content();
    String manifest = new String(files.get("manifest.json"), StandardCharsets.UTF_8);
    files.put(
        "manifest.json",
        manifest.replace("sober-survey/1", "sober-survey/9").getBytes(StandardCharsets.UTF_8));
    put(files);
    refused("a newer program wrote it");
  }

  @Test
  void anOldOneStaysReadable() throws IOException {
    try (OutputStream out = Files.newOutputStream(archive);
        var in = SurveyFileTest.class.getResourceAsStream("form-1.survey.zip")) {
      ByteArrayOutputStream bytes = new ByteArrayOutputStream();
      java.util.Objects.requireNonNull(in).transferTo(bytes);
      bytes.writeTo(out);
    }
    SurveyFile old = unpack();
    assertThat(old.manifest().form()).isEqualTo("sober-survey/1");
    assertThat(old.part("main").orElseThrow().entries()).isEqualTo(2);
  }

  @Test
  void nothingIsLeftWhenWritingFails() {
    SurveyWriter writer = new SurveyWriter();
    writer.part(PART, root.resolve("not-there.ldif"));
    Path target = root.resolve("new.survey.zip");
    assertThatThrownBy(() -> writer.write(target))
        .isInstanceOf(org.sobercompass.core.problem.OutsideException.class);
    assertThat(target).doesNotExist();
    assertThat(root.resolve("new.survey.zip.part")).doesNotExist();
  }
}
