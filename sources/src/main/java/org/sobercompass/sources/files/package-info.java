/**
 * Files with their lists: text of {@code getfacl} (1003.1e), NFSv4 lists as text (RFC 7530),
 * descriptors with paths as CSV or JSON lines ([MS-DTYP]), and a live tree.
 *
 * <p>In: what a collector wrote, facts to find users and groups in. Out: core's facts of files;
 * whole lists as they are to be, and on this machine set. Promises: what is cut off or does not fit
 * is told with its line; a path never leads out of its tree; names that are no UTF-8 stay distinct.
 */
@NullMarked
package org.sobercompass.sources.files;

import org.jspecify.annotations.NullMarked;
