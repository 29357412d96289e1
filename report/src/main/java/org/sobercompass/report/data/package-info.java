/**
 * Rows in open formats: a table for a terminal, CSV (RFC 4180), JSON, JSON Lines.
 *
 * <p>In: sheets of named values. Out: bytes, the same for the same sheet. Text from outside is made
 * harmless for each format here and nowhere else.
 */
@NullMarked
package org.sobercompass.report.data;

import org.jspecify.annotations.NullMarked;
