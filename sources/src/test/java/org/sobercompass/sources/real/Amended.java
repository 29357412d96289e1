package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Carrying;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.proposal.AsIn;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.JavaProcess;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.amendment.JournalFile;

/** An amendment of one system and the way to it. */
public record Amended(AmendmentFolder folder, TargetKind.Door door, String password) {
  /** How often processes are killed; the run for the figures in docs/performance.md takes more. */
  static final int KILLS = Integer.getInteger("sober.kills", 8);

  /** Makes one, and reads it again as whoever carries it out would. */
  static Amended of(
      Organization from, Proposal proposal, Path folder, TargetKind.Door door, String password) {
    Amendment amendment = from.amendment(proposal, change -> "a change", Map.of());
    assertThat(amendment.byHand()).isEmpty();
    AmendmentFolder.write(amendment, from.foretold(proposal), "", folder);
    AmendmentFolder read = AmendmentFolder.read(folder);
    assertThat(read.amendment()).isEqualTo(amendment);
    return new Amended(read, door, password);
  }

  List<AmendmentRecord> records() {
    return folder.amendment().records();
  }

  LiveTarget open() {
    String kind = folder.amendment().target(door.target()).orElseThrow().kind();
    return TargetKinds.of(kind)
        .orElseThrow()
        .open(door, new Secret.Origins(name -> Optional.of(password), q -> Optional.empty()));
  }

  Work carryOut() {
    return work(records(), false);
  }

  Work undo() {
    return work(records(), true);
  }

  /** Of one target only. */
  Work carryOut(String target) {
    return work(folder.amendment().of(target), false);
  }

  /** Of one target only. */
  Work undo(String target) {
    return work(folder.amendment().of(target), true);
  }

  private Work work(List<AmendmentRecord> records, boolean undo) {
    try (LiveTarget live = open();
        JournalFile file = JournalFile.open(folder, door.target())) {
      Journal journal = new Journal(file.before(), file);
      Carrying carrying = new Carrying(live, journal, Clock.systemUTC(), false, done -> {});
      return undo ? carrying.undo(records) : carrying.carryOut(records);
    }
  }

  /** What differs between two readings is what was proposed, and nothing else. */
  static void assertDone(Organization before, Organization after, Proposal proposal) {
    AsIn.Answer done = AsIn.of(before.assessment().model(), after.assessment().model());
    assertThat(done.left()).isEmpty();
    Set<Step> steps = new HashSet<>(done.proposal().steps());
    assertThat(steps).isEqualTo(new HashSet<>(proposal.steps()));
  }

  /** Carries out, or takes back, in a process of its own, to be killed. */
  public static void main(String[] arguments) {
    AmendmentFolder folder = AmendmentFolder.read(Path.of(arguments[0]));
    TargetKind.Door door =
        new TargetKind.Door(
            arguments[1],
            arguments[2],
            Optional.of(arguments[3]).filter(as -> !as.isEmpty()),
            arguments[4].isEmpty()
                ? Optional.empty()
                : Optional.of(new Secret.Environment("PASSWORD")),
            true,
            Optional.empty());
    Amended amended = new Amended(folder, door, arguments[4]);
    Work work = arguments[5].equals("undo") ? amended.undo() : amended.carryOut();
    System.out.println(work.failed() + " " + work.stopped());
    System.exit(work.isWhole() ? 0 : 1);
  }

  /** Does it in processes that are killed, until one ends; says how many were killed. */
  int killed(boolean undo, Random random) throws IOException, InterruptedException {
    int killed = 0;
    int code = runAndKill(undo, random.nextInt(60));
    while (code != 0) {
      assertThat(code).as("killed, or whole: " + Files.readString(said())).isEqualTo(137);
      killed++;
      // Longer each time, so that what takes long in one piece ends at last.
      code = runAndKill(undo, random.nextInt(60 + 100 * killed));
    }
    return killed;
  }

  /** What the last process said, beside the amendment. */
  private Path said() {
    return folder.path().resolveSibling(folder.path().getFileName() + ".said");
  }

  private int runAndKill(boolean undo, int millis) throws IOException, InterruptedException {
    Process process =
        JavaProcess.of(
                Amended.class,
                folder.path().toString(),
                door.target(),
                door.where(),
                door.as().orElse(""),
                password,
                undo ? "undo" : "there")
            .redirectOutput(said().toFile())
            .start();
    // Most kills fall into the work itself, which begins when the journal has grown.
    Path journal = folder.path().resolve("journal." + door.target() + ".jsonl");
    long size = Files.exists(journal) ? Files.size(journal) : 0;
    while (process.isAlive() && (!Files.exists(journal) || Files.size(journal) == size)) {
      Thread.sleep(1);
    }
    if (!process.waitFor(millis, TimeUnit.MILLISECONDS)) {
      process.destroyForcibly();
    }
    process.waitFor();
    return process.exitValue();
  }
}
