package org.sobercompass.core.findings;

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
}
