/**
 * What findings say, as data: what each kind of finding is about, and what shows it.
 *
 * <p>In: numbers of subjects, systems and rights of the model in which a finding was found, grants,
 * and names where a thing has no number. Out: immutable values. No words are made here, and nothing
 * here decides: the words are in {@code report.findings}, one for each type, and a test there says
 * which type has none.
 */
@NullMarked
package org.sobercompass.core.findings.details;

import org.jspecify.annotations.NullMarked;
