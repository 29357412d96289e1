package org.sobercompass.core.findings;

import java.util.function.Consumer;

/**
 * Looks for some kinds of finding. A new kind is a constant of {@link FindingKind}, one of these
 * with its {@code KINDS}, and a line in {@link Findings}. It is made only where one of its kinds is
 * looked for, once for all findings.
 *
 * <p>One that is costly asks {@link FindingContext#focus()} and leaves out what changes cannot
 * concern. Where one of its findings is about several accounts or assignments that share a cause,
 * its kinds also stand among the shared ones of {@code core.audit.FindingDifference}.
 */
public interface Finder {
  /** Finds, in an order that is the same for the same input. */
  void find(Consumer<Finding> out);
}
