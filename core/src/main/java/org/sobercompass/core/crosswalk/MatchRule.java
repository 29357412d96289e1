package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Syntax;

/**
 * What of two accounts is compared, and how. Immutable.
 *
 * @param from attributes (lower case) on the one side; any of their values may agree
 * @param to attributes on the other side
 * @param as how they compare
 * @param domains mail domains (lower case) that stand for others
 * @param strip beginnings that do not count, such as {@code u-} in {@code u-1071}
 * @param accents whether accents count, where values are not names
 */
public record MatchRule(
    List<String> from,
    List<String> to,
    As as,
    Map<String, String> domains,
    List<String> strip,
    boolean accents) {

  /** Stands for the login name, whatever attribute a directory keeps it in. */
  public static final String LOGIN = "login";

  /** Stands for the names of persons: display name, cn, given name with surname. */
  public static final String NAME = "name";

  /** What a reason is called that two accounts are known to be one person's. */
  public static final String PERSON = "person";

  private static final Set<String> NAMES = Set.of(NAME, "cn", "displayname", "gecos");
  private static final Set<String> LOGINS = Set.of(LOGIN, "uid", "samaccountname");

  /**
   * Attributes that say what somebody does, or where; however few have a value, it names nobody.
   */
  private static final Set<String> DESCRIBING =
      Set.of(
          "c",
          "co",
          "company",
          "department",
          "departmentnumber",
          "description",
          "employeetype",
          "gidnumber",
          "homedirectory",
          "l",
          "manager",
          "o",
          "ou",
          "physicaldeliveryofficename",
          "postalcode",
          "roomnumber",
          "st",
          "street",
          "streetaddress",
          "title");

  /** Copies. */
  public MatchRule {
    from = List.copyOf(from);
    to = List.copyOf(to);
    domains = Map.copyOf(domains);
    strip = List.copyOf(strip);
  }

  /** How values compare. */
  public enum As {
    /** By the matching rule of the attribute. */
    VALUE,
    /** As names of persons: case, accents and the order of their parts do not count. */
    NAME,
    /** As login names. */
    LOGIN,
    /** An id on the one side that the other keeps from an earlier directory. */
    FORMER_ID
  }

  /** The same attribute on both sides, compared as its name says. */
  public static MatchRule of(String attribute) {
    return of(attribute, attribute);
  }

  /** Two attributes, compared as their names say. */
  public static MatchRule of(String from, String to) {
    String one = from.toLowerCase(Locale.ROOT);
    String two = to.toLowerCase(Locale.ROOT);
    As as = As.VALUE;
    if (NAMES.contains(one) && NAMES.contains(two)) {
      as = As.NAME;
    } else if (LOGINS.contains(one) && LOGINS.contains(two)) {
      as = As.LOGIN;
    } else if (one.equals("objectsid") && two.equals("sidhistory")
        || two.equals("objectsid") && one.equals("sidhistory")) {
      as = As.FORMER_ID;
    }
    return new MatchRule(List.of(one), List.of(two), as, Map.of(), List.of(), true);
  }

  /** What is compared where nobody says what; attributes that one side lacks do nothing. */
  public static List<MatchRule> usual() {
    return List.of(
        of("objectsid", "sidhistory"),
        of("employeenumber"),
        of("mail"),
        of("mobile"),
        of("telephonenumber"),
        of(NAME),
        of(LOGIN));
  }

  /** The same with the sides exchanged. */
  public MatchRule reversed() {
    return new MatchRule(to, from, as, domains, strip, accents);
  }

  /** The attributes that must be read for it. */
  public Set<String> needs() {
    Set<String> needs = new java.util.TreeSet<>();
    for (List<String> side : List.of(from, to)) {
      for (String attribute : side) {
        switch (attribute) {
          case LOGIN -> {}
          case NAME -> needs.addAll(List.of("cn", "displayname", "givenname", "sn"));
          default -> needs.add(attribute);
        }
      }
    }
    return needs;
  }

  /** What it is called: the attribute, or both. */
  public String label() {
    return from.equals(to)
        ? String.join("+", from)
        : String.join("+", from) + " = " + String.join("+", to);
  }

  /**
   * Which rules tell the same thing of an account: of several that agree, one counts. A login name,
   * and a mail address in another domain, are made from the name.
   */
  String family() {
    if (as == As.NAME || as == As.LOGIN || !domains.isEmpty()) {
      return NAME;
    }
    return Syntax.of(from.get(0)) == Syntax.TELEPHONE ? "telephone" : label();
  }

  /** Whether a value could be one account's alone. */
  boolean mayIdentify() {
    return as == As.FORMER_ID
        || as == As.VALUE
            && domains.isEmpty()
            && from.stream().noneMatch(DESCRIBING::contains)
            && to.stream().noneMatch(DESCRIBING::contains);
  }

  /**
   * The values of an account on one side, as they are compared; each once, in order.
   *
   * @param syntax as {@link #syntax} says
   */
  List<String> values(Facts facts, int account, boolean ofFrom, Syntax syntax) {
    Map<String, Boolean> values = new LinkedHashMap<>();
    for (String attribute : ofFrom ? from : to) {
      for (String raw : raw(facts, account, attribute)) {
        String value = tidy(syntax, raw);
        if (!value.isBlank()) {
          values.put(value, true);
        }
      }
    }
    return List.copyOf(values.keySet());
  }

  private static List<String> raw(Facts facts, int account, String attribute) {
    if (attribute.equals(LOGIN)) {
      return List.of(facts.login(account));
    }
    if (!attribute.equals(NAME)) {
      List<String> values = facts.values(account, attribute);
      // Where a directory has no such attribute, it may still know the address.
      boolean known = values.isEmpty() && attribute.equals("mail");
      return known && !facts.mail(account).isEmpty() ? List.of(facts.mail(account)) : values;
    }
    List<String> names = new ArrayList<>(facts.values(account, "displayname"));
    names.addAll(facts.values(account, "cn"));
    List<String> given = facts.values(account, "givenname");
    List<String> last = facts.values(account, "sn");
    if (given.size() == 1 && last.size() == 1) {
      names.add(given.get(0) + " " + last.get(0));
    }
    if (names.isEmpty() && facts.label(account).matches(".*\\S[ ,]+\\S.*")) {
      names.add(facts.label(account));
    }
    return names;
  }

  private String tidy(Syntax syntax, String raw) {
    if (as == As.NAME) {
      return PersonName.tidy(raw);
    }
    String value = stripped(raw.strip());
    if (as == As.LOGIN) {
      return accents ? Syntax.fold(value) : PersonName.plain(value);
    }
    String compared = syntax.normalise(value).orElse(value);
    int at = compared.lastIndexOf('@');
    if (at >= 0 && !domains.isEmpty()) {
      String domain = compared.substring(at + 1);
      compared = compared.substring(0, at + 1) + domains.getOrDefault(domain, domain);
    }
    return accents ? compared : PersonName.plain(compared);
  }

  /**
   * By what values compare on both sides: as both directories say; where they say different things,
   * as is usual for the attribute if one of them says so, else as text without case.
   */
  Syntax syntax(Facts facts, String fromDirectory, String toDirectory) {
    Syntax one = said(facts, fromDirectory, from.get(0));
    Syntax other = said(facts, toDirectory, to.get(0));
    Syntax usual = Syntax.of(from.get(0));
    if (one == other) {
      return one;
    }
    return usual == one || usual == other ? usual : Syntax.CASE_IGNORE;
  }

  private static Syntax said(Facts facts, String directory, String attribute) {
    return facts.matching(directory, attribute).map(Matching::syntax).orElse(Syntax.of(attribute));
  }

  private String stripped(String value) {
    for (String start : strip) {
      if (value.regionMatches(true, 0, start, 0, start.length())) {
        return value.substring(start.length());
      }
    }
    return value;
  }
}
