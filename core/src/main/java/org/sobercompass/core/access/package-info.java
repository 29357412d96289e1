/**
 * The access model: facts, memberships and systems joined, and the questions asked of them.
 *
 * <p>In: facts, systems, a point in time, a basis. Out: holdings with state, holders, routes and
 * stopped routes, verdicts, redundant grants, differences, roles and levels side by side; all that
 * all accounts hold, cell by cell, and how far that work is. {@link
 * org.sobercompass.core.access.AccessModel} is the door. Nothing here knows what kind a system is.
 */
@NullMarked
package org.sobercompass.core.access;

import org.jspecify.annotations.NullMarked;
