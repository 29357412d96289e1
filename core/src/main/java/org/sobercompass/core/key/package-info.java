/**
 * Typed stable keys of all that is named: subjects, permissions, roles, nodes, assignments.
 *
 * <p>In: kind, source and immutable id. Out: one text that stays the same from survey to survey,
 * and its order (UTF-8 bytes), which is the order of every output. Uses the JDK only.
 */
@NullMarked
package org.sobercompass.core.key;

import org.jspecify.annotations.NullMarked;
