/**
 * Rows in open formats: a table for a terminal, CSV (RFC 4180), JSON, JSON Lines, a workbook
 * (ECMA-376).
 *
 * <p>In: sheets of named values. Out: bytes, the same for the same sheet, but of a workbook, which
 * says when it was made. What a format could act on in a text from outside (a formula, a turn of
 * the writing direction) is made harmless here; which characters these are, {@link
 * org.sobercompass.core.problem.Plain} says.
 */
@NullMarked
package org.sobercompass.report.data;

import org.jspecify.annotations.NullMarked;
