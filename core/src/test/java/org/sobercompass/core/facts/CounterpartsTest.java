package org.sobercompass.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.problem.Problems;

/** Who is who in two readings, against looking up each by its key. */
class CounterpartsTest {
  /** Some accounts and groups in any order; who is new since has an id, and had only a DN. */
  private static Facts reading(List<String> ids, boolean later) {
    FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
    FactsSource source = builder.source("d");
    for (String id : ids) {
      SubjectKind kind = id.startsWith("g") ? SubjectKind.GROUP : SubjectKind.ACCOUNT;
      String dn = "cn=" + id;
      String own = id.endsWith("0") && !later ? dn : id;
      int row = source.add(new SubjectRow(kind, own, dn, id, id, id, "", 0, Facts.NEVER));
      source.name(row, Space.LOGIN, id);
    }
    return builder.build();
  }

  @Test
  void eachIsFoundByItsKeyInWhateverOrder() {
    int moved = 0;
    for (long seed = 0; seed < 300; seed++) {
      Random random = new Random(seed);
      List<String> ids = new ArrayList<>();
      for (int i = 0; i < 40; i++) {
        ids.add((random.nextInt(4) == 0 ? "g" : "a") + i);
      }
      List<String> others = new ArrayList<>(ids);
      others.removeIf(id -> random.nextInt(8) == 0);
      for (int i = 0; i < random.nextInt(4); i++) {
        others.add(random.nextInt(others.size()), "a9" + i);
      }
      if (random.nextBoolean()) {
        Collections.shuffle(others, random);
      }
      Facts here = reading(ids, true);
      Facts there = reading(others, random.nextBoolean());
      Counterparts counterparts = Counterparts.of(here, there);
      for (int subject = 0; subject < here.accounts() + here.groups(); subject++) {
        assertThat(counterparts.of(subject))
            .as("seed %d, %s", seed, here.key(subject).text())
            .isEqualTo(there.find(here.key(subject)));
        assertThat(counterparts.at(subject)).isEqualTo(counterparts.of(subject).orElse(-1));
        moved += counterparts.at(subject) != subject ? 1 : 0;
      }
    }
    assertThat(moved).isGreaterThan(1_000);
  }
}
