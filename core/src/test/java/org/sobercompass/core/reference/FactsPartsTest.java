package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.AccountRow;
import org.sobercompass.core.facts.Column;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsParts;
import org.sobercompass.core.membership.Counting;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntRows;

/** Facts parted by accounts and put together. */
class FactsPartsTest {

  @Test
  void allRowsInTheFrameAreTheFactsThatTheyCameFrom() {
    for (long seed = 0; seed < 300; seed++) {
      Facts facts = new SmallWorld(seed).facts;
      List<AccountRow> rows = rows(facts, 0, facts.accounts());
      Facts again = FactsParts.with(FactsParts.frame(facts), rows);
      assertThat(again.accounts()).isEqualTo(facts.accounts());
      for (int s = 0; s < facts.subjects(); s++) {
        assertThat(again.key(s)).isEqualTo(facts.key(s));
        assertThat(again.title(s)).isEqualTo(facts.title(s));
        assertThat(again.dn(s)).isEqualTo(facts.dn(s));
        assertThat(again.container(s)).isEqualTo(facts.container(s));
        assertThat(again.arrays().up().row(s)).isEqualTo(facts.arrays().up().row(s));
        assertThat(down(again).row(s)).isEqualTo(down(facts).row(s));
        for (String name : facts.arrays().columns().keySet()) {
          Column column = again.arrays().columns().get(name);
          assertThat(column.values(s)).isEqualTo(facts.arrays().columns().get(name).values(s));
        }
      }
      assertThat(again.arrays().upVia()).isEqualTo(facts.arrays().upVia());
      assertThat(again.arrays().flags()).isEqualTo(facts.arrays().flags());
      assertThat(again.arrays().open()).isEqualTo(facts.arrays().open());
    }
  }

  private static IntRows down(Facts facts) {
    return facts.arrays().memberships().down().rows();
  }

  @Test
  void whatAnAccountCountsAsIsTheSameInItsPart() {
    for (long seed = 0; seed < 300; seed++) {
      SmallWorld world = new SmallWorld(seed);
      Facts frame = FactsParts.frame(world.facts);
      Counting counting = world.sight;
      Memberships whole = counting.over(MembershipGraph.of(world.facts));
      for (int account = 0; account < world.facts.accounts(); account++) {
        Facts part = FactsParts.with(frame, rows(world.facts, account, account + 1));
        Memberships own = counting.over(MembershipGraph.of(part));
        assertThat(keys(part, own, 0)).isEqualTo(keys(world.facts, whole, account));
      }
    }
  }

  @Test
  void accountsOutOfOrderAreRefused() {
    Facts facts = new SmallWorld(1).facts;
    List<AccountRow> rows = new ArrayList<>(rows(facts, 0, 2));
    java.util.Collections.reverse(rows);
    assertThatThrownBy(() -> FactsParts.with(FactsParts.frame(facts), rows))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("ascend");
  }

  private static List<AccountRow> rows(Facts facts, int from, int to) {
    return IntStream.range(from, to).mapToObj(account -> AccountRow.of(facts, account)).toList();
  }

  private static List<String> keys(Facts facts, Memberships memberships, int account) {
    SubjectSet set = new SubjectSet();
    memberships.walker().subjects(account, set);
    List<String> keys = new ArrayList<>();
    IntStream.of(set.sure().toArray()).forEach(s -> keys.add("sure " + facts.key(s)));
    IntStream.of(set.perhaps().toArray()).forEach(s -> keys.add("perhaps " + facts.key(s)));
    keys.sort(null);
    return keys;
  }
}
