/**
 * Live directories over LDAPv3 (RFC 4511).
 *
 * <p>In: where a directory is, as whom to ask, how to protect the connection. Out: its entries one
 * by one, what it says of itself, and a problem with its mend when it cannot be read whole; changes
 * of it as modifications, made only where it still stands as it was read. Promises: TLS verifies
 * unless plain is asked for in so many words; secrets are neither read nor logged; what was not
 * read whole is never taken for the whole.
 */
@NullMarked
package org.sobercompass.sources.live;

import org.jspecify.annotations.NullMarked;
