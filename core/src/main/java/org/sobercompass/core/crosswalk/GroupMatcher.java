package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.crosswalk.Reason.Degree;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Syntax;

/**
 * Finds for groups or units of one side which they are on the other: by name, and by who of their
 * members, by the accounts matched before, is in both. O(groups + members). Not thread-safe.
 */
public final class GroupMatcher {
  private static final int GOOD = 50;
  private static final int WHOLE = 100;
  private static final int FEWEST = 2;
  private static final int HALF = 50;
  private static final double NAME = 0.6;
  private static final double MEMBERS = 0.7;

  private final Facts facts;
  private final List<String> strip;
  private final Decided decided;
  private final IntFunction<BitSet> members;
  private final Map<Integer, Integer> accounts;

  /**
   * A matcher.
   *
   * @param strip beginnings of names that do not count
   * @param members the accounts in a group or unit
   * @param accounts the counterpart of each account that has one
   */
  public GroupMatcher(
      Facts facts,
      List<String> strip,
      Decided decided,
      IntFunction<BitSet> members,
      Map<Integer, Integer> accounts) {
    this.facts = facts;
    this.strip = List.copyOf(strip);
    this.decided = decided;
    this.members = members;
    this.accounts = Map.copyOf(accounts);
  }

  /** Finds the counterparts of the groups or units of one side among those of the other. */
  public Matches match(int[] from, int[] to) {
    Map<String, List<Integer>> byName = new HashMap<>();
    Map<Integer, List<Integer>> byMember = new HashMap<>();
    Map<Integer, BitSet> of = new HashMap<>();
    Set<Integer> taken = new LinkedHashSet<>(decided.same().values());
    for (int group : to) {
      byName.computeIfAbsent(name(group), n -> new ArrayList<>()).add(group);
      BitSet in = members.apply(group);
      of.put(group, in);
      in.stream().forEach(m -> byMember.computeIfAbsent(m, k -> new ArrayList<>()).add(group));
    }
    Map<Integer, List<Candidate>> rows = new HashMap<>();
    for (int group : from) {
      if (!decided.same().containsKey(group)) {
        rows.put(group, candidates(group, byName, byMember, of, taken));
      }
    }
    return classified(from, to, rows, taken);
  }

  private List<Candidate> candidates(
      int group,
      Map<String, List<Integer>> byName,
      Map<Integer, List<Integer>> byMember,
      Map<Integer, BitSet> of,
      Set<Integer> taken) {
    BitSet mapped = new BitSet();
    members.apply(group).stream()
        .filter(accounts::containsKey)
        .forEach(member -> mapped.set(Objects.requireNonNull(accounts.get(member))));
    Set<Integer> near = new LinkedHashSet<>(byName.getOrDefault(name(group), List.of()));
    mapped.stream().forEach(member -> near.addAll(byMember.getOrDefault(member, List.of())));
    List<Candidate> good = new ArrayList<>();
    for (int other : near) {
      boolean open =
          !taken.contains(other) && !decided.never().contains(new Decided.Pair(group, other));
      Candidate candidate = weigh(group, other, mapped, of.getOrDefault(other, new BitSet()));
      if (open && candidate.score() >= GOOD) {
        good.add(candidate);
      }
    }
    good.sort(Comparator.comparingInt(Candidate::score).reversed().thenComparingInt(Candidate::to));
    return good;
  }

  private Candidate weigh(int group, int other, BitSet mapped, BitSet there) {
    List<Reason> reasons = new ArrayList<>();
    boolean named = name(group).equals(name(other));
    if (named) {
      reasons.add(new Reason(MatchRule.NAME, Degree.SAME, name(group), "", 1));
    }
    BitSet both = (BitSet) mapped.clone();
    both.and(there);
    int most = Math.max(mapped.cardinality(), there.cardinality());
    int share = most == 0 ? 0 : both.cardinality() * WHOLE / most;
    boolean alike = share >= HALF && both.cardinality() >= FEWEST;
    if (both.cardinality() > 0) {
      reasons.add(
          new Reason(
              "members",
              alike ? Degree.SAME : Degree.PARTLY,
              both.cardinality() + " of " + most,
              "",
              1));
    }
    double doubt =
        (named ? 1 - NAME : 1) * (both.cardinality() >= FEWEST ? 1 - MEMBERS * share / WHOLE : 1);
    return new Candidate(other, (int) Math.round(WHOLE * (1 - doubt)), reasons, named && alike);
  }

  /** The name as it compares: without its beginning, case, accents. */
  private String name(int group) {
    String name = Syntax.fold(Crosswalk.called(facts, group));
    for (String start : strip) {
      if (name.startsWith(start)) {
        return PersonName.tidy(name.substring(start.length()));
      }
    }
    return PersonName.tidy(name);
  }

  private static Matches classified(
      int[] from, int[] to, Map<Integer, List<Candidate>> rows, Set<Integer> taken) {
    Map<Integer, List<Integer>> wanted = new HashMap<>();
    rows.forEach(
        (group, good) ->
            good.forEach(c -> wanted.computeIfAbsent(c.to(), k -> new ArrayList<>()).add(group)));
    List<Match> all = new ArrayList<>();
    Set<Integer> met = new LinkedHashSet<>(taken);
    for (int group : from) {
      List<Candidate> good = rows.get(group);
      if (good == null) {
        continue;
      }
      good.forEach(candidate -> met.add(candidate.to()));
      List<Integer> rivals =
          good.stream()
              .flatMap(c -> wanted.getOrDefault(c.to(), List.of()).stream())
              .filter(other -> other != group)
              .distinct()
              .sorted()
              .toList();
      Sureness sure = Sureness.NONE;
      if (!good.isEmpty()) {
        boolean alone = good.size() == 1 && rivals.isEmpty();
        sure =
            !alone ? Sureness.AMBIGUOUS : good.get(0).firm() ? Sureness.CERTAIN : Sureness.LIKELY;
      }
      all.add(new Match(group, sure, good, rivals, Optional.empty()));
    }
    List<Integer> left = new ArrayList<>();
    for (int group : to) {
      if (!met.contains(group)) {
        left.add(group);
      }
    }
    return new Matches(all, List.of(), left);
  }
}
