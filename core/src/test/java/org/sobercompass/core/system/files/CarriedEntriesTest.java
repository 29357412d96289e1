package org.sobercompass.core.system.files;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.Carry;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.system.Verdict;

/** Entries, owners and owning groups carried over in random trees of files. */
class CarriedEntriesTest {
  private static final int SEEDS = 150;

  private final Facts facts = RandomFiles.facts();

  private AccessModel random(FileStyle style, int seed) {
    return RandomFiles.model(
        facts, RandomFiles.access(facts, style, RandomFiles.spots(style, new Random(seed))));
  }

  private static AccessModel done(AccessModel model, Proposal proposal, int seed) {
    Bound bound = proposal.on(model);
    assertThat(bound.isSound()).as("seed " + seed + bound.notes()).isTrue();
    return model.with(bound.changes());
  }

  /** What the other can do after is what the one could before; nobody else gains or loses. */
  @ParameterizedTest
  @EnumSource(FileStyle.class)
  void besideGivesTheSameAndChangesNothingElse(FileStyle style) {
    int given = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      AccessModel before = random(style, seed);
      int from = seed % RandomFiles.ACCOUNTS;
      int to = (from + 1 + seed % (RandomFiles.ACCOUNTS - 1)) % RandomFiles.ACCOUNTS;
      Carried carried = new Carry(before, Map.of(from, to), CarryPlan.USUAL).make();
      AccessModel after = done(before, carried.proposal(""), seed);
      Map<String, Verdict> was = RandomFiles.decisions(before);
      Map<String, Verdict> is = RandomFiles.decisions(after);
      for (Map.Entry<String, Verdict> one : is.entrySet()) {
        String what = one.getKey().substring(1);
        int who = one.getKey().charAt(0) - '0';
        String told = style + ", seed " + seed + ", " + from + " to " + to + ":" + one.getKey();
        if (who != to) {
          assertThat(one.getValue()).as(told).isEqualTo(was.get(one.getKey()));
        } else if (style == FileStyle.POSIX && !what.endsWith("change-permissions")) {
          // What comes to everybody else is not carried: who is in a listed group may have less.
          boolean could =
              was.get(to + what) == Verdict.YES && isByName(before, to, what)
                  || was.get(from + what) == Verdict.YES && isByName(before, from, what);
          assertThat(one.getValue() == Verdict.YES || !could).as(told).isTrue();
          given += one.getValue() == was.get(one.getKey()) ? 0 : 1;
        }
      }
      assertThat(new Carry(after, Map.of(from, to), CarryPlan.USUAL).make().proposal("").steps())
          .as("twice, seed " + seed)
          .isEmpty();
    }
    assertThat(given).isGreaterThan(style == FileStyle.POSIX ? SEEDS : -1);
  }

  /** Whether the lists of a path and of all above name an account, or a group that it is in. */
  private boolean isByName(AccessModel model, int account, String what) {
    FileAccess system = (FileAccess) model.systems().get(0).system();
    int at = system.resources().find(what.substring(1, what.lastIndexOf(' '))).orElseThrow();
    for (; at >= 0; at = system.resources().parent(at)) {
      // Under an empty mask Linux looks at no entry.
      boolean empty = ((PosixList) system.facts().list(at).orElseThrow()).parts().mask() == 0;
      boolean named =
          system.list(at).stream()
              .anyMatch(
                  line ->
                      line.subject() == account
                          || line.subject() >= facts.firstGroup()
                              && model.graph().surely(account, line.subject()).isPresent());
      if (empty || !named) {
        return false;
      }
    }
    return true;
  }

  /** Instead, the other is the owner too, and the one has nothing left by its name. */
  @ParameterizedTest
  @EnumSource(FileStyle.class)
  void insteadLeavesNothingByName(FileStyle style) {
    for (int seed = 0; seed < SEEDS; seed++) {
      AccessModel before = random(style, seed);
      int from = seed % RandomFiles.ACCOUNTS;
      int to = (from + 1) % RandomFiles.ACCOUNTS;
      CarryPlan plan = CarryPlan.USUAL.by(How.INSTEAD);
      Carried carried = new Carry(before, Map.of(from, to), plan).make();
      AccessModel after = done(before, carried.proposal(""), seed);
      Carried left = new Carry(after, Map.of(from, to), plan).make();
      assertThat(left.rights()).as("seed " + seed).isEmpty();
      if (style == FileStyle.POSIX) {
        Map<String, Verdict> was = RandomFiles.decisions(before);
        RandomFiles.decisions(after)
            .forEach(
                (key, verdict) -> {
                  boolean owns = key.charAt(0) - '0' == to && key.endsWith("change-permissions");
                  if (owns) {
                    Verdict old = was.get(from + key.substring(1));
                    assertThat(verdict == Verdict.YES || old != Verdict.YES).as(key).isTrue();
                  }
                });
      }
    }
  }

  @org.junit.jupiter.api.Test
  void ownersAreSetByTheirName() {
    AccessModel before = random(FileStyle.POSIX, 1);
    List<String> owned =
        before.systems().get(0).system().items().get(1).stream().map(e -> e.text()).toList();
    assertThat(owned).contains("owner:a1");
    assertThat(before.systems().get(0).system().itemFor("owner:a1", 3)).isEqualTo("owner:a3");
  }
}
