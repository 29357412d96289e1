/**
 * Files as they stand on disk, without regard to what they say.
 *
 * <p>In: places, and what is to be written there. Out: files that are their owner's alone, on disk
 * and there whole or not at all; names of a mapping as places that it may name; collections of ours
 * with a last line that shows whether they were cut. Every failure to write names the file and the
 * reason.
 */
@NullMarked
package org.sobercompass.sources.disk;

import org.jspecify.annotations.NullMarked;
