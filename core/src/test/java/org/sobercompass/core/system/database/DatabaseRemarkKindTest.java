package org.sobercompass.core.system.database;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.lists.RemarkFinder;

/** Each remark is a finding of the same id. */
class DatabaseRemarkKindTest {
  @ParameterizedTest
  @EnumSource
  void eachIsAKindOfFindingThatIsLookedFor(DatabaseRemarkKind kind) {
    assertThat(FindingKind.of(kind).id()).isEqualTo(kind.id());
    assertThat(RemarkFinder.KINDS).contains(FindingKind.of(kind));
  }
}
