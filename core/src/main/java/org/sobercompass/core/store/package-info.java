/**
 * Compact stores: growable and frozen integer rows, texts in byte slabs, a hash index over texts,
 * sets of numbers, rows of blocks of bits that add up.
 *
 * <p>In: numbers and texts, in any order. Out: frozen arrays that any number of threads may read.
 * Nothing here knows what a number stands for. Uses the JDK only.
 */
@NullMarked
package org.sobercompass.core.store;

import org.jspecify.annotations.NullMarked;
