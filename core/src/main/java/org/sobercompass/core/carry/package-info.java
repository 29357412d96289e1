/**
 * Rights carried from one subject to another: those that one directory's accounts, groups and units
 * have by themselves become those of their counterparts.
 *
 * <p>In: a model, who is whose counterpart, what to carry and how. Out: a proposal, right by right;
 * what could not be carried, with why; what each person gains and loses by it, admin actions too,
 * worked out by evaluation; what moved on either side since it was carried before.
 */
@NullMarked
package org.sobercompass.core.carry;

import org.jspecify.annotations.NullMarked;
