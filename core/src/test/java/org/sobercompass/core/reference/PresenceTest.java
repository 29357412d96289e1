package org.sobercompass.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;

/**
 * Accounts and groups that are deleted, or created: as if they had never been, or had been read.
 */
class PresenceTest {
  static LongStream seeds() {
    return LongStream.range(7000, 7150);
  }

  private static AccessModel without(AccessModel model, int subject) {
    return model.with(List.of(new Change.PresenceChanged(subject, false)));
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void whoIsDeletedIsAsIfNeverSeenInEveryKindOfAnswer(long seed) {
    SmallWorld world = new SmallWorld(seed);
    AccessModel model = world.model();
    for (int subject = 0; subject < world.facts.firstGroup() + world.facts.groups(); subject++) {
      AccessModel after = without(model, subject);
      Naive naive = new Naive(world, model.graph(), Set.of(subject));
      check(after, naive, world, "seed " + seed + " without " + subject);
    }
  }

  private static void check(AccessModel after, Naive naive, SmallWorld world, String as) {
    Asker asker = after.asker();
    SystemView view = after.systems().get(0);
    Holders holders = new Holders(after.asker());
    assertThat(visited(after)).as(as).noneMatch(after.facts()::isAbsent);
    for (int right = 0; right < world.rights.size(); right++) {
      for (int node = 0; node < view.resources().size(); node++) {
        Question question = Question.of(node, right);
        Crowd crowd = holders.all(view, question);
        for (int a = 0; a < world.facts.accounts(); a++) {
          Verdict expected = naive.decide(a, world.rights.text(right), node);
          assertThat(asker.decide(view, a, question)).as(as).isEqualTo(expected);
          assertThat(crowd.yes().get(a)).as(as).isEqualTo(expected == Verdict.YES);
          assertThat(crowd.perhaps().get(a)).as(as).isEqualTo(expected == Verdict.UNDECIDED);
        }
      }
    }
  }

  /** The accounts of which a sweep over all accounts tells something. */
  private static Set<Integer> visited(AccessModel model) {
    Set<Integer> visited = new TreeSet<>();
    Bulk.cells(
        model.asker(),
        new Bulk.Range(0, model.facts().accounts()),
        new Bulk.Cells() {
          @Override
          public void at(int account, SystemView view) {
            visited.add(account);
          }

          @Override
          public void cell(int resource, boolean below, int count, long[] yes, long[] perhaps) {
            // Who is visited is enough.
          }
        });
    return visited;
  }

  /** What everybody holds. */
  private static List<Holding> held(AccessModel model) {
    List<Holding> all = new ArrayList<>();
    Asker asker = model.asker();
    for (int account = 0; account < model.facts().accounts(); account++) {
      all.addAll(asker.holdings(account));
    }
    return all;
  }

  @ParameterizedTest
  @MethodSource("seeds")
  void deletedAndCreatedAgainEverythingIsAsBefore(long seed) {
    SmallWorld world = new SmallWorld(seed);
    AccessModel model = world.model();
    for (int subject = 0; subject < world.facts.firstGroup() + world.facts.groups(); subject++) {
      Step gone = new Step.Presence(world.facts.key(subject), "dn", Map.of(), false);
      AccessModel after = model.with(new Proposal("", List.of(gone)).on(model).changes());
      Bound back = new Proposal("", List.of(gone.inverse())).on(after);
      assertThat(back.notes()).isEmpty();
      assertThat(held(after.with(back.changes()))).as("seed " + seed).isEqualTo(held(model));
    }
  }

  @Test
  void whatIsToBeCreatedHasANumberAndIsAbsentUntilItIs() {
    FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
    FactsSource source = builder.source("dir");
    int ann = add(source, SubjectKind.ACCOUNT, "uid=ann");
    builder.expected();
    int bea = add(source, SubjectKind.ACCOUNT, "uid=aaa-comes-first");
    int group = add(source, SubjectKind.GROUP, "cn=new");
    source.refer(group, Via.MEMBER, FactsBuilder.Space.DN, "uid=ann");
    Facts facts = builder.build();
    BitSet expected = new BitSet();
    expected.set(0);
    expected.set(facts.firstGroup());
    assertThat(facts.absent()).isEqualTo(expected);
    assertThat(facts.present().cardinality()).isEqualTo(1);
    assertThat(ann + bea).isEqualTo(1);
    AccessModel model =
        AccessModel.of(facts, List.of(), Instant.ofEpochSecond(SmallWorld.NOW), Optional.empty());
    Step join = new Step.Join(facts.key(1), facts.key(facts.firstGroup()));
    Step creates = new Step.Presence(facts.key(facts.firstGroup()), "cn=new", Map.of(), true);
    assertThat(new Proposal("", List.of(join)).on(model).isSound()).isFalse();
    Bound bound = new Proposal("", List.of(creates, join)).on(model);
    assertThat(bound.isSound()).isTrue();
    assertThat(new Proposal("", List.of(creates)).on(model.with(bound.changes())).notes())
        .extracting(Bound.Note::kind)
        .containsExactly(Bound.Kind.ALREADY);
  }

  @Test
  void whatStillNamesTheDeletedIsTold() {
    int told = 0;
    for (long seed = 0; seed < 60; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      for (int subject = 0; subject < model.facts().firstUnit(); subject++) {
        int who = subject;
        if (model.facts().kind(subject) == SubjectKind.IMPLICIT) {
          continue;
        }
        Step gone = new Step.Presence(model.facts().key(subject), "dn", Map.of(), false);
        Bound bound = new Proposal("", List.of(gone)).on(model);
        boolean named =
            model.systems().get(0).grants().stream().anyMatch(grant -> grant.subject() == who);
        boolean listed = false;
        for (int i = 0; i < model.graph().upCount(who); i++) {
          listed |= model.graph().upVia(who, i).isListed();
        }
        for (int i = 0; who >= model.facts().accounts() && i < model.graph().downCount(who); i++) {
          listed |= model.graph().downVia(who, i) == Via.PRIMARY;
        }
        assertThat(bound.notes().stream().anyMatch(n -> n.kind() == Bound.Kind.LEFTOVER))
            .as("seed " + seed)
            .isEqualTo(named || listed);
        assertThat(bound.isSound()).isTrue();
        told += named || listed ? 1 : 0;
      }
    }
    assertThat(told).isGreaterThan(20);
  }

  private static int add(FactsSource source, SubjectKind kind, String dn) {
    return source.add(new SubjectRow(kind, dn, dn, dn, dn, dn, "", 0, Facts.NEVER));
  }
}
