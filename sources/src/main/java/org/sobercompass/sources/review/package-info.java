/**
 * Reviews on disk: the folder with the sheets that go out, and the answers that come back.
 *
 * <p>In: sheets as rows, filled in by hand in a page or a spreadsheet. Out: decisions, each with
 * its place, and everything that is wrong with them in one go.
 */
@NullMarked
package org.sobercompass.sources.review;

import org.jspecify.annotations.NullMarked;
