package org.sobercompass.sources.files;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Trustees;

/**
 * Users and groups of POSIX lists, by name or number (RFC 2307 {@code uidNumber}, {@code
 * gidNumber}). Two accounts with one number are one user to the system. Not thread-safe.
 */
final class PosixNames {
  static final String UID = "uidnumber";
  static final String GID = "gidnumber";

  private final Facts facts;
  private final Trustees.Builder trustees;
  private final boolean oneDirectory;
  private final Map<String, String> uidOf = new HashMap<>();
  private final Map<String, String> gidOf = new HashMap<>();
  private final Map<String, List<Integer>> byUid = new HashMap<>();
  private final Map<String, List<Integer>> byGid = new HashMap<>();
  private final Map<String, Integer> missing = new TreeMap<>();

  PosixNames(Facts facts, Sight sight) {
    this.facts = facts;
    this.trustees = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
    this.oneDirectory = sight.also().isEmpty();
    for (int s = 0; s < facts.firstGroup() + facts.groups(); s++) {
      if (sight.covers(facts.source(s))) {
        boolean account = facts.kind(s) == SubjectKind.ACCOUNT;
        for (String number : facts.values(s, account ? UID : GID)) {
          String plain = number.strip();
          (account ? byUid : byGid).computeIfAbsent(plain, n -> new java.util.ArrayList<>()).add(s);
          (account ? uidOf : gidOf).putIfAbsent(facts.login(s), plain);
        }
      }
    }
    uidOf.putIfAbsent("root", "0");
    gidOf.putIfAbsent("root", "0");
    user("0");
  }

  Trustees.Builder trustees() {
    return trustees;
  }

  /** The trustee of a user's name or number. */
  int user(String text) {
    return find("u:", text, uidOf, byUid, "user ");
  }

  /** The trustee of a group's name or number. */
  int group(String text) {
    return find("g:", text, gidOf, byGid, "group ");
  }

  private int find(
      String kind,
      String text,
      Map<String, String> numbers,
      Map<String, List<Integer>> subjects,
      String word) {
    String number = numbers.getOrDefault(text, numbers.getOrDefault(withoutDomain(text), text));
    int known = trustees.find(kind + number);
    if (known >= 0) {
      return known;
    }
    List<Integer> found = subjects.getOrDefault(number, List.of());
    if (found.isEmpty()) {
      boolean root = number.equals("0");
      if (!root) {
        missing.merge(word + text, 1, Integer::sum);
      }
      String label = root ? (kind.equals("u:") ? "root" : "group root") : word + text;
      int made = trustees.add(kind + number, label, Grant.MISSING);
      if (root) {
        trustees.known(made);
      } else if (kind.equals("g:")) {
        trustees.open(made);
      }
      return made;
    }
    int made = trustees.add(kind + number, label(found.get(0)), found.get(0));
    found.stream().skip(1).forEach(s -> trustees.also(made, s));
    return made;
  }

  /**
   * A host of a domain names its users {@code DOMAIN\\user}. Where only one directory is looked at,
   * the domain is its.
   */
  private String withoutDomain(String text) {
    return oneDirectory ? text.substring(text.lastIndexOf('\\') + 1) : text;
  }

  private String label(int subject) {
    String login = facts.login(subject);
    return login.isEmpty() ? facts.label(subject) : login;
  }

  /** Tells users and groups that nobody knows, and numbers that two accounts share. */
  void tell(String name, Problems problems) {
    missing.forEach(
        (who, times) ->
            problems.warning(
                Place.of(name),
                who + " is in no directory that is looked at",
                who.startsWith("group ")
                    ? "a group with that name or number; until then it is not known who is in it"
                    : "an account with that name or number; nobody counts as it until then"));
    missing.clear();
    new TreeMap<>(byUid)
        .forEach(
            (number, accounts) -> {
              if (accounts.size() > 1 && trustees.find("u:" + number) >= 0) {
                problems.warning(
                    Place.of(name),
                    "the user number "
                        + number
                        + " is that of "
                        + String.join(" and ", accounts.stream().map(this::label).toList())
                        + ", who are one user to the system",
                    "a number of its own for each account");
              }
            });
  }
}
