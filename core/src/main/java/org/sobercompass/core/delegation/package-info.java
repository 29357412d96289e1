/**
 * Directories' objects with their access control lists: what admin actions need, every delegation
 * that was ever written and where it comes from, what is handed down.
 *
 * <p>In: a tree of objects with descriptors, the names of classes, attributes and rights, facts.
 * Out: delegations, origins, and a tree as it would be without some entries, or with one more, and
 * what these hand on. Who can act on what is decided by {@code core.system.directory}, behind the
 * seam.
 */
@NullMarked
package org.sobercompass.core.delegation;

import org.jspecify.annotations.NullMarked;
