package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.crosswalk.Match.Nearest;
import org.sobercompass.core.crosswalk.Match.WhyNot;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.store.IntRows;

/**
 * Finds for the accounts of one side who they are on the other. Accounts are compared that share a
 * value which few have; O(accounts x values) then. The facts must hold the attributes that the
 * rules {@linkplain MatchRule#needs need}. Not thread-safe.
 */
public final class AccountMatcher {
  private static final int GOOD = 50;
  private static final int FAR = 20;
  private static final Comparator<Candidate> BEST =
      Comparator.comparingInt(Candidate::score).reversed().thenComparingInt(Candidate::to);

  private final int[] from;
  private final int[] to;
  private final IntFunction<Nature> nature;
  private final Decided decided;
  private final Map<Decided.Pair, String> persons = new HashMap<>();
  private final Map<Integer, List<Integer>> linked = new HashMap<>();
  private final List<RuleValues> rules = new ArrayList<>();
  private final Weighing ofPersons;
  private final Weighing ofOthers;

  /** The candidates of one account of the one side, by place, and who came nearest else. */
  private static final class Row {
    List<Candidate> good = new ArrayList<>();
    Optional<Nearest> nearest = Optional.empty();

    void no(Candidate candidate, WhyNot why) {
      boolean nearer = nearest.isEmpty() || BEST.compare(candidate, nearest.get().candidate()) < 0;
      if (nearer) {
        nearest = Optional.of(new Nearest(candidate, why));
      }
    }
  }

  /**
   * Reads what is compared.
   *
   * @param from the accounts of the one side, ascending
   * @param to the accounts of the other side, ascending
   * @param nature what stands behind an account
   * @param links accounts of which it is known already that they are one person's
   */
  public AccountMatcher(
      Facts facts,
      int[] from,
      int[] to,
      List<MatchRule> rules,
      IntFunction<Nature> nature,
      List<Link> links,
      Decided decided) {
    this.from = from.clone();
    this.to = to.clone();
    this.nature = nature;
    this.decided = decided;
    rules.forEach(rule -> this.rules.add(new RuleValues(facts, from, to, rule)));
    this.ofPersons = new Weighing(this.rules, true);
    this.ofOthers = new Weighing(this.rules, false);
    links.forEach(link -> link(link.account(), link.other(), link.reason()));
    links.forEach(link -> link(link.other(), link.account(), link.reason()));
  }

  private void link(int one, int other, String reason) {
    int f = Arrays.binarySearch(from, one);
    int t = Arrays.binarySearch(to, other);
    if (f >= 0 && t >= 0 && persons.put(new Decided.Pair(f, t), reason) == null) {
      linked.computeIfAbsent(f, k -> new ArrayList<>()).add(t);
    }
  }

  /** Weighs two accounts, whatever else there is; empty when one of them is on no side. */
  public Optional<Candidate> weigh(int fromAccount, int toAccount) {
    int f = Arrays.binarySearch(from, fromAccount);
    int t = Arrays.binarySearch(to, toAccount);
    return f < 0 || t < 0 ? Optional.empty() : Optional.of(weighPlaces(f, t));
  }

  private Candidate weighPlaces(int f, int t) {
    boolean person = nature.apply(from[f]) == Nature.PERSON;
    Optional<String> known = Optional.ofNullable(persons.get(new Decided.Pair(f, t)));
    return (person ? ofPersons : ofOthers).weigh(f, t, to[t], known);
  }

  /** Finds the counterparts. */
  public Matches match() {
    Set<Integer> taken = new HashSet<>(decided.same().values());
    Map<Integer, Row> rows = new HashMap<>();
    for (int f = 0; f < from.length; f++) {
      if (!decided.same().containsKey(from[f])) {
        rows.put(from[f], row(f, taken));
      }
    }
    takeCertain(rows);
    Map<Integer, List<Integer>> wanted = wanted(rows);
    List<Match> all = new ArrayList<>();
    Set<Integer> met = new HashSet<>(taken);
    for (int account : from) {
      Row row = rows.get(account);
      if (row != null) {
        all.add(match(account, row, wanted));
        row.good.forEach(candidate -> met.add(candidate.to()));
      }
    }
    List<Integer> left = new ArrayList<>();
    for (int account : to) {
      if (!met.contains(account)) {
        left.add(account);
      }
    }
    return new Matches(all, rules.stream().map(values -> values.note).toList(), left);
  }

