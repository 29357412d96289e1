/**
 * What differs between two readings of one organization, by cause.
 *
 * <p>In: what was judged before and what is judged now, each by its own numbers. Out: by keys, who
 * gained and lost which permission; the changes that did it, each with what it did by itself; who
 * is new, gone, renamed or moved; which findings began and ended.
 */
@NullMarked
package org.sobercompass.core.comparison;

import org.jspecify.annotations.NullMarked;
