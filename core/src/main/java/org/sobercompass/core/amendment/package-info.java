/**
 * Changes on their way into real systems, and back: records with what stood before and what stands
 * after, the journal of what was done, and the order of work that keeps both true.
 *
 * <p>In: records, a live system that can be asked and changed, a place to keep the journal. Out:
 * what was done, what was found done, what was changed by somebody else meanwhile and was left
 * alone. Knows no kind of system and no file.
 */
@NullMarked
package org.sobercompass.core.amendment;

import org.jspecify.annotations.NullMarked;
