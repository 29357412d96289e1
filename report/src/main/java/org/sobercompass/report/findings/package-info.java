/**
 * Findings in words: the sentence, what the weight comes from, what to do, and each piece of
 * evidence.
 *
 * <p>In: findings, which carry their facts as data. Out: text, without a full stop and without an
 * initial capital, made on demand and not kept. Each family of details has its class here, and each
 * type of it one entry; {@code FindingWordsTest} says which has none. Nothing is decided or looked
 * up here, and nothing reads the words back.
 */
@NullMarked
package org.sobercompass.report.findings;

import org.jspecify.annotations.NullMarked;
