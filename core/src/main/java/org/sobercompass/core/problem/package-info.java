/**
 * What went wrong and what is missing, as data with a place.
 *
 * <p>In: what readers and checks notice. Out: problems (where, what, what was expected, the nearest
 * right thing) and completeness (per source and attribute), which go with every answer that they
 * could change. Nothing here throws on bad input; {@link
 * org.sobercompass.core.problem.BadInputException} is for the reader that gives up with its list.
 */
@NullMarked
package org.sobercompass.core.problem;

import org.jspecify.annotations.NullMarked;
