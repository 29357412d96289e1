package org.sobercompass.core.filter;

import java.math.BigInteger;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;

/**
 * How values of an attribute compare: a thin table of the usual attribute types (RFC 4517, RFC
 * 4519, RFC 2307); all others compare as case-ignore strings, which is the rule of most.
 */
public enum Syntax {
  /** caseIgnoreMatch and its kin: case and runs of spaces do not count. */
  CASE_IGNORE,
  /** caseExactMatch and its kin. */
  CASE_EXACT,
  /** numericStringMatch: spaces do not count. */
  NUMERIC,
  /** octetStringMatch: every byte counts. */
  OCTETS,
  /** telephoneNumberMatch: neither case, spaces nor hyphens count (RFC 4517 section 4.2.29). */
  TELEPHONE,
  /** generalizedTimeMatch and its ordering, for times in UTC. */
  TIME,
  /** integerMatch, integerOrderingMatch; a value that is no integer makes an item undefined. */
  INTEGER,
  /** booleanMatch: TRUE or FALSE, no ordering. */
  BOOLEAN,
  /** distinguishedNameMatch: no ordering, no substrings. */
  DN,
  /** objectIdentifierMatch: no ordering, no substrings. */
  OID;

  /** Text that compares without case, by RFC 4519, RFC 2798, RFC 4524, RFC 2307 and [MS-ADSC]. */
  private static final Set<String> TEXTS =
      Set.of(
          "businesscategory",
          "c",
          "carlicense",
          "cn",
          "co",
          "company",
          "department",
          "departmentnumber",
          "description",
          "displayname",
          "division",
          "employeenumber",
          "employeetype",
          "extensionattribute1",
          "gecos",
          "generationqualifier",
          "givenname",
          "info",
          "initials",
          "l",
          "mail",
          "mailnickname",
          "name",
          "o",
          "objectclass",
          "ou",
          "personaltitle",
          "physicaldeliveryofficename",
          "postaladdress",
          "postalcode",
          "postofficebox",
          "preferredlanguage",
          "roomnumber",
          "samaccountname",
          "serialnumber",
          "sn",
          "st",
          "street",
          "streetaddress",
          "title",
          "uid",
          "userprincipalname");

  private static final Map<Syntax, Set<String>> KNOWN =
      Map.of(
          INTEGER,
          Set.of(
              "uidnumber",
              "gidnumber",
              "useraccountcontrol",
              "accountexpires",
              "primarygroupid",
              "grouptype",
              "shadowexpire",
              "samaccounttype",
              "pwdlastset",
              "lastlogontimestamp"),
          TELEPHONE,
          Set.of("telephonenumber", "mobile", "pager", "homephone", "facsimiletelephonenumber"),
          TIME,
          Set.of("createtimestamp", "modifytimestamp", "whencreated", "whenchanged"),
          CASE_EXACT,
          Set.of("memberuid", "homedirectory", "loginshell"),
          BOOLEAN,
          Set.of("nsaccountlock"),
          DN,
          Set.of("member", "uniquemember", "memberof", "manager", "owner", "seealso", "secretary"),
          OID,
          Set.of("objectclass"));

  /** The syntax of an attribute (lower-case name). */
  public static Syntax of(String attribute) {
    for (Map.Entry<Syntax, Set<String>> entry : KNOWN.entrySet()) {
      if (entry.getValue().contains(attribute)) {
        return entry.getKey();
      }
    }
    return CASE_IGNORE;
  }

  /** The attributes in the tables, recognised even where no entry has them. */
  public static boolean isKnown(String attribute) {
    return of(attribute) != CASE_IGNORE || TEXTS.contains(attribute);
  }

  /** The attributes in the tables, lower case. */
  public static Set<String> known() {
    Set<String> all = new TreeSet<>(TEXTS);
    KNOWN.values().forEach(all::addAll);
    return all;
  }

