package org.sobercompass.core.findings;

import java.util.LinkedHashMap;
import java.util.Map;

/**
 * From when on something is worth a finding. docs/findings.md explains each.
 *
 * @param broadPercent a group is broad that holds at least this share of those a system sees
 * @param narrower a role given everywhere is told when it is given at least this often elsewhere
 * @param dormantDays days without a sign-in
 * @param nesting memberships from an account to a group that carries rights
 * @param unusedDays days without use
 * @param usedPercent a holder uses a small part of a role below this share of its permissions
 * @param untriedDays days since an emergency account was tried
 * @param peersAtLeast how many accounts make a group of peers
 * @param peersPercent a right is unlike that at most this share of the peers hold
 */
public record Thresholds(
    int broadPercent,
    int narrower,
    int dormantDays,
    int nesting,
    int unusedDays,
    int usedPercent,
    int untriedDays,
    int peersAtLeast,
    int peersPercent) {
  /** What counts unless the workspace says otherwise. */
  public static final Thresholds USUAL = new Thresholds(50, 3, 90, 4, 90, 25, 180, 10, 10);

  /** Each by what it is about, in the order in which they are documented. */
  public Map<String, Integer> named() {
    Map<String, Integer> all = new LinkedHashMap<>();
    all.put("a broad group holds at least, percent of those seen", broadPercent);
    all.put("given everywhere is told when given elsewhere at least, times", narrower);
    all.put("dormant after, days without a sign-in", dormantDays);
    all.put("deeply nested from, memberships", nesting);
    all.put("unused after, days", unusedDays);
    all.put("a small part of a role is less than, percent", usedPercent);
    all.put("an emergency account untried after, days", untriedDays);
    all.put("peers are at least, accounts", peersAtLeast);
    all.put("unlike peers when at most so many have it, percent", peersPercent);
    return all;
  }
}
