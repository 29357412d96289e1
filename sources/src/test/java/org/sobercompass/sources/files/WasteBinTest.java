package org.sobercompass.sources.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.Carry;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.Left;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Organization;

/** What lies in a waste bin of a tree of files, when rights are carried over. */
class WasteBinTest {
  @TempDir Path folder;

  @BeforeEach
  void tree() throws IOException {
    Files.writeString(
        folder.resolve("host.getent"),
        "root:x:0:0::/:/\nann:x:1:1::/:/\nbo:x:2:1::/:/\nroot:x:0:\ncrew:x:1:\n");
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  host: {kind: host, file: host.getent}\napplications: [s.yaml]\n");
    StringBuilder lists = new StringBuilder();
    for (String path : List.of("/srv", "/srv/a", "/srv/.bin", "/srv/.bin/old", "/srv/.binder")) {
      lists.append("# file: " + path + "\n# owner: root\n# group: root\nuser::rwx\nuser:ann:r-x\n");
      lists.append("group::r-x\nmask::r-x\nother::---\n\n");
    }
    Files.writeString(folder.resolve("t"), lists);
  }

  private void bin(String path) throws IOException {
    Files.writeString(
        folder.resolve("s.yaml"),
        "kind: posix-files\nid: s\nlists: t\nabove: open\nwaste-bin: " + path + "\n");
  }

  private Carried carried(CarryPlan plan) {
    Organization of = Organization.open(folder);
    AccessModel model = of.assessment().model();
    return new Carry(model, Map.of(of.names().account("ann"), of.names().account("bo")), plan)
        .make();
  }

  private static List<String> places(Carried carried) {
    return carried.proposal("").steps().stream()
        .map(step -> ((Step.ListItem) step).at())
        .sorted()
        .toList();
  }

  @Test
  void itIsLeftAndTold() throws IOException {
    bin("[/srv/.bin]");
    Carried carried = carried(CarryPlan.USUAL);
    assertThat(places(carried)).containsExactly("/srv", "/srv/.binder", "/srv/a");
    assertThat(carried.left())
        .allMatch(left -> left.why() == Left.Why.WASTE_BIN)
        .extracting(Left::said)
        .containsExactlyInAnyOrder("/srv/.bin", "/srv/.bin/old");
  }

  @Test
  void whereItIsAskedForItIsCarried() throws IOException {
    bin("/srv/.bin");
    Carried carried = carried(CarryPlan.USUAL.withWasteBins());
    assertThat(places(carried))
        .containsExactly("/srv", "/srv/.bin", "/srv/.bin/old", "/srv/.binder", "/srv/a");
    assertThat(carried.left()).isEmpty();
  }

  @Test
  void oneThatIsNotInTheTreeIsTold() throws IOException {
    bin("[/srv/../.., /srv/.bim]");
    assertThatThrownBy(() -> Organization.open(folder))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("leads out of its tree")
        .hasMessageContaining("there is no /srv/.bim");
  }
}
