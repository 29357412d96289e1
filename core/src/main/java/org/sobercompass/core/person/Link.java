package org.sobercompass.core.person;

/**
 * Why two accounts are one person's.
 *
 * @param account one account
 * @param other the other
 * @param reason the attribute and value, or what somebody wrote
 */
public record Link(int account, int other, String reason) {}
