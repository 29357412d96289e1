package org.sobercompass.core.facts;

import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Texts;

/**
 * Facts in which some accounts are in another state, subjects are there or not, or have other
 * values.
 */
public final class Restated {
  private Restated() {}

  /**
   * The same facts with other states. Whether an account is disabled, or when it ends, is known
   * then also where it was not before. O(accounts).
   *
   * @param disabled whether each account that changes is disabled, by its number
   * @param expires when it ends, epoch second or {@link Facts#NEVER}, alike
   */
  public static Facts of(Facts facts, Map<Integer, Boolean> disabled, Map<Integer, Long> expires) {
    Facts.Arrays a = facts.arrays();
    byte[] flags = a.flags().clone();
    long[] ends = a.expires().clone();
    disabled.forEach(
        (account, off) -> {
          int known = flags[account] & ~(Facts.DISABLED | Facts.STATE_UNKNOWN);
          flags[account] = (byte) (known | (off ? Facts.DISABLED : 0));
        });
    expires.forEach(
        (account, at) -> {
          flags[account] &= (byte) ~Facts.EXPIRY_UNKNOWN;
          ends[account] = at;
        });
    return new Facts(with(a, flags, ends, a.columns()), facts.absent());
  }

  /**
   * The same facts in which other subjects are there, or absent. O(1) beside one bit a subject.
   *
   * @param present whether each subject that changes is there, by its number
   */
  public static Facts presence(Facts facts, Map<Integer, Boolean> present) {
    BitSet absent = facts.absent();
    present.forEach((subject, there) -> absent.set(subject, !there));
    return new Facts(facts.arrays(), absent);
  }

  /**
   * The same facts in which some subjects have other values of an attribute. O(subjects).
   *
   * @param values by the number of the subject
   */
  public static Facts values(Facts facts, String attribute, Map<Integer, List<String>> values) {
    Facts.Arrays a = facts.arrays();
    Map<String, Column> columns = new TreeMap<>(a.columns());
    Column was =
        columns.getOrDefault(
            attribute, new Column(IntRows.empty(facts.subjects()), Texts.of(List.of())));
    columns.put(attribute, was.with(values));
    return new Facts(with(a, a.flags(), a.expires(), columns), facts.absent());
  }

  private static Facts.Arrays with(
      Facts.Arrays a, byte[] flags, long[] ends, Map<String, Column> columns) {
    return new Facts.Arrays(
        a.sources(),
        a.taken(),
        a.accounts(),
        a.groups(),
        a.units(),
        a.source(),
        flags,
        ends,
        a.container(),
        a.id(),
        a.dn(),
        a.dnForm(),
        a.login(),
        a.display(),
        a.mail(),
        a.memberships(),
        a.dangling(),
        columns,
        a.problems(),
        a.completeness(),
        a.schemas(),
        a.logins(),
        a.hosts(),
        a.open(),
        a.openVia(),
        a.passwordEnds(),
        a.lockedUntil());
  }
}
