package org.sobercompass.core.facts;

/**
 * A membership whose other end does not exist in any source.
 *
 * @param subject the group that lists it, or the account whose primary group is missing
 * @param via how it is stated
 * @param text what stands there, as written
 */
public record Dangling(int subject, Via via, String text) {}
