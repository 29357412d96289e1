/**
 * Applications with roles: definitions in YAML, assignments and registers in CSV.
 *
 * <p>In: files of the workspace, facts to resolve names against. Out: role applications. Knows no
 * other kind of system.
 */
@NullMarked
package org.sobercompass.sources.roles;

import org.jspecify.annotations.NullMarked;
