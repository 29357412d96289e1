package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.amendment.JournalFile;

/** An amendment of one system and the way to it. */
record Amended(AmendmentFolder folder, TargetKind.Door door, String password) {
  /** Makes one, and reads it again as whoever carries it out would. */
  static Amended of(
      Organization from, Proposal proposal, Path folder, TargetKind.Door door, String password) {
    Amendment amendment = from.amendment(proposal, change -> "a change", Map.of());
    assertThat(amendment.byHand()).isEmpty();
    AmendmentFolder.write(amendment, "", folder);
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
    return work(false);
  }

  Work undo() {
    return work(true);
  }

  private Work work(boolean undo) {
    try (LiveTarget live = open();
        JournalFile file = JournalFile.open(folder, door.target())) {
      Journal journal = new Journal(file.before(), file);
      Carrying carrying = new Carrying(live, journal, Clock.systemUTC(), false, done -> {});
      return undo ? carrying.undo(records()) : carrying.carryOut(records());
    }
  }

  /** What differs between two readings is what was proposed, and nothing else. */
  static void assertDone(Organization before, Organization after, Proposal proposal) {
    AsIn.Answer done = AsIn.of(before.assessment().model(), after.assessment().model());
    assertThat(done.left()).isEmpty();
    Set<Step> steps = new HashSet<>(done.proposal().steps());
    assertThat(steps).isEqualTo(new HashSet<>(proposal.steps()));
  }
}
