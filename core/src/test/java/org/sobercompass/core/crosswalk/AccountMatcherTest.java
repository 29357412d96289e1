package org.sobercompass.core.crosswalk;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.problem.Problems;

/** Accounts of two directories matched, where it is known who is who. */
class AccountMatcherTest {
  private static final List<MatchRule> RULES =
      List.of(
          MatchRule.of("employeenumber"),
          MatchRule.of("mobile"),
          MatchRule.of("mail"),
          MatchRule.of("cn"),
          MatchRule.of("title"));

  private static Matches match(Facts facts, String from, String to, List<MatchRule> rules) {
    return new AccountMatcher(
            facts,
            accounts(facts, from),
            accounts(facts, to),
            rules,
            account -> Nature.of(facts, account),
            List.of(),
            Decided.NOTHING)
        .match();
  }

  private static int[] accounts(Facts facts, String directory) {
    return java.util.stream.IntStream.range(0, facts.accounts())
        .filter(account -> facts.source(account).equals(directory))
        .toArray();
  }

  /** What is certain is right, at whatever noise; what is likely is right nearly always. */
  @ParameterizedTest
  @ValueSource(ints = {0, 5, 10, 20, 30})
  void noCertainPairIsWrong(int noise) {
    int certain = 0;
    int likely = 0;
    int right = 0;
    int pairs = 0;
    int met = 0;
    for (long seed = 0; seed < 20; seed++) {
      TwoDirectories two = new TwoDirectories(seed, 500, noise);
      Matches found = match(two.facts, "old", "new", RULES);
      for (Match one : found.all()) {
        if (one.sure() == Sureness.CERTAIN) {
          certain++;
          assertThat(two.isSame(one.from(), one.candidates().get(0).to()))
              .as("seed " + seed + ", " + one)
              .isTrue();
        } else if (one.sure() == Sureness.LIKELY) {
          likely++;
          right += two.isSame(one.from(), one.candidates().get(0).to()) ? 1 : 0;
        }
        met += one.best().filter(b -> two.isOnly(one.from(), b.to())).isPresent() ? 1 : 0;
      }
      pairs += two.pairs();
    }
    double precision = likely == 0 ? 1 : (double) right / likely;
    double recall = (double) met / pairs;
    System.out.printf(
        "noise %d %%: %d pairs, %d certain, %d likely, precision of likely %.3f, recall %.3f%n",
        noise, pairs, certain, likely, precision, recall);
    assertThat(precision).isGreaterThan(noise <= 20 ? 0.95 : 0.85);
    assertThat(recall).isGreaterThan(noise <= 10 ? 0.9 : noise <= 20 ? 0.7 : 0.3);
    assertThat(certain).isGreaterThan(noise <= 10 ? pairs / 2 : pairs / 10);
  }

  @Test
  void theOtherWayRoundGivesTheSamePairs() {
    for (long seed = 0; seed < 30; seed++) {
      TwoDirectories two = new TwoDirectories(seed, 200, 25);
      Matches there = match(two.facts, "old", "new", RULES);
      Matches back =
          match(two.facts, "new", "old", RULES.stream().map(MatchRule::reversed).toList());
      for (Sureness sure : List.of(Sureness.CERTAIN, Sureness.LIKELY)) {
        assertThat(pairs(there, sure, false)).isEqualTo(pairs(back, sure, true));
      }
      assertThat(there.left().size()).isEqualTo(back.count(Sureness.NONE));
    }
  }

  private static Set<List<Integer>> pairs(Matches matches, Sureness sure, boolean swapped) {
    return matches.all().stream()
        .filter(match -> match.sure() == sure)
        .map(
            match ->
                swapped
                    ? List.of(match.candidates().get(0).to(), match.from())
                    : List.of(match.from(), match.candidates().get(0).to()))
        .collect(
            Collectors.toCollection(
                () -> new TreeSet<>((a, b) -> a.toString().compareTo(b.toString()))));
  }

  /** Accounts of two sides, each with values: {@code mobile=1;cn=Ada Fern}. */
  private static Facts facts(Map<String, String> from, Map<String, String> to) {
    FactsBuilder builder =
        new FactsBuilder(
            List.of("employeenumber", "mobile", "mail", "cn", "givenname", "sn", "displayname"),
            dn -> dn,
            new Problems());
    FactsSource one = builder.source("old");
    from.forEach((login, values) -> add(one, login, values));
    FactsSource other = builder.source("new");
    to.forEach((login, values) -> add(other, login, values));
    return builder.build();
  }

  private static void add(FactsSource source, String login, String values) {
    int flags = values.contains("service") ? Facts.SERVICE : 0;
    int row =
        source.add(
            new SubjectRow(
                SubjectKind.ACCOUNT, login, login, login, login, login, "", flags, Facts.NEVER));
    Arrays.stream(values.split(";"))
        .filter(value -> value.indexOf('=') > 0)
        .forEach(
            value ->
                source.values(
                    row,
                    value.substring(0, value.indexOf('=')),
                    List.of(value.substring(value.indexOf('=') + 1))));
  }

  private static Match only(Facts facts, String login, List<MatchRule> rules, Decided decided) {
    return new AccountMatcher(
            facts,
            accounts(facts, "old"),
            accounts(facts, "new"),
            rules,
            account -> Nature.of(facts, account),
            List.<Link>of(),
            decided)
        .match().all().stream()
            .filter(match -> facts.login(match.from()).equals(login))
            .findFirst()
            .orElseThrow();
  }

