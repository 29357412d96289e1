/**
 * Databases: roles, objects and grants of PostgreSQL, live through its JDBC driver and from what
 * was collected.
 *
 * <p>In: a connection, or JSON lines that one was collected into. Out: roles as facts, objects as
 * core's database; statements as steps of proposals, and records of changes as statements.
 * Promises: one snapshot; nothing is changed but by a record, in one transaction that asks first
 * whether all is as it was read; what could not be read is said and undecided; no password is kept.
 */
@NullMarked
package org.sobercompass.sources.database;

import org.jspecify.annotations.NullMarked;
