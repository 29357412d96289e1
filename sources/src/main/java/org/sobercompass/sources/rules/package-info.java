/**
 * What the workspace judges by: separation of duties, thresholds, usage, waivers, expectations.
 *
 * <p>In: nodes of {@code compass.yaml} and the files it names. Out: rules of core. Promises: every
 * fault is told with its place, what was expected and the nearest right thing, all in one go.
 */
@NullMarked
package org.sobercompass.sources.rules;

import org.jspecify.annotations.NullMarked;
