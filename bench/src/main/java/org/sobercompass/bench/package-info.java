/**
 * Measuring: a generator of synthetic organizations, a yardstick and other ways to compute the same
 * on the same data in the same run.
 *
 * <p>In: a shape, a size and a seed. Out: workspaces in the product's own formats, figures. Nothing
 * of the product depends on this.
 */
@NullMarked
package org.sobercompass.bench;

import org.jspecify.annotations.NullMarked;
