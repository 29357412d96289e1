/**
 * Crosswalks on disk: which directories are matched by what, and the table that a person decides
 * on.
 *
 * <p>In: {@code crosswalks:} of {@code compass.yaml}, and a table as CSV or workbook. Out: plans,
 * and lines with what was decided; everything that is wrong with them in one go; what was carried,
 * to be remembered; accounts and groups still to be made, as LDIF.
 */
@NullMarked
package org.sobercompass.sources.crosswalk;

import org.jspecify.annotations.NullMarked;
