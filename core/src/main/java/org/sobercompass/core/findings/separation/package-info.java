/**
 * Separation of duties: who has both sides of a rule, through which memberships, and what is nearly
 * broken. In: rules, one sweep of all accounts or of those in focus. Out: findings, and the goal
 * that sides are apart.
 */
@NullMarked
package org.sobercompass.core.findings.separation;

import org.jspecify.annotations.NullMarked;
