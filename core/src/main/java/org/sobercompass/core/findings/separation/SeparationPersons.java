package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.findings.separation.SeparationSweep.Hold;
import org.sobercompass.core.person.Persons;

/**
 * Finds the holds of one person under one rule among all holds, which are in order of accounts and
 * rules, without a table of them: there are tens of millions for a million accounts. O(accounts of
 * the person x log holds) for an account, O(log rules) for a hold. Not thread-safe; the holds are.
 */
final class SeparationPersons {
  private final SeparationTests tests;
  private final Persons persons;
  private final List<Hold> holds;

  /** The account that was asked about last, the accounts of its person, and where theirs begin. */
  private int account = -1;

  private List<Integer> accounts = List.of();
  private int[] begins = {};

  /**
   * @param holds by account, then by rule; one of each
   */
  SeparationPersons(SeparationTests tests, Persons persons, List<Hold> holds) {
    this.tests = tests;
    this.persons = persons;
    this.holds = holds;
  }

  /**
   * The holds of a rule, of one account or of all accounts of a person, in their order; none where
   * an earlier account of the person has one, with which they were told.
   */
  List<Hold> of(Hold hold) {
    if (!tests.rules.get(hold.rule()).perPerson()) {
      return List.of(hold);
    }
    look(hold.account());
    if (accounts.size() == 1) {
      return List.of(hold);
    }
    List<Hold> all = new ArrayList<>(accounts.size());
    for (int i = 0; i < begins.length; i++) {
      int at = find(accounts.get(i), hold.rule(), begins[i]);
      if (at >= 0 && accounts.get(i) < account) {
        return List.of();
      }
      if (at >= 0) {
        all.add(holds.get(at));
      }
    }
    return all;
  }

  private void look(int next) {
    if (next == account) {
      return;
    }
    account = next;
    accounts = persons.accounts(next);
    begins = new int[accounts.size()];
    for (int i = 0; accounts.size() > 1 && i < begins.length; i++) {
      begins[i] = begin(accounts.get(i));
    }
  }

  /** The number of the first hold of an account, or of the next account that has one. */
  private int begin(int of) {
    int low = 0;
    int high = holds.size();
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (holds.get(middle).account() < of) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  /** The number of the hold of an account under a rule, or -1. */
  private int find(int of, int rule, int begin) {
    int low = begin;
    int high = Math.min(holds.size(), begin + tests.rules.size());
    while (low < high) {
      int middle = (low + high) >>> 1;
      Hold hold = holds.get(middle);
      if (hold.account() == of && hold.rule() < rule) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    boolean found =
        low < holds.size() && holds.get(low).account() == of && holds.get(low).rule() == rule;
    return found ? low : -1;
  }
}
