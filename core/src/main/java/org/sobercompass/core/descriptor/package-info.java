/**
 * Security descriptors as [MS-DTYP] and [MS-ADTS] define them: entries, lists, inheritance, and the
 * access check, entry by entry; and their form as text, SDDL ([MS-DTYP] 2.5.1).
 *
 * <p>In: descriptors as data, the trustees that an account counts as. Out: yes, no or undecided,
 * with the entry that decided. An entry that cannot be judged is taken once as favourably and once
 * as unfavourably as possible; it never lets anybody in by itself.
 */
@NullMarked
package org.sobercompass.core.descriptor;

import org.jspecify.annotations.NullMarked;
