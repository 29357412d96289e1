/**
 * Files and folders with access control lists: shared folders ([MS-DTYP] descriptors behind a
 * share's list), NFSv4 lists (RFC 7530), POSIX lists (1003.1e) with the folders above.
 *
 * <p>In: paths with their lists, as a reader found them, trustees already numbered. Out: an {@link
 * org.sobercompass.core.system.AccessSystem} that decides as the real systems do, layer by layer,
 * that tells which entries would give a right or take it, who owns what, and which lists a preview
 * has otherwise. Knows no other kind of system.
 */
@NullMarked
package org.sobercompass.core.system.files;

import org.jspecify.annotations.NullMarked;
