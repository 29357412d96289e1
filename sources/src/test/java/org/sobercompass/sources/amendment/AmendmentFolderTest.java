package org.sobercompass.sources.amendment;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Carrying;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.TargetKinds;

class AmendmentFolderTest {
  private static final String WAS = "role,subject\r\nclerk,nell\r\n";
  private static final String IS = "role,subject\r\nclerk,nell\r\npayer,\"Ölaf \"\"x\"\"\"\r\n";

  @TempDir private Path folder;
  private Path workspace;

  @BeforeEach
  void workspace() throws IOException {
    workspace = Files.createDirectory(folder.resolve("workspace"));
    Files.writeString(workspace.resolve("compass.yaml"), "");
    Files.writeString(workspace.resolve("orders.csv"), WAS);
  }

  private static AmendmentRecord record(int number, String file, String was, String is) {
    return new AmendmentRecord(
        number,
        "workspace",
        file,
        "give \"it\"\nto her",
        List.of(new Difference("text", List.of(was), List.of(is))));
  }

  private static Amendment amendment(AmendmentRecord... records) {
    return new Amendment(
        "spring",
        Instant.parse("2026-11-20T06:00:00Z"),
        "what was read as of then",
        List.of(new Amendment.Target("workspace", "workspace", Optional.of("root"))),
        List.of(records),
        List.of("sign the letter"));
  }

  private AmendmentFolder written() {
    Foretold foretold =
        new Foretold(
            List.of(new Foretold.Right("account:a/1", "orders", "x:y", "all", Verdict.YES)),
            List.of("finding:b"),
            List.of("finding:e"));
    return AmendmentFolder.write(
        amendment(record(1, "orders.csv", WAS, IS)), foretold, "so", folder.resolve("a"));
  }

  private Work work(AmendmentFolder amendment, boolean undo) {
    TargetKind.Door door =
        new TargetKind.Door(
            "workspace",
            workspace.toString(),
            Optional.empty(),
            Optional.empty(),
            false,
            Optional.empty());
    try (LiveTarget live =
            TargetKinds.of("workspace").orElseThrow().open(door, Secret.Origins.PROCESS);
        JournalFile file = JournalFile.open(amendment, "workspace")) {
      Journal journal = new Journal(file.before(), file);
      Carrying carrying = new Carrying(live, journal, Clock.systemUTC(), false, done -> {});
      return undo
          ? carrying.undo(amendment.amendment().records())
          : carrying.carryOut(amendment.amendment().records());
    }
  }

  @Test
  void whatIsWrittenIsReadAgainAndIsForItsOwnerOnly() throws IOException {
    AmendmentFolder written = written();
    assertThat(AmendmentFolder.read(folder.resolve("a"))).isEqualTo(written);
    try (var files = Files.walk(folder.resolve("a"))) {
      for (Path file : files.toList()) {
        String mode = PosixFilePermissions.toString(Files.getPosixFilePermissions(file));
        assertThat(mode).isEqualTo(Files.isDirectory(file) ? "rwx------" : "rw-------");
      }
    }
    assertThat(folder.resolve("a/README.txt")).content().contains("patch -p0 < workspace.patch");
    assertThat(folder.resolve("a/README.txt")).content().contains("sign the letter");
    assertThatThrownBy(this::written)
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("there is something already");
  }

  @Test
  void everyFileThatWasTouchedIsToldAtOnce() throws IOException {
    written();
    Path records = folder.resolve("a/records.jsonl");
    Files.writeString(records, Files.readString(records).replace("nell", "petra"));
    Files.delete(folder.resolve("a/workspace.undo.patch"));
    assertThatThrownBy(() -> AmendmentFolder.read(folder.resolve("a")))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("records.jsonl: the file was changed since it was written")
        .hasMessageContaining("workspace.undo.patch: the file is missing");
    assertThatThrownBy(() -> AmendmentFolder.read(folder))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("there is no amendment here");
    Files.writeString(folder.resolve("a/amendment.json"), "{\"form\": 2}");
    assertThatThrownBy(() -> AmendmentFolder.read(folder.resolve("a")))
        .hasMessageContaining("expected form 1");
    Files.writeString(folder.resolve("a/amendment.json"), "{");
    assertThatThrownBy(() -> AmendmentFolder.read(folder.resolve("a")))
        .hasMessageContaining("is no JSON");
  }

  @Test
  void aFileOfAWorkspaceIsChangedAndIsBackByteForByte() throws IOException {
    AmendmentFolder amendment = written();
    assertThat(work(amendment, false).made()).isEqualTo(1);
    assertThat(workspace.resolve("orders.csv")).hasContent(IS);
    assertThat(Files.readString(workspace.resolve("orders.csv"))).isEqualTo(IS);
    assertThat(work(amendment, true).made()).isEqualTo(1);
    assertThat(Files.readString(workspace.resolve("orders.csv"))).isEqualTo(WAS);
  }

