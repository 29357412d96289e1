/**
 * Answers of the access model as sheets: which columns, which words.
 *
 * <p>In: answers. Out: sheets with a heading that answers the question in a sentence. Decides
 * nothing.
 */
@NullMarked
package org.sobercompass.report.answers;

import org.jspecify.annotations.NullMarked;
