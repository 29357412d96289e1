/**
 * The seam: what every kind of system shows to the rest, whatever decides inside it.
 *
 * <p>In: for each kind of system a room of its own below this one, which knows only this package,
 * facts and memberships. Out: subjects, rights, resources, grants, verdicts with proofs, and for
 * work over all accounts grants as bits that add up. Findings, reports and the command see only
 * what stands here.
 */
@NullMarked
package org.sobercompass.core.system;

import org.jspecify.annotations.NullMarked;
