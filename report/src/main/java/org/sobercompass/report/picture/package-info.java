/**
 * Pictures of answers, as SVG: routes, layers of one permission, accounts by roles, trees of
 * places, chains within reach, readings over time.
 *
 * <p>In: a model and what was asked of it. Out: SVG that loads nothing and escapes everything, for
 * a page or as a file of its own. What a colour says, a shape, a sign or a word says too.
 */
@NullMarked
package org.sobercompass.report.picture;

import org.jspecify.annotations.NullMarked;
