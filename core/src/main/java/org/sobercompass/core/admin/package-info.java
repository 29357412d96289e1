/**
 * Delegated administration as a workspace states it: admin scopes, admin roles, and who has which
 * role over which scope.
 *
 * <p>In: definitions, and a model. Out: who is in a scope and why, what an administrator can do to
 * whom, with the assignment that gives it, and for a no the nearest miss.
 */
@NullMarked
package org.sobercompass.core.admin;

import org.jspecify.annotations.NullMarked;
