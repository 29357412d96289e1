package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.person.Persons;

/**
 * Two directories matched, with a crosswalk held against them.
 *
 * @param accounts what was found for the accounts that nobody decided on
 * @param groups the same for groups
 * @param units the same for units
 * @param decided what speaks for the decided lines now, by account of the one side
 * @param doubts what of the decided lines is wrong, or does not hold any more
 * @param matcher weighs further pairs
 */
public record Matched(
    Matches accounts,
    Matches groups,
    Matches units,
    Map<Integer, Candidate> decided,
    List<Crosswalk.Doubt> doubts,
    AccountMatcher matcher) {

  /**
   * Matches. O(subjects x values).
   *
   * @param facts with the attributes that the plan {@linkplain MatchPlan#needs needs}
   * @param nature what stands behind an account
   * @param members the accounts in a group or unit
   * @param persons what is known already of who is who
   * @param crosswalk what was decided already
   */
  public static Matched of(
      Facts facts,
      MatchPlan plan,
      IntFunction<Nature> nature,
      IntFunction<BitSet> members,
      Persons persons,
      Crosswalk crosswalk) {
    Visibility one = Visibility.of(facts, plan.from());
    Visibility other = Visibility.of(facts, plan.to());
    Decided accountsDecided = crosswalk.decided(facts, SubjectKind.ACCOUNT).apart(persons);
    AccountMatcher matcher =
        new AccountMatcher(
            facts,
            seen(facts, one, SubjectKind.ACCOUNT, plan.from().directory()),
            seen(facts, other, SubjectKind.ACCOUNT, plan.to().directory()),
            plan.rules(),
            nature,
            persons.links(),
            accountsDecided);
    Matches accounts = matcher.match();
    Map<Integer, Integer> known = new TreeMap<>(accountsDecided.same());
    accounts.all().forEach(m -> m.best().ifPresent(best -> known.put(m.from(), best.to())));
    Map<Integer, Candidate> decided = new TreeMap<>();
    accountsDecided.same().forEach((f, t) -> matcher.weigh(f, t).ifPresent(c -> decided.put(f, c)));
    List<Matches> others = new ArrayList<>();
    for (SubjectKind kind : List.of(SubjectKind.GROUP, SubjectKind.UNIT)) {
      others.add(
          new GroupMatcher(facts, plan.strip(), crosswalk.decided(facts, kind), members, known)
              .match(
                  seen(facts, one, kind, plan.from().directory()),
                  seen(facts, other, kind, plan.to().directory())));
    }
    return new Matched(
        accounts,
        others.get(0),
        others.get(1),
        decided,
        crosswalk.doubts(facts, matcher::weigh),
        matcher);
  }

  /** The subjects of a kind that are looked at, those of other directories left out. */
  private static int[] seen(Facts facts, Visibility sight, SubjectKind kind, String directory) {
    int from = kind == SubjectKind.ACCOUNT ? 0 : facts.firstGroup();
    int to = facts.firstGroup();
    if (kind == SubjectKind.GROUP) {
      to = facts.firstGroup() + facts.groups();
    } else if (kind == SubjectKind.UNIT) {
      from = facts.firstUnit();
      to = facts.subjects();
    }
    return IntStream.range(from, to)
        .filter(s -> sight.sees(s) && facts.source(s).equals(directory))
        .toArray();
  }

  /** All of them, accounts first. */
  public Stream<Match> all() {
    return Stream.of(accounts, groups, units).flatMap(matches -> matches.all().stream());
  }

  /**
   * What was found for one account, group or unit; empty where it was decided, or is on no side.
   */
  public Optional<Match> of(int from) {
    return all().filter(match -> match.from() == from).findFirst();
  }
}
