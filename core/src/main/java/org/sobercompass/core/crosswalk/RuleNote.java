package org.sobercompass.core.crosswalk;

/**
 * What a rule found to compare.
 *
 * @param rule the rule
 * @param filledFrom how many accounts of the one side have a value
 * @param filledTo how many of the other
 * @param shared how many values are on both sides and held by few
 * @param many how many values are held by too many to tell anything
 */
public record RuleNote(MatchRule rule, int filledFrom, int filledTo, int shared, int many) {}
