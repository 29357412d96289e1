/**
 * Reviews: what those who answer for rights are to confirm, and what came of it.
 *
 * <p>In: what is judged, its findings, who answers for what, the answers that came back. Out: for
 * each responsible person the items to confirm, each with what is unusual about it; then what was
 * decided, what is open or contradicted, and the proposal that follows. No words, no files.
 */
@NullMarked
package org.sobercompass.core.review;

import org.jspecify.annotations.NullMarked;
