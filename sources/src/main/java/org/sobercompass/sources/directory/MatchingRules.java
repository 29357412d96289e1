package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.schema.AttributeTypeDefinition;
import com.unboundid.ldap.sdk.schema.Schema;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Syntax;

/** The published matching rules and syntaxes, by name and by object identifier. */
final class MatchingRules {
  /** Equality rules (RFC 4517 section 4.2, RFC 4530). */
  private static final Map<String, Syntax> EQUALITY =
      Map.ofEntries(
          Map.entry("caseignorematch", Syntax.CASE_IGNORE),
          Map.entry("2.5.13.2", Syntax.CASE_IGNORE),
          Map.entry("caseignoreia5match", Syntax.CASE_IGNORE),
          Map.entry("1.3.6.1.4.1.1466.109.114.2", Syntax.CASE_IGNORE),
          Map.entry("caseignorelistmatch", Syntax.CASE_IGNORE),
          Map.entry("2.5.13.11", Syntax.CASE_IGNORE),
          Map.entry("uuidmatch", Syntax.CASE_IGNORE),
          Map.entry("1.3.6.1.1.16.2", Syntax.CASE_IGNORE),
          Map.entry("caseexactmatch", Syntax.CASE_EXACT),
          Map.entry("2.5.13.5", Syntax.CASE_EXACT),
          Map.entry("caseexactia5match", Syntax.CASE_EXACT),
          Map.entry("1.3.6.1.4.1.1466.109.114.1", Syntax.CASE_EXACT),
          Map.entry("telephonenumbermatch", Syntax.TELEPHONE),
          Map.entry("2.5.13.20", Syntax.TELEPHONE),
          Map.entry("generalizedtimematch", Syntax.TIME),
          Map.entry("2.5.13.27", Syntax.TIME),
          Map.entry("integermatch", Syntax.INTEGER),
          Map.entry("2.5.13.14", Syntax.INTEGER),
          Map.entry("booleanmatch", Syntax.BOOLEAN),
          Map.entry("2.5.13.13", Syntax.BOOLEAN),
          Map.entry("distinguishednamematch", Syntax.DN),
          Map.entry("2.5.13.1", Syntax.DN),
          Map.entry("uniquemembermatch", Syntax.DN),
          Map.entry("2.5.13.23", Syntax.DN),
          Map.entry("objectidentifiermatch", Syntax.OID),
          Map.entry("2.5.13.0", Syntax.OID),
          Map.entry("numericstringmatch", Syntax.NUMERIC),
          Map.entry("2.5.13.8", Syntax.NUMERIC),
          Map.entry("octetstringmatch", Syntax.OCTETS),
          Map.entry("2.5.13.17", Syntax.OCTETS));

  private static final Set<String> ORDERING =
      Set.of(
          "caseignoreorderingmatch", "2.5.13.3",
          "caseexactorderingmatch", "2.5.13.6",
          "numericstringorderingmatch", "2.5.13.9",
          "integerorderingmatch", "2.5.13.15",
          "octetstringorderingmatch", "2.5.13.18",
          "generalizedtimeorderingmatch", "2.5.13.28",
          "uuidorderingmatch", "1.3.6.1.1.16.3");

  private static final Set<String> SUBSTRINGS =
      Set.of(
          "caseignoresubstringsmatch", "2.5.13.4",
          "caseexactsubstringsmatch", "2.5.13.7",
          "numericstringsubstringsmatch", "2.5.13.10",
          "caseignorelistsubstringsmatch", "2.5.13.12",
          "telephonenumbersubstringsmatch", "2.5.13.21",
          "caseignoreia5substringsmatch", "1.3.6.1.4.1.1466.109.114.3",
          "caseexactia5substringsmatch", "1.3.6.1.4.1.4203.1.2.1");

  /** Attribute syntaxes of directories whose schema names no rules ([MS-ADTS] 3.1.1.2.2.2). */
  private static final Map<String, Syntax> SYNTAXES =
      Map.ofEntries(
          Map.entry("1.3.6.1.4.1.1466.115.121.1.15", Syntax.CASE_IGNORE),
          Map.entry("1.2.840.113556.1.4.905", Syntax.CASE_IGNORE),
          Map.entry("1.2.840.113556.1.4.1362", Syntax.CASE_EXACT),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.26", Syntax.CASE_EXACT),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.44", Syntax.CASE_EXACT),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.36", Syntax.CASE_EXACT),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.27", Syntax.INTEGER),
          Map.entry("1.2.840.113556.1.4.906", Syntax.INTEGER),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.24", Syntax.TIME),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.53", Syntax.TIME),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.7", Syntax.BOOLEAN),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.12", Syntax.DN),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.38", Syntax.OID),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.40", Syntax.OCTETS),
          Map.entry("1.3.6.1.4.1.1466.115.121.1.5", Syntax.OCTETS));

  private MatchingRules() {}

  /** By the rules that the type or one above it names. */
  static Matching of(AttributeTypeDefinition type, Schema schema) {
    String equality = lower(type.getEqualityMatchingRule(schema));
    Syntax syntax = EQUALITY.get(equality);
    String ordering = lower(type.getOrderingMatchingRule(schema));
    String substrings = lower(type.getSubstringMatchingRule(schema));
    return new Matching(
        syntax == null ? Syntax.CASE_EXACT : syntax,
        syntax != null,
        syntax != null && ORDERING.contains(ordering),
        syntax != null && SUBSTRINGS.contains(substrings));
  }

  /** By the syntax alone: text and numbers have an order there. */
  static Matching bySyntax(AttributeTypeDefinition type) {
    Syntax syntax = SYNTAXES.get(lower(type.getSyntaxOID()));
    if (syntax == null) {
      return new Matching(Syntax.CASE_EXACT, false, false, false);
    }
    boolean text = syntax == Syntax.CASE_IGNORE || syntax == Syntax.CASE_EXACT;
    boolean ordered = text || syntax == Syntax.INTEGER || syntax == Syntax.TIME;
    return new Matching(syntax, true, ordered, text);
  }

  private static String lower(@Nullable String text) {
    return text == null ? "" : text.toLowerCase(Locale.ROOT).replaceAll("\\{.*", "");
  }
}
