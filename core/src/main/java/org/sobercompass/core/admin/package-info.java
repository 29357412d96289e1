/**
 * Who can administer what, by all systems of delegated administration together: directories' lists
 * and admin roles; and what leads from one right to another.
 *
 * <p>In: a model with these systems, what the workspace states of them. Out: verdicts, holders,
 * ways, the nearest miss of a no, who could give himself a power. {@link
 * org.sobercompass.core.admin.Powers} is the door.
 */
@NullMarked
package org.sobercompass.core.admin;

import org.jspecify.annotations.NullMarked;
