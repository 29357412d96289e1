/**
 * The facts of directories: subjects, typed membership edges, the attributes that were asked for.
 *
 * <p>In: entries and references in any order, from a reader ({@link
 * org.sobercompass.core.facts.FactsBuilder}). Out: frozen {@link
 * org.sobercompass.core.facts.Facts}, numbered in the order of their keys, with what dangles, what
 * is wrong and what is missing; and the same parted by accounts, as rows and what they all share;
 * who of one reading is who of another. Nothing here decides what a membership is worth.
 */
@NullMarked
package org.sobercompass.core.facts;

import org.jspecify.annotations.NullMarked;
