/**
 * The door to findings: all of them, what ends one at least, what changes would do, what is
 * accepted, and which findings concern what.
 *
 * <p>In: what is judged, by which rules, and for a preview the changes. Out: findings worst first,
 * advice, and previews: what begins and ends, which expectations are not met any more, who is shut
 * out or let in; and whether what a preview said came true. The families of finders below {@code
 * core.findings} are registered here.
 */
@NullMarked
package org.sobercompass.core.audit;

import org.jspecify.annotations.NullMarked;
