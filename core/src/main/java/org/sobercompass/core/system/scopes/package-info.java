/**
 * Admin roles over admin scopes as a system: the accounts, groups and units that may be in a scope
 * are the resources, admin actions the rights, admin roles that were given the grants.
 *
 * <p>In: definitions of scopes and roles, memberships. Out: decisions with the admin roles that
 * they rest on.
 */
@NullMarked
package org.sobercompass.core.system.scopes;

import org.jspecify.annotations.NullMarked;