  private static Match only(Facts facts, String login) {
    return only(facts, login, List.of(MatchRule.of("mobile"), MatchRule.of("cn")), Decided.NOTHING);
  }

  @Test
  void namesCompareWithoutOrderCaseAndAccents() {
    Facts facts =
        facts(Map.of("a", "mobile=1;cn=Lindqvist, Åse"), Map.of("b", "mobile=1;cn=ASE  lindqvist"));
    assertThat(only(facts, "a").sure()).isEqualTo(Sureness.CERTAIN);
  }

  @Test
  void aNumberThatWasGivenToSomebodyElseIsNoMatch() {
    Facts facts = facts(Map.of("a", "mobile=1;cn=Orrin Fell"), Map.of("b", "mobile=1;cn=Ivo Beck"));
    Match match = only(facts, "a");
    assertThat(match.sure()).isEqualTo(Sureness.NONE);
    assertThat(match.nearest().orElseThrow().why()).isEqualTo(Match.WhyNot.LITTLE);
  }

  @Test
  void aNameThatChangedIsLikely() {
    Facts facts =
        facts(Map.of("a", "mobile=1;cn=Rhea Holm"), Map.of("b", "mobile=1;cn=Rhea Jarrow"));
    assertThat(only(facts, "a").sure()).isEqualTo(Sureness.LIKELY);
  }

  @Test
  void twoOfOneNameAreToldApartByTheirNumbers() {
    Facts facts =
        facts(
            Map.of("a", "mobile=1;cn=Nils Farrow"),
            Map.of("b", "mobile=2;cn=Nils Farrow", "c", "mobile=1;cn=Nils Farrow"));
    Match match = only(facts, "a");
    assertThat(match.sure()).isEqualTo(Sureness.CERTAIN);
    assertThat(facts.login(match.candidates().get(0).to())).isEqualTo("c");
  }

  @Test
  void onePersonTwiceIsAmbiguousUntilSomebodyDecides() {
    Facts facts =
        facts(
            Map.of("a", "mobile=1;cn=Max Hollis", "b", "mobile=1;cn=Max Hollis"),
            Map.of("c", "mobile=1;cn=Max Hollis"));
    Match match = only(facts, "a");
    assertThat(match.sure()).isEqualTo(Sureness.AMBIGUOUS);
    assertThat(match.rivals()).hasSize(1);
  }

  @Test
  void whatManyShareIsNoEvidence() {
    Map<String, String> from = new java.util.HashMap<>();
    for (int i = 0; i < 7; i++) {
      from.put("a" + i, "mobile=00000;cn=Person " + i + "x");
    }
    Facts facts = facts(from, Map.of("b", "mobile=00000;cn=Person 99"));
    assertThat(only(facts, "a0").sure()).isEqualTo(Sureness.NONE);
    assertThat(only(facts, "a0").nearest()).isEmpty();
  }

  @Test
  void aServiceIsNobody() {
    Facts facts =
        facts(Map.of("a", "service;mobile=1;cn=Tam Umber"), Map.of("b", "mobile=1;cn=Tam Umber"));
    Match match = only(facts, "a");
    assertThat(match.sure()).isEqualTo(Sureness.NONE);
    assertThat(match.nearest().orElseThrow().why()).isEqualTo(Match.WhyNot.NATURE);
  }

  @Test
  void whatWasDecidedWins() {
    Facts facts =
        facts(
            Map.of("a", "mobile=1;cn=Ada Fern", "z", "mobile=9;cn=Zeb Oak"),
            Map.of("b", "mobile=1;cn=Ada Fern"));
    int a = facts.names().find(SubjectKind.ACCOUNT, "a", "a").get(0);
    int z = facts.names().find(SubjectKind.ACCOUNT, "z", "z").get(0);
    int b = facts.names().find(SubjectKind.ACCOUNT, "b", "b").get(0);
    List<MatchRule> rules = List.of(MatchRule.of("mobile"), MatchRule.of("cn"));
    Match never = only(facts, "a", rules, new Decided(Map.of(), Set.of(new Decided.Pair(a, b))));
    assertThat(never.nearest().orElseThrow().why()).isEqualTo(Match.WhyNot.NEVER);
    Match taken = only(facts, "a", rules, new Decided(Map.of(z, b), Set.of()));
    assertThat(taken.nearest().orElseThrow().why()).isEqualTo(Match.WhyNot.TAKEN);
  }

  @Test
  void domainsAreReplacedAndBeginningsStripped() {
    MatchRule mail =
        new MatchRule(
            List.of("mail"),
            List.of("mail"),
            MatchRule.As.VALUE,
            Map.of("old.example", "new.example"),
            List.of(),
            true);
    MatchRule number =
        new MatchRule(
            List.of("employeenumber"),
            List.of("employeenumber"),
            MatchRule.As.VALUE,
            Map.of(),
            List.of("f-"),
            true);
    Facts facts =
        facts(
            Map.of("a", "mail=ada@OLD.example;employeenumber=F-17"),
            Map.of("b", "mail=Ada@new.example;employeenumber=17"));
    Match match = only(facts, "a", List.of(mail, number), Decided.NOTHING);
    assertThat(match.sure()).isEqualTo(Sureness.CERTAIN);
    assertThat(Crosswalk.agreed(match.candidates().get(0)))
        .isEqualTo("mail=ada@new.example; employeenumber=17");
  }
}
