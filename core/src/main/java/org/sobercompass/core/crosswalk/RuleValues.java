package org.sobercompass.core.crosswalk;

import java.util.List;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.TextTable;
import org.sobercompass.core.store.Texts;

/** The values that one rule compares, as numbers, on both sides. Frozen. */
final class RuleValues {
  /** A value that more accounts of one side have tells nothing. */
  static final int MANY = 5;

  /** So large a share of the values must be one account's alone for an attribute to identify. */
  private static final int IDENTIFYING_PERCENT = 80;

  private static final int FEW = 5;
  private static final int PERCENT = 100;

  final MatchRule rule;
  final Side from;
  final Side to;
  final RuleNote note;
  final boolean identifying;
  private final Syntax syntax;
  private final Texts texts;

  /** One side: the values of each account by its place, and who has each value. */
  record Side(IntRows values, IntRows holders) {
    int held(int value) {
      return holders.size(value);
    }
  }

  RuleValues(Facts facts, int[] fromAccounts, int[] toAccounts, MatchRule rule) {
    this.rule = rule;
    TextTable table = new TextTable();
    boolean both = fromAccounts.length > 0 && toAccounts.length > 0;
    this.syntax =
        both
            ? rule.syntax(facts, facts.source(fromAccounts[0]), facts.source(toAccounts[0]))
            : Syntax.CASE_IGNORE;
    IntList[] one = codes(facts, fromAccounts, true, table);
    IntList[] two = codes(facts, toAccounts, false, table);
    int values = table.size();
    this.from = side(fromAccounts.length, values, one);
    this.to = side(toAccounts.length, values, two);
    this.texts = table.freeze();
    int shared = 0;
    int many = 0;
    for (int value = 0; value < values; value++) {
      shared += isEvidence(value) ? 1 : 0;
      many += from.held(value) > MANY || to.held(value) > MANY ? 1 : 0;
    }
    this.identifying = rule.mayIdentify() && identifies(from, values) && identifies(to, values);
    this.note = new RuleNote(rule, filled(from), filled(to), shared, many);
  }

  private IntList[] codes(Facts facts, int[] accounts, boolean ofFrom, TextTable table) {
    IntList places = new IntList();
    IntList codes = new IntList();
    for (int place = 0; place < accounts.length; place++) {
      List<String> values = rule.values(facts, accounts[place], ofFrom, syntax);
      for (String value : values) {
        places.add(place);
        codes.add(table.intern(value));
      }
    }
    return new IntList[] {places, codes};
  }

  private static Side side(int accounts, int values, IntList[] pairs) {
    return new Side(
        IntRows.ofPairs(accounts, pairs[0], pairs[1]), IntRows.ofPairs(values, pairs[1], pairs[0]));
  }

  private static boolean identifies(Side side, int values) {
    int met = 0;
    int single = 0;
    for (int value = 0; value < values; value++) {
      met += side.held(value) > 0 ? 1 : 0;
      single += side.held(value) == 1 ? 1 : 0;
    }
    // Of a handful nothing can be told by counting.
    return met > 0 && met < FEW
        || (long) single * PERCENT >= (long) met * IDENTIFYING_PERCENT && met > 0;
  }

  private static int filled(Side side) {
    int filled = 0;
    for (int place = 0; place < side.values.rows(); place++) {
      filled += side.values.size(place) > 0 ? 1 : 0;
    }
    return filled;
  }

  /** Whether a value that both have tells something. */
  boolean isEvidence(int value) {
    int a = from.held(value);
    int b = to.held(value);
    return a > 0 && b > 0 && a <= MANY && b <= MANY;
  }

  /** The shared value that fewest have, or -1. */
  int shared(int fromPlace, int toPlace) {
    int best = -1;
    IntRows a = from.values;
    IntRows b = to.values;
    for (int i = a.start(fromPlace); i < a.end(fromPlace); i++) {
      for (int j = b.start(toPlace); j < b.end(toPlace); j++) {
        int value = a.at(i);
        boolean same = value == b.at(j) && isEvidence(value);
        if (same && (best < 0 || held(value) < held(best))) {
          best = value;
        }
      }
    }
    return best;
  }

  /** Whether both have a value of which many on their own side do not have the same. */
  boolean bothSay(int fromPlace, int toPlace) {
    return says(from, fromPlace) && says(to, toPlace);
  }

  private static boolean says(Side side, int place) {
    for (int i = side.values.start(place); i < side.values.end(place); i++) {
      if (side.held(side.values.at(i)) <= MANY) {
        return true;
      }
    }
    return false;
  }

  /** How many accounts of the side that has more of them have a value. */
  int held(int value) {
    return Math.max(from.held(value), to.held(value));
  }

  String text(int value) {
    return texts.get(value);
  }

  /** The first value of an account of one side. */
  String first(Side side, int place) {
    return texts.get(side.values.at(side.values.start(place)));
  }
}
