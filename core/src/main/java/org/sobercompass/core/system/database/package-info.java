/**
 * Databases as PostgreSQL keeps rights: roles, objects, grants, and what must be held on the way to
 * an object.
 *
 * <p>In: objects with owners, grants and default privileges as the server's catalogues say, roles
 * already numbered. Out: an {@link org.sobercompass.core.system.AccessSystem} that decides as the
 * server does when a statement runs, not only as its privilege functions say; the grants that would
 * give a privilege. Knows no other kind of system.
 */
@NullMarked
package org.sobercompass.core.system.database;

import org.jspecify.annotations.NullMarked;
