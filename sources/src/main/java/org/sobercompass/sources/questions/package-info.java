/**
 * Questions in bulk, as CSV or JSON lines.
 *
 * <p>In: a stream. Out: texts of questions with their line. Nothing is resolved here.
 */
@NullMarked
package org.sobercompass.sources.questions;

import org.jspecify.annotations.NullMarked;
