/** Answers for people and programs. In: answers of the access model. Out: rows, text, pages. */
@NullMarked
package org.sobercompass.report;

import org.jspecify.annotations.NullMarked;
