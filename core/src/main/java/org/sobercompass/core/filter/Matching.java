package org.sobercompass.core.filter;

/**
 * How values of one attribute type compare: its syntax, and which of the three rules it has (RFC
 * 4512 section 4.1.2). An item that needs a rule which is not there is undefined (RFC 4511 section
 * 4.5.1.7).
 *
 * @param syntax how equal values are found and, where there is an order, ordered
 * @param equality whether it has an equality rule
 * @param ordering whether it has an ordering rule
 * @param substrings whether it has a substrings rule
 * @param guessed whether no schema was read and the attribute is none of the usual types: what its
 *     rule decides is undefined where the usual rules differ
 */
public record Matching(
    Syntax syntax, boolean equality, boolean ordering, boolean substrings, boolean guessed) {

  /** The rules that a schema names. */
  public Matching(Syntax syntax, boolean equality, boolean ordering, boolean substrings) {
    this(syntax, equality, ordering, substrings, false);
  }

  /**
   * The rules that the usual attribute types have (RFC 4519, RFC 2307, RFC 4530), a guess for all
   * other types.
   */
  public static Matching usual(String attribute) {
    Matching usual = usual(Syntax.of(attribute));
    return new Matching(
        usual.syntax, true, usual.ordering, usual.substrings, !Syntax.isKnown(attribute));
  }

  /** The rules that types of a syntax usually have: text has no order. */
  public static Matching usual(Syntax syntax) {
    return new Matching(
        syntax,
        true,
        syntax == Syntax.INTEGER || syntax == Syntax.TIME || syntax == Syntax.NUMERIC,
        syntax.isText());
  }
}
