/**
 * Whether an account is ready to use a system, condition by condition.
 *
 * <p>In: a model, a system, an account. Out: the ordered conditions, each met or not or not known,
 * with the first that fails; what the account lacks of what others in its role have. Promises: the
 * conditions agree with the state of holdings; nothing is guessed where a fact is missing.
 */
@NullMarked
package org.sobercompass.core.readiness;

import org.jspecify.annotations.NullMarked;
