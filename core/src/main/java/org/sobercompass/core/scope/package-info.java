/**
 * Admin scopes and admin roles as a workspace defines them, and which objects are in which scope.
 *
 * <p>In: definitions, facts, memberships. Out: whether an object is in a scope, surely or perhaps,
 * and by which line. Who may do what over a scope is decided by a system of its own kind, below
 * {@code core.system}.
 */
@NullMarked
package org.sobercompass.core.scope;

import org.jspecify.annotations.NullMarked;
