/**
 * What systems remark on their own facts, as data: one record for each kind of remark.
 *
 * <p>In: names and numbers of the system that remarks. Out: immutable values, of which {@code
 * report.findings} makes the words. Knows nothing but itself.
 */
@NullMarked
package org.sobercompass.core.system.remark;

import org.jspecify.annotations.NullMarked;
