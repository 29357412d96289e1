package org.sobercompass.core.facts;

import java.util.List;
import java.util.Map;

/**
 * One account apart from all others, with the groups that list it: a row of a table that may be
 * kept and read in parts. Groups and units are numbered within their kind, from 0, so that the
 * numbers hold whatever accounts are beside it.
 *
 * @param number its number among all accounts, which are in the order of their keys
 * @param source the name of its directory
 * @param texts immutable id, DN as written, canonical DN, login name, name for people, mail address
 * @param flags of {@link Facts#DISABLED} and its neighbours
 * @param expires epoch second at which it ends, or {@link Facts#NEVER}
 * @param passwordEnds epoch second at which its password ends, or {@link Facts#NEVER}
 * @param lockedUntil epoch second until which it is locked, or {@link Facts#NEVER} when not
 * @param unit the nearest organizational unit above, or -1
 * @param groups the groups that list it
 * @param vias how, for each item of {@code groups}: the number of a {@link Via}
 * @param values the values of the attributes that were asked for
 */
public record AccountRow(
    long number,
    String source,
    List<String> texts,
    int flags,
    long expires,
    long passwordEnds,
    long lockedUntil,
    int unit,
    int[] groups,
    byte[] vias,
    Map<String, List<String>> values) {
  /** How many texts a row has. */
  public static final int TEXTS = 6;

  /** The row of an account. */
  public static AccountRow of(Facts facts, int account) {
    return FactsParts.row(facts, account);
  }
}
