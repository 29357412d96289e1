package org.sobercompass.core.system;

import java.util.List;

/**
 * A verdict with its reasons.
 *
 * @param verdict the answer
 * @param proofs what gives it; at least one when the verdict is YES
 * @param unknowns grants of which it is not known whether the account has them, and which matter
 * @param stopped grants that would give the right but are stopped
 * @param more whether there is more than the limit let through
 */
public record Decision(
    Verdict verdict,
    List<Proof> proofs,
    List<Integer> unknowns,
    List<Stopped> stopped,
    boolean more) {}
