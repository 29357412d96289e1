/**
 * Taking rights away: the least removals that reach a goal, and what else they end or give.
 *
 * <p>In: an access model, what must stay and what costs more, and a goal that says whether
 * something still holds and by which facts. Out: changes, whether they are proved least, and their
 * effects, all found by evaluating again. Promises: what is returned reaches the goal; "proved"
 * means no cheaper set of removals does.
 */
@NullMarked
package org.sobercompass.core.removal;

import org.jspecify.annotations.NullMarked;
