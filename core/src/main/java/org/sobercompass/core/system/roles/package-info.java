/**
 * Applications with roles: areas, levels and actions, roles, a tree of nodes, assignments.
 *
 * <p>In: definitions and assignments as a reader found them, with subjects already numbered. Out:
 * an {@link org.sobercompass.core.system.AccessSystem} whose decider follows docs/combining.md.
 * Knows no other kind of system.
 */
@NullMarked
package org.sobercompass.core.system.roles;

import org.jspecify.annotations.NullMarked;
