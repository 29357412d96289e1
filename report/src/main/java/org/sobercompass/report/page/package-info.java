/**
 * The page: one self-contained HTML file, and the pictures in it.
 *
 * <p>In: a model and its findings. Out: HTML and SVG that load nothing and escape everything.
 */
@NullMarked
package org.sobercompass.report.page;

import org.jspecify.annotations.NullMarked;