  @Test
  void thePatchDoesTheSameThere() throws Exception {
    written();
    Process process =
        new ProcessBuilder("patch", "-p0", "-i", folder.resolve("a/workspace.patch").toString())
            .directory(workspace.toFile())
            .redirectErrorStream(true)
            .start();
    String said = new String(process.getInputStream().readAllBytes());
    assertThat(process.waitFor()).as(said).isZero();
    assertThat(Files.readString(workspace.resolve("orders.csv")).replace("\r", ""))
        .isEqualTo(IS.replace("\r", ""));
  }

  @Test
  void aFileThatSomebodyElseChangedIsLeftAlone() throws IOException {
    AmendmentFolder amendment = written();
    Files.writeString(workspace.resolve("orders.csv"), WAS + "x,y\n");
    assertThat(work(amendment, false).failed().get(0).why())
        .isEqualTo("the file was changed since it was read");
    Files.delete(workspace.resolve("orders.csv"));
    assertThat(work(amendment, false).failed().get(0).why())
        .isEqualTo("there is no file orders.csv");
  }

  @Test
  void aNameThatLeadsOutOfTheWorkspaceIsNeverOpened() throws IOException {
    Path outside = Files.writeString(folder.resolve("outside"), "x");
    AmendmentFolder amendment =
        AmendmentFolder.write(
            amendment(record(1, "../outside", "x", "y")),
            Foretold.NOTHING,
            "",
            folder.resolve("b"));
    assertThatThrownBy(() -> work(amendment, false)).isInstanceOf(BadInputException.class);
    assertThat(outside).hasContent("x");
  }

  @Test
  void aJournalOfAnotherAmendmentOrADamagedOneIsRefused() throws IOException {
    AmendmentFolder amendment = written();
    work(amendment, false);
    Path journal = folder.resolve("a/journal.workspace.jsonl");
    List<String> lines = Files.readAllLines(journal);
    List<String> other = new ArrayList<>(lines);
    other.set(0, "{\"amendment\":\"00\"}");
    Files.write(journal, other);
    assertThatThrownBy(() -> work(amendment, true))
        .hasMessageContaining("the journal is of another amendment");
    other.set(0, lines.get(0));
    other.set(1, other.get(1).replace("begins", "perhaps"));
    Files.write(journal, other);
    assertThatThrownBy(() -> work(amendment, true))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("journal.workspace.jsonl:2: the line is none of a journal");
  }

  @Test
  void aLastLineThatWasCutOffIsTakenAwayAndAskedFor() throws IOException {
    AmendmentFolder amendment = written();
    work(amendment, false);
    Path journal = folder.resolve("a/journal.workspace.jsonl");
    String text = Files.readString(journal);
    Files.writeString(journal, text.substring(0, text.length() - 9));
    assertThat(JournalFile.look(amendment, "workspace").state(1)).isEqualTo(Journal.State.BEGUN);
    Work work = work(amendment, false);
    assertThat(work.made()).as("found so").isEqualTo(1);
    assertThat(Files.readAllLines(journal)).last().asString().contains("found so after");
    assertThat(work(amendment, true).made()).isEqualTo(1);
  }

  @Test
  void aNameWithALineEndInItBecomesNoLineOfItsOwn() {
    String words = "put a\r\n\ndn: cn=admins\nchangetype: delete\n into b; drop";
    AmendmentRecord record =
        new AmendmentRecord(
            1, "x", "cn=b", words, List.of(new Difference("member", List.of(), List.of("cn=a"))));
    String ldif = TargetKinds.of("ldap").orElseThrow().text(List.of(record));
    assertThat(ldif.lines().filter(line -> line.startsWith("dn:"))).containsExactly("dn: cn=b");
    assertThat(ldif).doesNotContain("\nchangetype: delete");
    AmendmentRecord sql =
        new AmendmentRecord(
            1,
            "x",
            "db\ndrop table a;",
            words,
            List.of(new Difference("schema \"s\"", List.of(), List.of("r=U/o"))));
    assertThat(TargetKinds.of("postgresql").orElseThrow().text(List.of(sql)).lines())
        .noneMatch(line -> line.startsWith("dn:") || line.startsWith("drop"));
  }

  @Test
  void aFolderThatCannotBeWrittenIsTold() throws IOException {
    Path file = Files.writeString(folder.resolve("file"), "x");
    assertThatThrownBy(
            () -> AmendmentFolder.write(amendment(), Foretold.NOTHING, "", file.resolve("below")))
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("cannot be written");
  }
}
