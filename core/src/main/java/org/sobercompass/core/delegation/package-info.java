/**
 * Delegated administration in the directory itself: its objects with their access control lists,
 * what admin actions need, who can act on what, and every delegation that was ever written.
 *
 * <p>In: a tree of objects with descriptors, the names of classes, attributes and rights, the
 * memberships of a model. Out: decisions with the entries that give them, and delegations with
 * where they come from; and a tree as it would be without some entries and what these hand on. Not
 * the whole object, the list of it as stored decides; what could not be read is undecided.
 */
@NullMarked
package org.sobercompass.core.delegation;

import org.jspecify.annotations.NullMarked;
