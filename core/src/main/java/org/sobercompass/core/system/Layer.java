package org.sobercompass.core.system;

import java.util.List;

/**
 * One layer of a right: something that must be passed besides others.
 *
 * @param name what it is, in words: the share's list, search in a folder above
 * @param resource where it stands
 * @param verdict whether it is passed
 * @param gives the grants that let the account pass, any of them enough
 * @param stops the grants that take it away
 * @param note what else is to be said, or empty
 */
public record Layer(
    String name,
    int resource,
    Verdict verdict,
    List<Integer> gives,
    List<Integer> stops,
    String note) {}
