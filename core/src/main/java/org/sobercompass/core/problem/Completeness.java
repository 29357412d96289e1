package org.sobercompass.core.problem;

/**
 * How much of one attribute of one source came in.
 *
 * @param source the source
 * @param attribute the attribute
 * @param asked how many entries were asked for it
 * @param returned how many entries gave at least one value
 * @param withheld how many entries are known to hold it but did not give it
 */
public record Completeness(
    String source, String attribute, int asked, int returned, int withheld) {}
