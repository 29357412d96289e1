package org.sobercompass.sources.real;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * A directory tree for real servers, made from a seed: accounts in several organizational units,
 * static groups in groups and circles, groups by rule.
 */
final class RealTree {
  static final int ACCOUNTS = 300;
  static final int GROUPS = 60;
  private static final String[] UNITS = {"Glasshouses", "Seed Vault", "Herbarium", "Office"};
  private static final String[] TITLES = {"Keeper", "Gardener", "keeper", "Buyer", "Volunteer"};

  /** Attribute types of our own: with order, with another name, without any rule, below another. */
  static final String SCHEMA =
      """
      attributetype ( 1.3.6.1.4.1.32473.1.1 NAME ( 'shelfMark' 'standMark' )
        EQUALITY caseIgnoreMatch ORDERING caseIgnoreOrderingMatch
        SUBSTR caseIgnoreSubstringsMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )
      attributetype ( 1.3.6.1.4.1.32473.1.2 NAME 'shelfRoom' SUP shelfMark )
      attributetype ( 1.3.6.1.4.1.32473.1.3 NAME 'trayNumber'
        EQUALITY numericStringMatch ORDERING numericStringOrderingMatch
        SUBSTR numericStringSubstringsMatch SYNTAX 1.3.6.1.4.1.1466.115.121.1.36 )
      attributetype ( 1.3.6.1.4.1.32473.1.4 NAME 'shelfNote'
        SYNTAX 1.3.6.1.4.1.1466.115.121.1.15 )
      objectclass ( 1.3.6.1.4.1.32473.2.1 NAME 'shelfHolder' SUP top AUXILIARY
        MAY ( shelfMark $ shelfRoom $ trayNumber $ shelfNote ) )
      """;

  private RealTree() {}

  static String ldif(long seed) {
    Random random = new Random(seed);
    StringBuilder out = new StringBuilder();
    entry(out, Slapd.SUFFIX, "objectClass: domain", "dc: alderfen");
    entry(
        out,
        Slapd.READER,
        "objectClass: organizationalRole",
        "objectClass: simpleSecurityObject",
        "cn: reader",
        "userPassword: " + Slapd.PASSWORD);
    unit(out, "people", Slapd.SUFFIX);
    unit(out, "groups", Slapd.SUFFIX);
    for (String unit : UNITS) {
      unit(out, unit, "ou=people," + Slapd.SUFFIX);
    }
    List<String> dns = new ArrayList<>();
    for (int i = 0; i < ACCOUNTS; i++) {
      dns.add(account(out, i, random));
    }
    for (int g = 0; g < GROUPS; g++) {
      List<String> lines = new ArrayList<>(List.of("objectClass: groupOfNames", "cn: group" + g));
      for (int m = 0; m < 1 + random.nextInt(25); m++) {
        String member =
            random.nextInt(6) == 0
                ? "cn=group" + random.nextInt(GROUPS) + ",ou=groups," + Slapd.SUFFIX
                : dns.get(random.nextInt(dns.size()));
        String line =
            "member: "
                + (random.nextBoolean() ? member : member.toUpperCase().replace("UID=", "uid="));
        if (lines.stream().noneMatch(line::equalsIgnoreCase)) {
          lines.add(line);
        }
      }
      entry(out, "cn=group" + g + ",ou=groups," + Slapd.SUFFIX, lines.toArray(String[]::new));
    }
    rule(out, "keepers", "ou=people," + Slapd.SUFFIX + "??sub?(title=Keeper)");
    rule(
        out,
        "vault-or-new",
        "ou=people,"
            + Slapd.SUFFIX
            + "??sub?(|(departmentNumber=2)(&(uid=user28*)(!(title=Buyer))))");
    rule(
        out,
        "office-only",
        "ou=Office,ou=people," + Slapd.SUFFIX + "??one?(objectClass=inetOrgPerson)");
    rule(out, "mail-of-seed", "ou=people," + Slapd.SUFFIX + "??sub?(mail=*seed*)");
    return out.toString();
  }

  private static String account(StringBuilder out, int i, Random random) {
    int unit = random.nextInt(UNITS.length);
    String dn = "uid=user" + i + ",ou=" + UNITS[unit] + ",ou=people," + Slapd.SUFFIX;
    List<String> lines =
        new ArrayList<>(
            List.of(
                "objectClass: inetOrgPerson",
                "uid: user" + i,
                "sn: Number" + i % 40,
                "cn: User  Number " + i,
                "departmentNumber: " + (unit + 1),
                "employeeNumber: " + i));
    if (random.nextInt(4) > 0) {
      lines.add("title: " + TITLES[random.nextInt(TITLES.length)]);
    }
    if (random.nextInt(3) > 0) {
      lines.add("mail: user" + i + (unit == 1 ? "@seed" : "@Alderfen") + ".example");
    }
    if (random.nextInt(5) == 0) {
      lines.add("description: Uses (brackets) * and \\ signs, number " + i % 7);
    }
    if (i % 3 == 0) {
      lines.add("objectClass: shelfHolder");
      lines.add("shelfMark: " + "ABCDabcd".charAt(i % 8) + " " + i % 50);
      lines.add((i % 2 == 0 ? "shelfNote: x" : "shelfRoom: a" + i % 9));
      lines.add("trayNumber: " + i % 30 + " " + (100 + i));
    }
    if (random.nextInt(6) == 0) {
      lines.add("telephoneNumber: +351 21 0" + i % 10 + " " + (1000 + i));
    }
    entry(out, dn, lines.toArray(String[]::new));
    return dn;
  }

  private static void rule(StringBuilder out, String name, String url) {
    entry(
        out,
        "cn=" + name + ",ou=groups," + Slapd.SUFFIX,
        "objectClass: groupOfURLs",
        "cn: " + name,
        "memberURL: ldap:///" + url);
  }

  private static void unit(StringBuilder out, String name, String above) {
    entry(out, "ou=" + name + "," + above, "objectClass: organizationalUnit", "ou: " + name);
  }

  private static void entry(StringBuilder out, String dn, String... lines) {
    out.append("dn: ").append(dn).append('\n');
    for (String line : lines) {
      out.append(line).append('\n');
    }
    out.append('\n');
  }
}
