/**
 * What can and cannot be, stated and checked: expectations.
 *
 * <p>In: a model, stated yes and no. Out: for each whether it holds, and who is against it.
 * Promises: what is not known for certain is undecided, and an expectation that is undecided does
 * not hold.
 */
@NullMarked
package org.sobercompass.core.expect;

import org.jspecify.annotations.NullMarked;
