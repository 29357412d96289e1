package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.store.IntList;

/** Whoever loses something to an assignment has one of those that could take. */
class MayTakeTest {
  @Test
  void whatTakesAwayIsAmongWhatCould() {
    int taken = 0;
    int harmless = 0;
    for (long seed = 0; seed < 600; seed++) {
      AccessModel model = new SmallWorld(seed).modelOf(3);
      Asker asker = model.asker();
      for (SystemView view : model.systems()) {
        for (int account = 0; account < model.facts().accounts(); account++) {
          IntList taking = view.decider().taking(asker.projected(view, account));
          for (int i = 0; i < taking.size(); i++) {
            assertThat(view.decider().mayTake(taking.get(i))).as("seed %d", seed).isTrue();
            taken++;
          }
        }
        for (int grant = 0; grant < view.grants().size(); grant++) {
          harmless += view.decider().mayTake(grant) ? 0 : 1;
        }
      }
    }
    assertThat(taken).isPositive();
    assertThat(harmless).isPositive();
  }
}
