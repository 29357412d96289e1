package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;

/** The accounts of several subjects, found together, are those that each has by itself. */
class FoundTogetherTest {
  @Test
  void togetherTheyAreAllThatEachHas() {
    int left = 0;
    for (long seed = 0; seed < 400; seed++) {
      SmallWorld world = new SmallWorld(seed);
      Memberships memberships = world.sight.over(MembershipGraph.of(world.facts));
      Memberships.Walker together = memberships.walker();
      together.begin();
      BitSet expected = new BitSet();
      BitSet found = new BitSet();
      for (int subject = world.facts.subjects() - 1; subject >= 0; subject--) {
        if (world.facts.kind(subject) != SubjectKind.IMPLICIT) {
          IntList own = new IntList();
          memberships.walker().accounts(subject, own);
          own.setIn(expected);
          IntList more = new IntList();
          together.more(subject, more);
          more.setIn(found);
          left += own.size() - more.size();
          assertThat(found).as("seed %d, subject %d", seed, subject).isEqualTo(expected);
        }
      }
    }
    assertThat(left).as("what was found before is left out").isPositive();
  }
}
