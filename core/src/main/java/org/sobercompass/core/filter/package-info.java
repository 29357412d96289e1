/**
 * Search filters (RFC 4515), evaluated as RFC 4511 section 4.5.1.7 says: true, false or undefined.
 *
 * <p>In: filter text and the attribute values of an entry. Out: a {@link
 * org.sobercompass.core.filter.Truth}. An attribute or rule that is not recognised makes an item
 * undefined, and its negation too. No recursion over input deeper than {@code
 * FilterParser.DEEPEST}.
 */
@NullMarked
package org.sobercompass.core.filter;

import org.jspecify.annotations.NullMarked;