  /** That an attribute was compared by guess, since no schema says how. */
  public static Problem guessed(Place place, String directory, String attribute) {
    return Problem.warning(
        place,
        "how "
            + attribute
            + " compares in "
            + directory
            + " was not read: values that differ only in case, spaces or hyphens are undecided",
        "schema: of the directory in compass.yaml, or a survey of it");
  }

  /** The form in which equal values are equal texts; empty when the value is not of this syntax. */
  public Optional<String> normalise(String value) {
    return switch (this) {
      case CASE_EXACT -> Optional.of(squeeze(value));
      case NUMERIC -> Optional.of(value.replace(" ", ""));
      case OCTETS -> Optional.of(value);
      case INTEGER -> integer(value).map(BigInteger::toString);
      case BOOLEAN -> bool(value);
      case TELEPHONE -> Optional.of(dial(value));
      case TIME -> time(value);
      case DN -> Optional.of(foldDn(value));
      case CASE_IGNORE, OID -> Optional.of(fold(value));
    };
  }

  /**
   * Orders two values; empty when the syntax has no order or a value is not of it. Text goes by
   * code points in the form that is compared (RFC 4517 section 4.2.12).
   */
  public Optional<Integer> compare(String a, String b) {
    return switch (this) {
      case INTEGER -> integer(a).flatMap(x -> integer(b).map(x::compareTo));
      case TIME -> time(a).flatMap(x -> time(b).map(x::compareTo));
      case CASE_IGNORE, CASE_EXACT, NUMERIC, OCTETS ->
          normalise(a).flatMap(x -> normalise(b).map(y -> Key.compareUtf8(x, y)));
      case TELEPHONE, BOOLEAN, DN, OID -> Optional.empty();
    };
  }

  /** Whether upper and lower case are the same. */
  public boolean ignoresCase() {
    return this != CASE_EXACT && this != OCTETS;
  }

  /** Whether it is text, of which pieces can be looked for. */
  boolean isText() {
    return this == CASE_IGNORE || this == CASE_EXACT || this == TELEPHONE || this == NUMERIC;
  }

  /** The form in which pieces of values are looked for. */
  String piece(String text) {
    return switch (this) {
      case CASE_EXACT -> text;
      case TELEPHONE -> dial(text);
      case NUMERIC -> text.replace(" ", "");
      default -> text.toLowerCase(Locale.ROOT);
    };
  }

  /**
   * Folds case and runs of spaces, as caseIgnoreMatch compares (RFC 4518, without the rarer steps).
   */
  public static String fold(String value) {
    return squeeze(value).toLowerCase(Locale.ROOT);
  }

  private static String foldDn(String value) {
    return fold(value).replaceAll("\\s*([,=+])\\s*", "$1");
  }

  private static String squeeze(String value) {
    boolean plain = !value.isEmpty() && value.charAt(0) != ' ';
    for (int i = 1; plain && i < value.length(); i++) {
      plain = value.charAt(i) != ' ' || value.charAt(i - 1) != ' ';
    }
    boolean tight = plain && value.charAt(value.length() - 1) != ' ';
    return tight ? value : value.strip().replaceAll(" +", " ");
  }

  private static Optional<String> bool(String value) {
    String upper = value.toUpperCase(Locale.ROOT);
    return upper.equals("TRUE") || upper.equals("FALSE") ? Optional.of(upper) : Optional.empty();
  }

  private static String dial(String value) {
    return value.replaceAll("[ -]", "").toLowerCase(Locale.ROOT);
  }

  /** {@code YYYYMMDDHHMMSS[.fraction]Z} without the fraction; other zones are not known here. */
  private static Optional<String> time(String value) {
    return value.matches("[0-9]{14}([.,][0-9]+)?Z")
        ? Optional.of(value.substring(0, 14))
        : Optional.empty();
  }

  private static Optional<BigInteger> integer(String value) {
    return value.matches("-?[0-9]{1,40}") ? Optional.of(new BigInteger(value)) : Optional.empty();
  }
}
