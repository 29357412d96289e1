package org.sobercompass.core.expect;

import java.util.List;
import org.sobercompass.core.system.Verdict;

/**
 * Whether an expectation holds.
 *
 * @param expectation the expectation
 * @param verdict YES when it holds, NO when it does not, UNDECIDED when it is not known
 * @param sentence the same in words
 * @param against the accounts against it, or of which it is not known, ascending
 * @param lines for a few of them the reason, a route or what is missing
 */
public record Outcome(
    Expectation expectation,
    Verdict verdict,
    String sentence,
    List<Integer> against,
    List<String> lines) {}
