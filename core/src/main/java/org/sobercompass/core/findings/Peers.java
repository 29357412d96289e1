package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Projected;

/**
 * Accounts that are expected to hold the same: those with equal values in the attributes that the
 * workspace names. Service, resource and host accounts, disabled ones, and those without a value
 * have no peers. Not thread-safe.
 */
public final class Peers {
  private final FindingContext context;
  private final Facts facts;

  /** Peers by the rules of what is judged. */
  public Peers(FindingContext context) {
    this.context = context;
    this.facts = context.facts;
  }

  /**
   * Groups of peers by what they have in common, in words; groups too small to compare left out.
   */
  public Map<String, List<Integer>> groups() {
    Map<String, List<Integer>> groups = new TreeMap<>(Key::compareUtf8);
    if (context.rules.peers().isEmpty()) {
      return groups;
    }
    BitSet services = context.services();
    for (int account = 0; account < facts.accounts(); account++) {
      String values = values(account);
      boolean counts =
          !values.isEmpty()
              && !services.get(account)
              && !facts.is(account, Facts.RESOURCE)
              && !facts.is(account, Facts.HOST)
              && !facts.is(account, Facts.DISABLED);
      if (counts) {
        groups.computeIfAbsent(values, v -> new ArrayList<>()).add(account);
      }
    }
    groups.values().removeIf(peers -> peers.size() < context.limits.peersAtLeast());
    return groups;
  }

  /** The values that make peers, in words; empty when one is missing. */
  private String values(int account) {
    List<String> all = new ArrayList<>();
    for (String attribute : context.rules.peers()) {
      List<String> values = facts.values(account, attribute);
      if (values.isEmpty()) {
        return "";
      }
      all.add(values.get(0));
    }
    return facts.source(account) + ": " + String.join(", ", all);
  }

  /**
   * What peers hold in one system.
   *
   * @param peers their accounts
   * @param held the rights of each, one bit a right, anywhere in the system
   * @param holders how many hold each right
   */
  public record Shared(List<Integer> peers, List<BitSet> held, int[] holders) {
    /** Whether a right is so rare that who holds it is out of line. */
    public boolean isRare(int right, int percent) {
      return 100L * holders[right] <= (long) percent * peers.size();
    }
  }

  /** What some peers hold in a system. O(peers x their grants). */
  public static Shared shared(Asker asker, SystemView view, List<Integer> peers) {
    int[] holders = new int[view.rights().size()];
    List<BitSet> held = new ArrayList<>();
    for (int peer : peers) {
      BitSet rights = held(asker, view, peer);
      held.add(rights);
      rights.stream().forEach(right -> holders[right]++);
    }
    return new Shared(peers, held, holders);
  }

  private static BitSet held(Asker asker, SystemView view, int account) {
    BitSet rights = new BitSet();
    Projected who = asker.projected(view, account);
    if (!who.isEmpty()) {
      view.decider()
          .sweep(who, (node, below, count, yes, perhaps) -> rights.or(BitSet.valueOf(yes)));
    }
    return rights;
  }
}
