package org.sobercompass.core.membership;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;

/** Chains, circles and large shapes of memberships. */
class MembershipTest {
  private final FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
  private final FactsSource source = builder.source("d");

  private int add(SubjectKind kind, String name) {
    return source.add(new SubjectRow(kind, name, name, name, name, name, "", 0, Facts.NEVER));
  }

  private void group(String name, String... members) {
    int row = add(SubjectKind.GROUP, name);
    for (String member : members) {
      source.refer(row, Via.MEMBER, Space.DN, member);
    }
  }

  private static Memberships widest(Facts facts) {
    return new Memberships(
        MembershipGraph.of(facts), MembershipProfile.WIDEST, Visibility.all(facts));
  }

  private static List<String> paths(Facts facts, String to, int limit) {
    int target = facts.names().find(SubjectKind.GROUP, to, to).get(0);
    return new MembershipPaths(widest(facts))
        .find(0, target, limit).list().stream()
            .map(p -> String.join(">", p.subjects().stream().map(facts::login).toList()))
            .toList();
  }

  @Test
  void allChainsThatDoNotContainOneAnotherShortestFirst() {
    add(SubjectKind.ACCOUNT, "a");
    group("g1", "a");
    group("g2", "a", "g1");
    group("g3", "g1");
    group("top", "g2", "g3");
    Facts facts = builder.build();
    assertThat(paths(facts, "top", 10)).containsExactly("a>g2>top", "a>g1>g3>top");
  }

  @Test
  void aLimitThatIsReachedIsSaid() {
    add(SubjectKind.ACCOUNT, "a");
    String[] middle = new String[30];
    for (int i = 0; i < 30; i++) {
      middle[i] = "m" + i;
      group("m" + i, "a");
    }
    group("top", middle);
    Facts facts = builder.build();
    int top = facts.names().find(SubjectKind.GROUP, "top", "top").get(0);
    MembershipPaths.Paths some = new MembershipPaths(widest(facts)).find(0, top, 5);
    assertThat(some.list()).hasSize(5);
    assertThat(some.more()).isTrue();
    MembershipPaths.Paths all = new MembershipPaths(widest(facts)).find(0, top, 100);
    assertThat(all.list()).hasSize(30);
    assertThat(all.more()).isFalse();
  }

  @Test
  void circlesAreFoundOnceEachAndASelfMemberIsOne() {
    add(SubjectKind.ACCOUNT, "a");
    group("x", "y", "a");
    group("y", "z");
    group("z", "x");
    group("self", "self");
    group("tree", "x");
    Facts facts = builder.build();
    List<List<String>> circles = new ArrayList<>();
    for (int[] circle : Circles.of(MembershipGraph.of(facts))) {
      circles.add(java.util.Arrays.stream(circle).mapToObj(facts::login).toList());
    }
    assertThat(circles).containsExactly(List.of("self"), List.of("x", "z", "y"));
  }

  @Test
  void closuresAndWalksAgreeOnLargeRandomGraphsWithCircles() {
    Random random = new Random(11);
    for (int a = 0; a < 50; a++) {
      add(SubjectKind.ACCOUNT, "a" + a);
    }
    for (int g = 0; g < 3000; g++) {
      List<String> members = new ArrayList<>();
      members.add("a" + random.nextInt(50));
      for (int i = random.nextInt(3); i > 0; i--) {
        members.add("g" + random.nextInt(3000));
      }
      group("g" + g, members.toArray(String[]::new));
    }
    Facts facts = builder.build();
    Memberships walked = widest(facts);
    Memberships closed = widest(facts);
    closed.prepare();
    SubjectSet a = new SubjectSet();
    SubjectSet b = new SubjectSet();
    for (int account = 0; account < 50; account++) {
      walked.walker().subjects(account, a);
      closed.walker().subjects(account, b);
      assertThat(set(b.sure())).isEqualTo(set(a.sure())).hasSize(b.sure().size());
    }
  }

  @Test
  void theMembersOfAGroupAreThoseWhoseTokenHasIt() {
    Random random = new Random(12);
    for (int a = 0; a < 30; a++) {
      add(SubjectKind.ACCOUNT, "a" + a);
    }
    for (int g = 0; g < 40; g++) {
      group("g" + g, "a" + random.nextInt(30), "a" + random.nextInt(30), "g" + random.nextInt(40));
    }
    Facts facts = builder.build();
    for (int nesting : new int[] {0, 1, 3, MembershipProfile.FULL}) {
      Memberships memberships =
          new Memberships(
              MembershipGraph.of(facts),
              new MembershipProfile(EnumSet.allOf(Via.class), nesting, true),
              Visibility.all(facts));
      for (int group = facts.firstGroup(); group < facts.firstGroup() + 40; group++) {
        IntList down = new IntList();
        memberships.walker().accounts(group, down);
        Set<Integer> up = new HashSet<>();
        SubjectSet subjects = new SubjectSet();
        for (int account = 0; account < 30; account++) {
          memberships.walker().subjects(account, subjects);
          if (subjects.sure().contains(group)) {
            up.add(account);
          }
        }
        assertThat(set(down)).as("nesting " + nesting).isEqualTo(up);
        for (int other = facts.firstGroup(); other < facts.firstGroup() + 40; other++) {
          IntList below = new IntList();
          IntList above = new IntList();
          memberships.walker().groups(group, below);
          memberships.walker().groupsAbove(other, above);
          assertThat(above.contains(group))
              .as("nesting %d: %d above %d", nesting, group, other)
              .isEqualTo(below.contains(other));
        }
      }
    }
  }

  @Test
  void theSizesOfAllGroupsAtOnceAreThoseOfOneAfterTheOther() {
    Random random = new Random(13);
    for (int a = 0; a < 30; a++) {
      add(SubjectKind.ACCOUNT, "a" + a);
    }
    for (int g = 0; g < 60; g++) {
      group("g" + g, "a" + random.nextInt(30), "g" + random.nextInt(60), "g" + random.nextInt(60));
    }
    Facts facts = builder.build();
    for (Set<Via> counts : List.of(EnumSet.allOf(Via.class), EnumSet.of(Via.MEMBER))) {
      Memberships memberships =
          new Memberships(
              MembershipGraph.of(facts),
              new MembershipProfile(counts, MembershipProfile.FULL, true),
              Visibility.all(facts));
      int[] sizes = GroupSizes.of(memberships);
      for (int g = 0; g < 60; g++) {
        IntList down = new IntList();
        memberships.walker().accounts(facts.firstGroup() + g, down);
        assertThat(sizes[g]).isEqualTo(down.size());
      }
    }
    Memberships near =
        new Memberships(
            MembershipGraph.of(facts),
            new MembershipProfile(EnumSet.allOf(Via.class), 1, true),
            Visibility.all(facts));
    assertThatThrownBy(() -> GroupSizes.of(near)).hasMessageContaining("full nesting");
  }

  private static Set<Integer> set(IntList list) {
    Set<Integer> all = new HashSet<>();
    for (int i = 0; i < list.size(); i++) {
      all.add(list.get(i));
    }
    return all;
  }
}
