package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Redundancy;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/** Thousands of small random organizations: the real answers are those of the reference. */
class AgainstTheReferenceTest {
  private static final int ORGANIZATIONS = 3000;
  private static final int BATCH = 500;

  static LongStream batches() {
    return LongStream.range(0, ORGANIZATIONS / BATCH);
  }

  private interface Check {
    void run(SmallWorld world, Naive naive, SystemView view, Asker asker, String seed);
  }

  private static void each(long batch, Check check) {
    each(batch, BATCH, check);
  }

  private static void each(long batch, int most, Check check) {
    for (long seed = batch * BATCH; seed < batch * BATCH + most; seed++) {
      SmallWorld world = new SmallWorld(seed);
      AccessModel model = world.model();
      if (seed % 2 == 0) {
        model.systems().get(0).memberships().prepare();
      }
      check.run(world, new Naive(world), model.systems().get(0), model.asker(), "seed " + seed);
    }
  }

  private static Set<Integer> set(org.sobercompass.core.store.IntList list) {
    Set<Integer> all = new HashSet<>();
    for (int i = 0; i < list.size(); i++) {
      all.add(list.get(i));
    }
    return all;
  }

  @ParameterizedTest
  @MethodSource("batches")
  void membershipsAreThoseOfTheReference(long batch) {
    each(
        batch,
        (world, naive, view, asker, seed) -> {
          for (int a = 0; a < world.facts.accounts(); a++) {
            SubjectSet subjects = asker.subjects(view, a);
            assertThat(set(subjects.sure())).as(seed).isEqualTo(naive.sure(a));
            assertThat(set(subjects.perhaps())).as(seed).isEqualTo(naive.perhaps(a));
          }
        });
  }

  @ParameterizedTest
  @MethodSource("batches")
  void roleRightsAreThoseOfTheReference(long batch) {
    each(
        batch,
        (world, naive, view, asker, seed) -> {
          for (int role = 0; role < world.definitions.size(); role++) {
            for (int right = 0; right < world.rights.size(); right++) {
              String text = world.rights.text(right);
              assertThat(view.system().roles().get(role).allows(right))
                  .as(seed + text)
                  .isEqualTo(naive.allows(world.definitions.get(role), text));
              assertThat(view.system().roles().get(role).denies(right))
                  .as(seed + text)
                  .isEqualTo(naive.denies(world.definitions.get(role), text));
            }
          }
        });
  }

  /**
   * A holding stands exactly where the outcome differs from the node above, and reaches as said.
   */
  @ParameterizedTest
  @MethodSource("batches")
  void holdingsCoverExactlyWhatIsHeldFromTheirBreakpoints(long batch) {
    each(
        batch,
        (world, naive, view, asker, seed) -> {
          Resources tree = view.resources();
          for (int a = 0; a < world.facts.accounts(); a++) {
            Map<String, Standing.State> covered = new HashMap<>();
            for (Holding holding : asker.holdings(view, a)) {
              for (int node = holding.resource(); node < tree.end(holding.resource()); node++) {
                int at = node;
                boolean out =
                    holding.excluded().stream().anyMatch(top -> tree.covers(top, at))
                        || (holding.reach() == Holding.Reach.RESOURCE
                            && node != holding.resource());
                if (!out) {
                  assertThat(covered.put(node + "/" + holding.right(), holding.state()))
                      .as(seed)
                      .isNull();
                }
              }
              int parent = tree.parent(holding.resource());
              if (parent >= 0) {
                assertThat(state(asker, view, a, holding.right(), parent))
                    .as(seed)
                    .isNotEqualTo(holding.state());
              }
            }
            for (int node = 0; node < tree.size(); node++) {
              for (int right = 0; right < world.rights.size(); right++) {
                assertThat(covered.get(node + "/" + right))
                    .as(seed + " node " + node + " account " + a)
                    .isEqualTo(state(asker, view, a, right, node));
              }
            }
          }
        });
  }

  private static Standing.State state(
      Asker asker, SystemView view, int account, int right, int node) {
    Verdict verdict = asker.decide(view, account, Question.of(node, right));
    if (verdict == Verdict.NO) {
      return null;
    }
    Standing.State state = asker.standing(view, account).state();
    return verdict == Verdict.UNDECIDED && state == Standing.State.USABLE
        ? Standing.State.UNDECIDED
        : state;
  }

  @ParameterizedTest
  @MethodSource("batches")
  void redundantIsWhatChangesNothingAtAnyTimeLeft(long batch) {
    each(
        batch,
        120,
        (world, naive, view, asker, seed) -> {
          List<Grant> grants = world.application.grants(Basis.ACTUAL);
          BitSet everywhere = Redundancy.everywhere(asker.model(), view);
          BitSet expected = new BitSet();
          BitSet needed = new BitSet();
          for (int a = 0; a < world.facts.accounts(); a++) {
            List<Integer> found = new Redundancy(asker).of(view, a);
            for (int g = 0; g < grants.size(); g++) {
              boolean redundant = naive.isRedundant(a, grants.get(g));
              assertThat(found.contains(g))
                  .as(seed + " account " + a + " grant " + g)
                  .isEqualTo(redundant);
              if (grants.get(g).subject() >= 0 && naive.sure(a).contains(grants.get(g).subject())) {
                (redundant ? expected : needed).set(g);
              } else if (naive.perhaps(a).contains(grants.get(g).subject())) {
                needed.set(g);
              }
            }
          }
          expected.andNot(needed);
          assertThat(everywhere).as(seed).isEqualTo(expected);
        });
  }

  @ParameterizedTest
  @MethodSource("batches")
  void everyOpenRouteIsAChainOfRealMemberships(long batch) {
    each(
        batch,
        (world, naive, view, asker, seed) -> {
          for (int a = 0; a < world.facts.accounts(); a++) {
            var routes = new RouteFinder(asker, Limits.USUAL).find(view, a, (int) (batch % 16), 0);
            if (routes.decision().verdict() == Verdict.YES) {
              assertThat(routes.open()).as(seed).isNotEmpty();
            }
            for (var route : routes.open()) {
              for (int i = 1; i < route.subjects().size(); i++) {
                assertThat(isStep(asker, route.subjects().get(i - 1), route.subjects().get(i)))
                    .as(seed)
                    .isTrue();
              }
              assertThat(new HashSet<>(route.subjects())).hasSameSizeAs(route.subjects());
            }
          }
        });
  }

  private static boolean isStep(Asker asker, int from, int to) {
    var graph = asker.model().graph();
    boolean listed =
        IntStream.range(0, graph.upCount(from)).anyMatch(i -> graph.upGroup(from, i) == to);
    return listed || to >= asker.model().facts().firstGroup() + asker.model().facts().groups();
  }
}