  /** Everybody who shares a value that few have. */
  private Row row(int f, Set<Integer> taken) {
    Row row = new Row();
    Set<Integer> met = new HashSet<>();
    for (RuleValues values : rules) {
      IntRows own = values.from.values();
      for (int i = own.start(f); i < own.end(f); i++) {
        int value = own.at(i);
        if (values.isEvidence(value)) {
          IntRows holders = values.to.holders();
          for (int h = holders.start(value); h < holders.end(value); h++) {
            int t = holders.at(h);
            if (met.add(t)) {
              add(row, f, t, taken);
            }
          }
        }
      }
    }
    for (int t : linked.getOrDefault(f, List.of())) {
      if (met.add(t)) {
        add(row, f, t, taken);
      }
    }
    row.good.sort(BEST);
    return row;
  }

  private void add(Row row, int f, int t, Set<Integer> taken) {
    Candidate candidate = weighPlaces(f, t);
    if (decided.never().contains(new Decided.Pair(from[f], to[t]))) {
      row.no(candidate, WhyNot.NEVER);
    } else if (nature.apply(from[f]) != nature.apply(to[t])) {
      row.no(candidate, WhyNot.NATURE);
    } else if (candidate.score() < GOOD) {
      row.no(candidate, WhyNot.LITTLE);
    } else if (taken.contains(to[t])) {
      row.no(candidate, WhyNot.TAKEN);
    } else {
      row.good.add(candidate);
    }
  }

  /** What is certain for two is no candidate of others. */
  private static void takeCertain(Map<Integer, Row> rows) {
    Map<Integer, List<Integer>> wanted = wanted(rows);
    Map<Integer, Integer> certain = new HashMap<>();
    rows.forEach(
        (account, row) -> {
          if (!row.good.isEmpty() && isCertain(account, row, wanted, rows)) {
            certain.put(row.good.get(0).to(), account);
          }
        });
    Set<Integer> done = new HashSet<>(certain.values());
    rows.forEach(
        (account, row) ->
            row.good.removeIf(
                candidate -> {
                  Integer owner = certain.get(candidate.to());
                  boolean gone = owner != null && !owner.equals(account);
                  if (gone) {
                    row.no(candidate, WhyNot.TAKEN);
                  }
                  return gone || owner == null && done.contains(account);
                }));
  }

  private static boolean isCertain(
      int account, Row row, Map<Integer, List<Integer>> wanted, Map<Integer, Row> rows) {
    Candidate best = row.good.get(0);
    if (!best.firm()) {
      return false;
    }
    boolean alone = row.good.stream().skip(1).allMatch(other -> isFar(other, best));
    for (int other : wanted.getOrDefault(best.to(), List.of())) {
      if (other != account) {
        alone &=
            Objects.requireNonNull(rows.get(other)).good.stream()
                .filter(candidate -> candidate.to() == best.to())
                .allMatch(candidate -> isFar(candidate, best));
      }
    }
    return alone;
  }

  private static boolean isFar(Candidate other, Candidate best) {
    return !other.firm() && other.score() <= best.score() - FAR;
  }

  /** Who of the one side has somebody of the other as a candidate. */
  private static Map<Integer, List<Integer>> wanted(Map<Integer, Row> rows) {
    Map<Integer, List<Integer>> wanted = new HashMap<>();
    rows.forEach(
        (account, row) ->
            row.good.forEach(
                c -> wanted.computeIfAbsent(c.to(), k -> new ArrayList<>()).add(account)));
    return wanted;
  }

  private static Match match(int account, Row row, Map<Integer, List<Integer>> wanted) {
    if (row.good.isEmpty()) {
      return new Match(account, Sureness.NONE, List.of(), List.of(), row.nearest);
    }
    List<Integer> rivals = new ArrayList<>();
    row.good.forEach(
        candidate ->
            wanted.getOrDefault(candidate.to(), List.of()).stream()
                .filter(other -> other != account && !rivals.contains(other))
                .forEach(rivals::add));
    rivals.sort(Comparator.naturalOrder());
    boolean alone = row.good.size() == 1 && rivals.isEmpty();
    Sureness sure =
        !alone ? Sureness.AMBIGUOUS : row.good.get(0).firm() ? Sureness.CERTAIN : Sureness.LIKELY;
    return new Match(account, sure, row.good, rivals, row.nearest);
  }
}
