/**
 * What should not be: excessive, conflicting and broken rights, each with cause, weight, evidence
 * and advice.
 *
 * <p>In: an access model and the workspace's rules. Out: findings, worst first, the same for the
 * same input. One cause with two hundred effects is one finding.
 */
@NullMarked
package org.sobercompass.core.findings;

import org.jspecify.annotations.NullMarked;
