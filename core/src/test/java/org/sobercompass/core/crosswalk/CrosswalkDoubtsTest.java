package org.sobercompass.core.crosswalk;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.crosswalk.Crosswalk.Doubt;
import org.sobercompass.core.crosswalk.Crosswalk.Trouble;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

/** Tables of who is who held against directories that moved, groups matched, names to be made. */
class CrosswalkDoubtsTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 30);

  /** Accounts and groups: {@code old account ann Ann Fern}. */
  private static Facts facts(String... lines) {
    FactsBuilder builder =
        new FactsBuilder(List.of("mobile", "givenname", "sn"), dn -> dn, new Problems());
    Map<String, FactsSource> sources = new HashMap<>();
    for (String line : lines) {
      String[] parts = line.split(" ", 4);
      FactsSource source = sources.computeIfAbsent(parts[0], builder::source);
      SubjectKind kind = parts[1].equals("group") ? SubjectKind.GROUP : SubjectKind.ACCOUNT;
      String id = "id-" + parts[0] + "-" + parts[2];
      source.add(
          new SubjectRow(
              kind, id, id, id, parts[2], parts.length > 3 ? parts[3] : "", "", 0, Facts.NEVER));
    }
    return builder.build();
  }

  private static CrosswalkLine line(String from, String to, Ruling ruling) {
    return new CrosswalkLine(
        SubjectKind.ACCOUNT,
        new Key(KeyKind.ACCOUNT, "old", "id-old-" + from),
        from,
        Optional.of(new Key(KeyKind.ACCOUNT, "new", "id-new-" + to)),
        to,
        ruling,
        "Ilse Brandt",
        Optional.of(DAY),
        "",
        "mobile=1",
        Place.of("table", 2));
  }

  private static List<Trouble> troubles(Facts facts, String agreedNow, CrosswalkLine... lines) {
    Candidate now =
        new Candidate(
            0, 90, List.of(new Reason("mobile", Reason.Degree.SAME, agreedNow, "", 1)), true);
    return new Crosswalk("old", "new", List.of(lines))
        .doubts(facts, (from, to) -> Optional.of(now)).stream().map(Doubt::trouble).toList();
  }

  @Test
  void whatHoldsIsNotTold() {
    Facts facts = facts("old account ann", "new account anna");
    assertThat(troubles(facts, "1", line("ann", "anna", Ruling.SAME))).isEmpty();
    assertThat(troubles(facts, "2", line("ann", "anna", Ruling.NEVER))).isEmpty();
    assertThat(troubles(facts, "2", line("ann", "anna", Ruling.OPEN))).isEmpty();
  }

  @Test
  void whoIsGoneAndWhatChangedIsTold() {
    Facts facts = facts("old account ann", "new account anna");
    assertThat(troubles(facts, "2", line("ann", "anna", Ruling.SAME)))
        .containsExactly(Trouble.CHANGED);
    assertThat(troubles(facts, "1", line("bob", "anna", Ruling.SAME)))
        .containsExactly(Trouble.FROM_GONE);
    assertThat(troubles(facts, "1", line("ann", "bob", Ruling.SAME)))
        .containsExactly(Trouble.TO_GONE);
  }

  @Test
  void linesThatCannotBothBeTrueAreWrongAndMergedOnesAreTold() {
    Facts facts = facts("old account ann", "old account bob", "new account anna", "new account bo");
    CrosswalkLine first = line("ann", "anna", Ruling.SAME);
    assertThat(troubles(facts, "1", first, line("ann", "bo", Ruling.SAME)))
        .containsExactly(Trouble.TWICE);
    assertThat(troubles(facts, "1", first, line("bob", "anna", Ruling.SAME)))
        .containsExactly(Trouble.MERGED);
    assertThat(troubles(facts, "1", first, line("ann", "bo", Ruling.NEVER))).isEmpty();
  }

  @Test
  void linesThatLeadBackAreACircle() {
    Key one = new Key(KeyKind.ACCOUNT, "d", "a");
    Key two = new Key(KeyKind.ACCOUNT, "d", "b");
    List<CrosswalkLine> lines = new ArrayList<>();
    for (List<Key> pair : List.of(List.of(one, two), List.of(two, one))) {
      CrosswalkLine line = line("ann", "anna", Ruling.SAME);
      lines.add(
          new CrosswalkLine(
              line.kind(),
              pair.get(0),
              pair.get(0).id(),
              Optional.of(pair.get(1)),
              pair.get(1).id(),
              line.ruling(),
              line.by(),
              line.on(),
              "",
              "",
              line.place()));
    }
    assertThat(new Crosswalk("d", "d", lines).contradictions())
        .allMatch(doubt -> doubt.trouble() == Trouble.CIRCLE && doubt.isWrong())
        .hasSize(2);
  }

  @Test
  void anotherNameInALineMakesAnotherCheck() {
    CrosswalkLine line = line("ann", "anna", Ruling.OPEN);
    assertThat(line.check()).isEqualTo(line.ruled(Ruling.SAME, "x", DAY, "").check());
    assertThat(line.check()).isNotEqualTo(line("ann", "bo", Ruling.OPEN).check());
  }

  private static BitSet members(Facts facts, Map<String, List<String>> members, int group) {
    BitSet all = new BitSet();
    for (String login : members.getOrDefault(facts.login(group), List.of())) {
      all.set(facts.names().find(SubjectKind.ACCOUNT, login, login).get(0));
    }
    return all;
  }

  private static int[] groups(Facts facts, String directory) {
    return java.util.stream.IntStream.range(facts.firstGroup(), facts.firstGroup() + facts.groups())
        .filter(group -> facts.source(group).equals(directory))
        .toArray();
  }

  @Test
  void groupsAreMatchedByNameAndByMembers() {
    Facts facts =
        facts(
            "old account a1",
            "old account a2",
            "new account b1",
            "new account b2",
            "old group walkers",
            "old group keepers",
            "new group x-walkers",
            "new group porters",
            "new group others");
    Map<Integer, Integer> accounts =
        Map.of(
            facts.names().find(SubjectKind.ACCOUNT, "a1", "a1").get(0),
            facts.names().find(SubjectKind.ACCOUNT, "b1", "b1").get(0),
            facts.names().find(SubjectKind.ACCOUNT, "a2", "a2").get(0),
            facts.names().find(SubjectKind.ACCOUNT, "b2", "b2").get(0));
    Map<String, List<String>> members =
        Map.of(
            "walkers", List.of("a1", "a2"),
            "x-walkers", List.of("b1", "b2"),
            "keepers", List.of(),
            "porters", List.of("b1"));
    Matches found =
        new GroupMatcher(
                facts,
                List.of("x-"),
                new Decided(Map.of(), Set.of()),
                group -> members(facts, members, group),
                accounts)
            .match(groups(facts, "old"), groups(facts, "new"));
    Match walkers =
        found.all().stream()
            .filter(m -> facts.login(m.from()).equals("walkers"))
            .findFirst()
            .orElseThrow();
    assertThat(walkers.sure()).isEqualTo(Sureness.CERTAIN);
    assertThat(facts.login(walkers.candidates().get(0).to())).isEqualTo("x-walkers");
    assertThat(found.count(Sureness.NONE)).isEqualTo(1);
    assertThat(found.left()).hasSize(2);
  }

  @Test
  void namesToBeMadeAreFreeAndPlain() {
    Facts facts =
        facts(
            "old account o1 Åse Lindqvist",
            "old account o2 Lindqvist, Ase",
            "old account o3 Zeb",
            "new account ase.lindqvist");
    NewNames names = new NewNames(facts, "new", NewNames.USUAL);
    List<Integer> all =
        List.of(
            facts.names().find(SubjectKind.ACCOUNT, "o1", "o1").get(0),
            facts.names().find(SubjectKind.ACCOUNT, "o2", "o2").get(0),
            facts.names().find(SubjectKind.ACCOUNT, "o3", "o3").get(0));
    List<NewNames.Made> made = names.accounts(all);
    assertThat(made.stream().map(NewNames.Made::login))
        .containsExactly("ase.lindqvist2", "ase.lindqvist3", "zeb");
    assertThat(made.get(0).clash()).isEqualTo("ase.lindqvist");
    assertThat(made.get(0).given()).isEqualTo("Åse");
    assertThat(made.get(2).clash()).isEmpty();
    assertThat(NewNames.isPattern("{g}{last}")).isTrue();
    assertThat(NewNames.isPattern("x-{login}")).isTrue();
    assertThat(NewNames.isPattern("{g}")).isFalse();
    assertThat(NewNames.isPattern("{first}.{last}")).isFalse();
    assertThat(NewNames.isPattern("{last} {given}")).isFalse();
  }

  @Test
  void namesOfPersonsCompareWithoutWhatPeopleWriteOtherwise() {
    assertThat(PersonName.tidy("O'Neil-Łoś,  JÓZEF ")).isEqualTo("jozef los neil o");
    assertThat(PersonName.within("ada fern", "ada b fern")).isTrue();
    assertThat(PersonName.within("ada", "ada fern")).isFalse();
    assertThat(PersonName.share("ada fern", "ada oak")).isTrue();
    assertThat(PersonName.share("a fern", "a oak")).isFalse();
  }
}
