package org.sobercompass.core.person;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;

/**
 * Persons of a workspace: components of accepted links. Frozen and thread-safe; 4 bytes an account
 * and what the links take.
 */
public final class Persons {
  private final int[] person;
  private final Map<Integer, List<Integer>> members;
  private final List<Link> links;
  private final List<String> ambiguous;
  private final List<String> unmerged;
  private final List<Link> apart;

  private Persons(
      int[] person,
      Map<Integer, List<Integer>> members,
      List<Link> links,
      List<String> ambiguous,
      List<String> unmerged,
      List<Link> apart) {
    this.person = person;
    this.members = members;
    this.links = links;
    this.ambiguous = List.copyOf(ambiguous);
    this.unmerged = List.copyOf(unmerged);
    this.apart = List.copyOf(apart);
  }

  /** Every account is its own person. */
  public static Persons none(Facts facts) {
    return of(facts, List.of(), List.of(), List.of());
  }

  /**
   * Finds the persons. O(accounts x attributes).
   *
   * @param attributes attributes (lower case) that link accounts where they are filled and unique
   *     in each directory; they must have been read
   * @param same links by hand
   * @param notSame accounts that somebody says are not one person's
   */
  public static Persons of(
      Facts facts, List<String> attributes, List<Link> same, List<Link> notSame) {
    return new Finder(facts).find(attributes, same, notSame);
  }

  /**
   * Persons that were found elsewhere, from more facts than these.
   *
   * @param ofAccount for each account a number that is equal for those of one person
   */
  public static Persons grouped(long[] ofAccount) {
    Map<Long, Integer> first = new HashMap<>();
    Map<Integer, List<Integer>> members = new HashMap<>();
    int[] person = new int[ofAccount.length];
    for (int account = 0; account < person.length; account++) {
      int of = account;
      person[account] = first.computeIfAbsent(ofAccount[account], p -> of);
      members.computeIfAbsent(person[account], p -> new ArrayList<>()).add(account);
    }
    members.values().removeIf(accounts -> accounts.size() < 2);
    return new Persons(person, members, List.of(), List.of(), List.of(), List.of());
  }

  /** The accounts of the person behind an account, itself among them, ascending. */
  public List<Integer> accounts(int account) {
    return members.getOrDefault(person[account], List.of(account));
  }

  /** The first account of the person behind an account: equal for accounts of one person. */
  public int person(int account) {
    return person[account];
  }

  /** The links between the accounts of one person. */
  public List<Link> reasons(int account) {
    return links.stream().filter(link -> person[link.account()] == person[account]).toList();
  }

  /** All links between accounts of one person. */
  public List<Link> links() {
    return links;
  }

  /** Accounts that somebody says are not one person's. */
  public List<Link> apart() {
    return apart;
  }

  /** How many persons have more than one account. */
  public int linked() {
    return members.size();
  }

  /** Values that two accounts of one directory share, in words; they link nobody. */
  public List<String> ambiguous() {
    return ambiguous;
  }

  /** Links that a "not the same" keeps apart, in words. */
  public List<String> unmerged() {
    return unmerged;
  }

  /** Does the work of {@link #of}. */
  private static final class Finder {
    private final Facts facts;
    private final int[] above;
    private final List<Link> links = new ArrayList<>();
    private final List<String> ambiguous = new ArrayList<>();
    private final List<String> unmerged = new ArrayList<>();

    Finder(Facts facts) {
      this.facts = facts;
      above = new int[facts.accounts()];
      clear();
    }

    private void clear() {
      for (int i = 0; i < above.length; i++) {
        above[i] = i;
      }
    }

    Persons find(List<String> attributes, List<Link> same, List<Link> notSame) {
      attributes.forEach(this::byAttribute);
      links.addAll(same);
      links.forEach(link -> join(link.account(), link.other()));
      apart(notSame);
      int[] person = new int[above.length];
      Map<Integer, List<Integer>> members = new HashMap<>();
      for (int account = 0; account < above.length; account++) {
        person[account] = top(account);
        members.computeIfAbsent(person[account], p -> new ArrayList<>()).add(account);
      }
      members.values().removeIf(list -> list.size() == 1);
      return new Persons(person, members, List.copyOf(links), ambiguous, unmerged, notSame);
    }

    /** Service and resource accounts never link by rule. */
    private boolean links(int account) {
      return !facts.is(account, Facts.SERVICE)
          && !facts.is(account, Facts.RESOURCE)
          && !facts.is(account, Facts.HOST);
    }

    private void byAttribute(String attribute) {
      Map<String, Map<String, List<Integer>>> byValue = new TreeMap<>();
      for (int account = 0; account < facts.accounts(); account++) {
        List<String> values = facts.values(account, attribute);
        if (values.size() == 1 && !values.get(0).isBlank() && links(account)) {
          byValue
              .computeIfAbsent(values.get(0).strip().toLowerCase(Locale.ROOT), v -> new TreeMap<>())
              .computeIfAbsent(facts.source(account), s -> new ArrayList<>())
              .add(account);
        }
      }
      byValue.forEach((value, bySource) -> value(attribute, value, bySource));
    }

    private void value(String attribute, String value, Map<String, List<Integer>> bySource) {
      List<Integer> one = new ArrayList<>();
      for (Map.Entry<String, List<Integer>> source : bySource.entrySet()) {
        if (source.getValue().size() > 1) {
          ambiguous.add(
              source.getValue().size()
                  + " accounts of "
                  + source.getKey()
                  + " have the "
                  + attribute
                  + " "
                  + value
                  + ": "
                  + names(source.getValue()));
          return;
        }
        one.add(source.getValue().get(0));
      }
      for (int i = 1; i < one.size(); i++) {
        links.add(new Link(one.get(0), one.get(i), attribute + " " + value));
      }
    }

    private String names(List<Integer> accounts) {
      return String.join(", ", accounts.stream().limit(5).map(facts::login).toList())
          + (accounts.size() > 5 ? " and more" : "");
    }

    /** A component that holds two accounts that are not the same is left unmerged. */
    private void apart(List<Link> notSame) {
      List<Integer> broken = new ArrayList<>();
      for (Link no : notSame) {
        if (top(no.account()) == top(no.other())) {
          broken.add(top(no.account()));
          unmerged.add(
              names(List.of(no.account(), no.other()))
                  + " are linked, but not the same: "
                  + no.reason());
        }
      }
      if (broken.isEmpty()) {
        return;
      }
      links.removeIf(link -> broken.contains(top(link.account())));
      links.sort(Comparator.comparingInt(Link::account).thenComparingInt(Link::other));
      clear();
      links.forEach(link -> join(link.account(), link.other()));
    }

    private int top(int account) {
      int at = account;
      while (above[at] != at) {
        above[at] = above[above[at]];
        at = above[at];
      }
      return at;
    }

    /** The smaller number is the person's. */
    private void join(int a, int b) {
      int x = top(a);
      int y = top(b);
      above[Math.max(x, y)] = Math.min(x, y);
    }
  }
}
