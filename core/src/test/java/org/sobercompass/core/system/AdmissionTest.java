package org.sobercompass.core.system;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Standing.State;

/** Whether an account may use what it holds, to the second. */
class AdmissionTest {
  private static final long ENDS = 1000;

  private static Facts facts(int flags, long expires) {
    FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
    builder
        .source("d")
        .add(new SubjectRow(SubjectKind.ACCOUNT, "a", "a", "a", "a", "a", "", flags, expires));
    return builder.build();
  }

  private static Standing standing(Admission admission, int account, long asOf) {
    SubjectSet subjects = new SubjectSet();
    subjects.sure().add(account);
    return admission.standing(account, subjects, asOf);
  }

  private static Admission open(Facts facts, Enrolment... lines) {
    Optional<List<Enrolment>> register =
        lines.length == 0 ? Optional.empty() : Optional.of(List.of(lines));
    return new Admission(facts, false, Set.of("directory"), register);
  }

  @ParameterizedTest
  @CsvSource({"999, USABLE", "1000, BLOCKED", "1001, BLOCKED"})
  void anAccountExpiresAtTheSecondThatIsSaid(long asOf, State expected) {
    Facts facts = facts(0, ENDS);
    assertThat(standing(open(facts), 0, asOf).state()).isEqualTo(expected);
    assertThat(AccountStanding.of(facts, 0, asOf).state()).isEqualTo(expected);
  }

  @Test
  void whatBlocksIsToldWholeAndInOrder() {
    Facts facts = facts(Facts.DISABLED, ENDS);
    assertThat(standing(open(facts), 0, ENDS).reasons())
        .containsExactly("the account is disabled", "the account has expired");
    Enrolment off = new Enrolment(0, "a", "directory", false, Place.of("r"));
    assertThat(standing(open(facts, off), 0, ENDS - 1).reasons())
        .containsExactly("the account is disabled", "enrolled but not active");
  }

  @ParameterizedTest
  @CsvSource({
    "directory, true, USABLE, ''",
    "local, true, BLOCKED, enrolled for a kind of sign-in"
  })
  void anEnrolmentCountsForAKindOfSignInThatIsAccepted(
      String provider, boolean active, State expected, String reason) {
    Admission admission =
        open(facts(0, Facts.NEVER), new Enrolment(0, "a", provider, active, Place.of("r")));
    Standing standing = standing(admission, 0, ENDS);
    assertThat(standing.state()).isEqualTo(expected);
    assertThat(String.join(" ", standing.reasons())).contains(reason);
  }

  /** What keeps out for sure blocks; what may, or is not known, leaves it open. */
  @Test
  void aBarBlocksFromItsTimeOnAndOnlyWhereItIsSure() {
    Admission sure =
        open(facts(0, Facts.NEVER))
            .barring(java.util.Map.of(0, List.of(new Admission.Bar("kept out", ENDS, true))));
    assertThat(standing(sure, 0, ENDS - 1).state()).isEqualTo(State.USABLE);
    assertThat(standing(sure, 0, ENDS).reasons()).containsExactly("kept out");
    Admission perhaps =
        open(facts(0, Facts.NEVER))
            .barring(java.util.Map.of(0, List.of(new Admission.Bar("perhaps", ENDS, false))));
    assertThat(standing(perhaps, 0, ENDS).state()).isEqualTo(State.UNDECIDED);
  }

  @Test
  void aStateThatWasNotReadIsUndecidedUnlessSomethingElseBlocks() {
    assertThat(standing(open(facts(Facts.STATE_UNKNOWN, Facts.NEVER)), 0, ENDS).state())
        .isEqualTo(State.UNDECIDED);
    assertThat(standing(open(facts(Facts.STATE_UNKNOWN, ENDS)), 0, ENDS).state())
        .isEqualTo(State.BLOCKED);
  }

  /** A register line for a group that was not read: anybody may be enrolled. */
  @Test
  void aGroupThatWasNotReadMayEnrolAnybody() {
    Facts facts = facts(0, Facts.NEVER);
    Admission admission =
        open(facts, new Enrolment(Grant.UNREAD, "gone", "directory", true, Place.of("r")));
    SubjectSet subjects = new SubjectSet();
    subjects.sure().add(0);
    admission.addImplicit(subjects);
    assertThat(admission.namesUnread()).isTrue();
    assertThat(admission.standing(0, subjects, ENDS).state()).isEqualTo(State.UNDECIDED);
  }
}
