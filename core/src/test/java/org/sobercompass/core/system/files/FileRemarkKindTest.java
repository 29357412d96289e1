package org.sobercompass.core.system.files;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.lists.RemarkFinder;

/** Each remark is a finding of the same id. */
class FileRemarkKindTest {
  @ParameterizedTest
  @EnumSource
  void eachIsAKindOfFindingThatIsLookedFor(FileRemarkKind kind) {
    assertThat(FindingKind.of(kind).id()).isEqualTo(kind.id());
    assertThat(RemarkFinder.KINDS).contains(FindingKind.of(kind));
  }
}
