/**
 * Changes that are proposed and not made yet.
 *
 * <p>In: steps by stable keys, in order. Out: what of them can be laid over a model, as changes by
 * its numbers, and what there is to say of the rest: done already, names nobody, contradicts
 * another; and steps for what is needed again and again, such as making one model as another is. A
 * proposal outlives the model that it was made on: it can be kept, handed on, and laid over a newer
 * one.
 */
@NullMarked
package org.sobercompass.core.proposal;

import org.jspecify.annotations.NullMarked;
