package org.sobercompass.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.system.Verdict;

/** How far accounts get in each area of random applications, against asking for each right. */
class LevelsHeldTest {
  @Test
  void theHighestLevelOfEachAreaIsTold() {
    int cells = 0;
    int parts = 0;
    for (int seed = 0; seed < 200; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      SystemView view = model.systems().get(0);
      LevelsHeld held =
          LevelsHeld.of(
              model.asker(), view, IntStream.range(0, model.facts().accounts()).boxed().toList());
      for (int account = 0; account < model.facts().accounts(); account++) {
        int who = account;
        Optional<LevelsHeld.Row> row =
            held.rows().stream().filter(r -> r.account() == who).findFirst();
        Set<Integer> rights = held(model, view, who);
        assertThat(row.isPresent()).as("seed %s", seed).isEqualTo(!rights.isEmpty());
        for (int a = 0; a < held.areas().size(); a++) {
          int at = a;
          String area = held.areas().get(a);
          Optional<LevelsHeld.Cell> cell = row.flatMap(r -> r.cells().get(at));
          List<String> levels = highest(view, rights, area);
          assertThat(cell.map(LevelsHeld.Cell::levels).orElse(List.of()))
              .as("seed %s, %s", seed, area)
              .containsExactlyInAnyOrderElementsOf(levels);
          cells += cell.isPresent() ? 1 : 0;
          parts += cell.map(c -> c.whole() ? 0 : 1).orElse(0);
        }
      }
    }
    assertThat(cells).isGreaterThan(500);
    assertThat(parts).isGreaterThan(50);
  }

  /** Every right that an account has, surely or perhaps, at any node. */
  private static Set<Integer> held(AccessModel model, SystemView view, int account) {
    Set<Integer> rights = new HashSet<>();
    for (int right = 0; right < view.rights().size(); right++) {
      for (int node = 0; node < view.resources().size(); node++) {
        if (model.asker().can(view, account, right, node).held() != Verdict.NO) {
          rights.add(right);
        }
      }
    }
    return rights;
  }

  private static List<String> highest(SystemView view, Set<Integer> rights, String area) {
    List<String> levels = new ArrayList<>();
    for (int right : rights) {
      String text = view.rights().text(right);
      boolean ofArea = text.startsWith(area + ":") && text.indexOf(':') == area.length();
      if (ofArea && rights.stream().noneMatch(r -> view.rights().contains(r).contains(right))) {
        levels.add(text.substring(area.length() + 1));
      }
    }
    return levels;
  }
}
