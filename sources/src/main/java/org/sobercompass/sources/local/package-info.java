/**
 * Accounts that stand in no directory: those an application keeps itself, federated ones, service
 * and resource accounts, and the users and groups of one host.
 *
 * <p>In: CSV with one account a line; lines of passwd, group and shadow. Out: facts. Promises:
 * every line is told with its place when something is wrong with it.
 */
@NullMarked
package org.sobercompass.sources.local;

import org.jspecify.annotations.NullMarked;
