/**
 * Amendments as folders that can be handed on: records, the same in the forms of the systems
 * themselves, digests of all, and the journal of what was done.
 *
 * <p>In: an amendment. Out: a folder that people read without this program, and that this program
 * reads again only when nothing in it was changed.
 */
@NullMarked
package org.sobercompass.sources.amendment;

import org.jspecify.annotations.NullMarked;
