/**
 * Security descriptors in their binary form ([MS-DTYP] 2.4.6).
 *
 * <p>In: bytes, from anywhere. Out: a descriptor, or where and why it is none. What is truncated or
 * does not fit is refused whole; nothing is guessed.
 */
@NullMarked
package org.sobercompass.sources.descriptor;

import org.jspecify.annotations.NullMarked;
