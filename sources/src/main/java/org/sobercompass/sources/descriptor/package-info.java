/**
 * Security descriptors in their two forms: binary ([MS-DTYP] 2.4.6) and SDDL ([MS-DTYP] 2.5.1).
 *
 * <p>In: bytes or text, from anywhere. Out: a descriptor, or where and why it is none. What is
 * truncated or does not fit is refused whole; nothing is guessed.
 */
@NullMarked
package org.sobercompass.sources.descriptor;

import org.jspecify.annotations.NullMarked;
