/**
 * The lists of a directory as a system: its objects are the resources, admin actions the rights,
 * entries the grants.
 *
 * <p>In: a tree of objects with their lists, and as whom accounts count in it. Out: decisions with
 * the entries that they rest on; the entries that would let somebody do an admin action.
 */
@NullMarked
package org.sobercompass.core.system.directory;

import org.jspecify.annotations.NullMarked;
