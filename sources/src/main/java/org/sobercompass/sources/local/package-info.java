/**
 * Accounts that stand in no directory: those an application keeps itself, federated ones, service
 * and resource accounts.
 *
 * <p>In: CSV with one account a line. Out: facts. Promises: every line is told with its place when
 * something is wrong with it.
 */
@NullMarked
package org.sobercompass.sources.local;

import org.jspecify.annotations.NullMarked;
