/**
 * Databases: roles, objects and grants of PostgreSQL, live through its JDBC driver and from what
 * was collected.
 *
 * <p>In: a connection, or JSON lines that one was collected into. Out: roles as facts, objects as
 * core's database. Promises: one snapshot; nothing is changed; what could not be read is said and
 * undecided; no password is kept.
 */
@NullMarked
package org.sobercompass.sources.database;

import org.jspecify.annotations.NullMarked;
