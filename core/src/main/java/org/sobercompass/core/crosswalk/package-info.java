/**
 * Which account, group or unit of one directory is which of another.
 *
 * <p>In: the facts of both directories, attributes to compare, what was decided by hand. Out: for
 * each account of the one its counterpart in the other, with how sure that is and why; the table
 * that a person decides on; what of it does not hold any more. Promises: what is called certain
 * rests on two kinds of evidence and nothing against it; a value that many have is no evidence;
 * matching the other way round gives the same pairs; what was decided by hand wins.
 */
@NullMarked
package org.sobercompass.core.crosswalk;

import org.jspecify.annotations.NullMarked;
