package org.sobercompass.core.system.remark;

/**
 * An entry of a list.
 *
 * @param trustee by name
 * @param rights as the list calls them
 */
public record ListedEntry(String trustee, String rights) {}
