/**
 * Who is in which group, for one way of looking.
 *
 * <p>In: facts (or a patched view of them), a membership profile and a sight. Out: the set of
 * subjects an account counts as, sure and perhaps, the paths that make it so, and bits of subjects
 * summed over all that an account counts as. A membership is perhaps when a filter of the sight is
 * undefined for something on the way. No recursion: a chain of 200,000 groups is walked with a list
 * of its own.
 */
@NullMarked
package org.sobercompass.core.membership;

import org.jspecify.annotations.NullMarked;
