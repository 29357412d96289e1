package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Verdict;

/** What is swept in bulk, from sums of bits or not, is what single questions say. */
class CellsTest {

  @Test
  void bulkSweepsGiveWhatSingleQuestionsGive() {
    for (long seed = 0; seed < 600; seed++) {
      AccessModel model = new SmallWorld(seed).modelOf(1 + (int) (seed % 4));
      Collected cells = new Collected();
      int accounts = model.facts().accounts();
      Bulk.cells(model.asker(), new Bulk.Range(0, accounts), cells);
      Asker asker = model.asker();
      for (int account = 0; account < accounts; account++) {
        for (SystemView view : model.systems()) {
          Held held = cells.all.getOrDefault(account + " " + view.id(), new Held(view));
          for (Verdict verdict : new Verdict[] {Verdict.YES, Verdict.UNDECIDED}) {
            BitSet swept = verdict == Verdict.YES ? held.yes : held.perhaps;
            assertThat(swept)
                .as("seed " + seed + ", account " + account + ", " + view.id() + ", " + verdict)
                .isEqualTo(asked(asker, view, account, verdict));
          }
        }
      }
    }
  }

  @Test
  void anApplicationWithoutRightsGivesNothingAndDisturbsNobody() {
    for (long seed = 0; seed < 50; seed++) {
      SmallWorld world = new SmallWorld(seed);
      AccessModel alone = world.model();
      AccessModel beside = world.modelBesideOneWithoutRights();
      int accounts = alone.facts().accounts();
      Collected expected = new Collected();
      Bulk.cells(alone.asker(), new Bulk.Range(0, accounts), expected);
      Collected cells = new Collected();
      Bulk.cells(beside.asker(), new Bulk.Range(0, accounts), cells);
      cells.all.keySet().removeIf(key -> key.endsWith(" without"));
      assertThat(cells.all.keySet()).isEqualTo(expected.all.keySet());
      expected.all.forEach(
          (key, held) -> assertThat(cells.all.get(key).yes).as(key).isEqualTo(held.yes));
    }
  }

  private static BitSet asked(Asker asker, SystemView view, int account, Verdict verdict) {
    BitSet asked = new BitSet();
    for (int node = 0; node < view.resources().size(); node++) {
      for (int right = 0; right < view.rights().size(); right++) {
        Question question = Question.of(node, right);
        if (asker.decide(view, account, question) == verdict) {
          asked.set(node * 64 + right);
        }
      }
    }
    return asked;
  }

  /** One bit for each node and right; a cell that comes later is further down and counts. */
  private static final class Held {
    final Resources nodes;
    final BitSet yes = new BitSet();
    final BitSet perhaps = new BitSet();

    Held(SystemView view) {
      nodes = view.resources();
    }

    void take(int node, boolean below, int count, long[] sure, long[] open) {
      int from = below ? node + 1 : node;
      int to = below ? nodes.end(node) : node + 1;
      for (int n = from; n < to; n++) {
        replace(yes, n, sure.length == 0 ? 0 : sure[0]);
        replace(perhaps, n, open.length == 0 ? 0 : open[0]);
      }
    }

    private static void replace(BitSet set, int node, long bits) {
      set.clear(node * 64, node * 64 + 64);
      for (int right = 0; right < 64; right++) {
        set.set(node * 64 + right, (bits >>> right & 1) != 0);
      }
    }
  }

  /** Notes cells, and that accounts, systems and nodes come in their order. */
  private static final class Collected implements Bulk.Cells {
    final Map<String, Held> all = new TreeMap<>();
    private Held held;
    private int account = -1;
    private int system = -1;
    private int node = -1;

    @Override
    public void at(int who, SystemView where) {
      assertThat(who > account || (who == account && where.number() > system)).isTrue();
      account = who;
      system = where.number();
      node = -1;
      held = new Held(where);
      all.put(who + " " + where.id(), held);
    }

    @Override
    public void cell(int resource, boolean below, int count, long[] yes, long[] perhaps) {
      assertThat(below ? resource >= node : resource > node).isTrue();
      node = resource;
      held.take(resource, below, count, yes, perhaps);
    }
  }
}
