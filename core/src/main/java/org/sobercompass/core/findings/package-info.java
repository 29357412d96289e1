/**
 * What should not be: excessive, conflicting and broken rights, each with cause, weight, evidence
 * and advice.
 *
 * <p>In: what is judged, an access model with admin roles and persons, and the rules. Out:
 * findings, worst first, the same for the same input; for each the least removals that end it;
 * sorted by waivers into open and accepted. One cause with two hundred effects is one finding.
 */
@NullMarked
package org.sobercompass.core.findings;

import org.jspecify.annotations.NullMarked;
