/**
 * Files with their lists: text of {@code getfacl} (1003.1e), NFSv4 lists as text (RFC 7530),
 * descriptors with paths as CSV or JSON lines ([MS-DTYP]), a live tree, and a share over SMB.
 *
 * <p>In: what a collector wrote, facts to find users and groups in; a share and a password. Out:
 * core's facts of files; whole lists as they are to be, set on this machine or over SMB only where
 * they still are as they were read. Promises: what is cut off or does not fit is told with its
 * line; a path never leads out of its tree; names that are no UTF-8 stay distinct.
 */
@NullMarked
package org.sobercompass.sources.files;

import org.jspecify.annotations.NullMarked;
