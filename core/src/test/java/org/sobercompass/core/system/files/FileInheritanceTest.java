package org.sobercompass.core.system.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;

/** What a file and a folder get from the folder above ([MS-DTYP] 2.5.3.4.2). */
class FileInheritanceTest {
  private static final int OI = Ace.OBJECTS;
  private static final int CI = Ace.CHILDREN;
  private static final int NP = Ace.NEXT_ONLY;
  private static final int IO = Ace.BELOW_ONLY;
  private static final int ID = Ace.INHERITED;

  private static Descriptor of(Ace... entries) {
    return new Descriptor(
        0,
        Optional.of("S-1-owner"),
        Optional.of("S-1-group"),
        Optional.of(List.of(entries)),
        Optional.empty());
  }

  private static List<Ace> handed(Ace ace, boolean isFolder) {
    return FileInheritance.handed(of(ace), isFolder, of()).stream()
        .map(FileInheritance.Handed::ace)
        .toList();
  }

  private static Ace allow(int flags, int mask, String who) {
    return Ace.of(AceType.ALLOW, flags, mask, who);
  }

  @ParameterizedTest
  @CsvSource({
    "0, false, -1",
    "0, true, -1",
    "1, false, 16",
    "1, true, 25",
    "2, false, -1",
    "2, true, 18",
    "3, false, 16",
    "3, true, 19",
    "5, false, 16",
    "5, true, -1",
    "6, true, 16",
    "7, true, 16",
    "7, false, 16",
    "9, false, 16",
    "9, true, 25",
    "10, true, 18",
    "11, true, 19",
    "11, false, 16",
    "14, true, 16"
  })
  void flagsOfWhatIsHandedOn(int flags, boolean isFolder, int below) {
    List<Ace> got = handed(allow(flags, FileRights.READ, "S-1-x"), isFolder);
    if (below < 0) {
      assertThat(got).isEmpty();
    } else {
      assertThat(got).containsExactly(allow(below, FileRights.READ, "S-1-x"));
    }
  }

  @Test
  void theCreatorIsReplacedHereAndStaysForWhatIsBelow() {
    assertThat(handed(allow(OI | CI | IO, FileRights.FULL, "S-1-3-0"), true))
        .containsExactly(
            allow(ID, FileRights.FULL, "S-1-owner"),
            allow(OI | CI | IO | ID, FileRights.FULL, "S-1-3-0"));
    assertThat(handed(allow(OI | CI | IO, FileRights.FULL, "S-1-3-1"), false))
        .containsExactly(allow(ID, FileRights.FULL, "S-1-group"));
  }

  @Test
  void genericRightsAreMappedHereAndStayForWhatIsBelow() {
    assertThat(handed(allow(OI | CI, 0x1000_0000, "S-1-x"), true))
        .containsExactly(
            allow(ID, FileRights.FULL, "S-1-x"), allow(OI | CI | IO | ID, 0x1000_0000, "S-1-x"));
    assertThat(handed(allow(CI | NP, 0x1000_0000, "S-1-x"), true))
        .containsExactly(allow(ID, FileRights.FULL, "S-1-x"));
  }

  @Test
  void genericRightsOfFiles() {
    assertThat(FileRights.mapped(0x8000_0000)).isEqualTo(0x12_0089);
    assertThat(FileRights.mapped(0x4000_0000)).isEqualTo(0x12_0116);
    assertThat(FileRights.mapped(0x2000_0000)).isEqualTo(0x12_00a0);
    assertThat(FileRights.mapped(0x1000_0000)).isEqualTo(0x1f_01ff);
    assertThat(FileRights.mapped(0x1234)).isEqualTo(0x1234);
  }
}
