/**
 * What delegation is read from: directory objects with their access control lists and the names in
 * them, the catalogue of admin actions, and the admin scopes and roles of a workspace.
 *
 * <p>In: LDIF (RFC 2849), YAML, CSV. Out: a tree of objects, names, actions, scopes. A list that
 * cannot be read makes its object undecided and is told.
 */
@NullMarked
package org.sobercompass.sources.delegation;

import org.jspecify.annotations.NullMarked;
