/**
 * Pages to hand over: of the whole organization, of things in it, and the sheets of a review.
 *
 * <p>In: what is judged, its findings, who answers for what, and answers as tables. Out: one
 * self-contained HTML file each, which loads nothing and escapes everything. A page is sections of
 * sentences, pictures, findings and tables, whatever it is about.
 */
@NullMarked
package org.sobercompass.report.page;

import org.jspecify.annotations.NullMarked;
