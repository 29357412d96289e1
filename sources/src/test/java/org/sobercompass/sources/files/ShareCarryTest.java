package org.sobercompass.sources.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.carry.Carry;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Organization;

/** Entries of the lists of shares themselves, when rights are carried over. */
class ShareCarryTest {
  private static final String SID = "S-1-5-21-1-2-3-";

  @TempDir Path folder;
  private Organization trust;

  @BeforeEach
  void share() throws IOException {
    StringBuilder ldif = new StringBuilder();
    for (String who : List.of("ann:1", "bo:2", "cy:3")) {
      String[] one = who.split(":");
      ldif.append("dn: cn=" + one[0] + ",dc=x\nobjectClass: user\nsAMAccountName: " + one[0]);
      ldif.append("\nobjectSid: " + SID + one[1] + "\n\n");
    }
    Files.writeString(folder.resolve("desks.ldif"), ldif);
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  desks: {kind: ad, file: desks.ldif}\napplications: [s.yaml]\n");
    Files.writeString(
        folder.resolve("lists.csv"),
        "path,kind,list\n/,folder,O:" + SID + "3G:" + SID + "3D:(A;OICI;FA;;;WD)\n");
    Files.writeString(
        folder.resolve("s.yaml"),
        "kind: shared-files\nid: s\nlists: lists.csv\nshares:\n"
            + "  - {name: open, path: /, list: \"D:(A;;0x1200a9;;;WD)\"}\n"
            + "  - {name: two words, path: /, list: \"D:(A;;0x1200a9;;;"
            + SID
            + "1)(D;;0x2;;;"
            + SID
            + "1)\"}\n");
    trust = Organization.open(folder);
  }

  private Proposal carried(CarryPlan plan) {
    AccessModel model = trust.assessment().model();
    int ann = trust.names().account("ann");
    int bo = trust.names().account("bo");
    return new Carry(model, Map.of(ann, bo), plan).make().proposal("");
  }

  private static List<String> said(Proposal proposal) {
    return proposal.steps().stream()
        .map(step -> (Step.ListItem) step)
        .map(item -> (item.added() ? "+" : "-") + item.text().replace(SID, ""))
        .sorted()
        .toList();
  }

  @Test
  void besideTheOldOnesStandNewOnes() {
    assertThat(said(carried(CarryPlan.USUAL)))
        .containsExactly("+share two words (A;;0x1200a9;;;2)", "+share two words (D;;DC;;;2)");
  }

  @Test
  void insteadTheOldOnesGoAndTheRecordIsOfTheShare() {
    Proposal proposal = carried(CarryPlan.USUAL.by(CarryPlan.How.INSTEAD));
    assertThat(said(proposal))
        .containsExactly(
            "+share two words (A;;0x1200a9;;;2)",
            "+share two words (D;;DC;;;2)",
            "-share two words (A;;0x1200a9;;;1)",
            "-share two words (D;;DC;;;1)");
    List<AmendmentRecord> records =
        trust.amendment(proposal, change -> "a change", Map.of()).records();
    assertThat(records).hasSize(1);
    assertThat(records.get(0).place()).isEqualTo("two words");
    assertThat(records.get(0).differences().get(0).added().get(0).replace(SID, ""))
        .isEqualTo("D:(D;;DC;;;2)(A;;0x1200a9;;;2)");
  }
}
