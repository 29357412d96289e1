package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.NamedPowers;
import org.sobercompass.core.findings.Side.Permission;

/**
 * Who is powerful, and by what: control of a directory, administration of an application, the
 * powers that the workspace names, and the permissions it calls powerful. Powers of directories
 * count twice as much as those of applications, and permissions least.
 */
public final class PowerfulAccounts {
  private final List<Power> powers = new ArrayList<>();
  private final Map<Integer, Integer> rank = new LinkedHashMap<>();

  /**
   * A power and who holds it.
   *
   * @param id its id, of a directory or an application
   * @param name "control the directory desks"
   * @param ofDirectory whether it is one over a directory
   * @param named the power itself, if it is one that can be followed
   */
  public record Power(
      String id, String name, boolean ofDirectory, Optional<NamedPower> named, BitSet holders) {}

  public PowerfulAccounts(FindingContext context) {
    for (NamedPower named : NamedPowers.of(context.assessment.powers())) {
      BitSet holders = new BitSet();
      for (int trustee : named.trustees()) {
        holders.or(context.accounts(trustee));
      }
      add(
          new Power(named.id(), named.name(), named.ofDirectory(), Optional.of(named), holders),
          named.ofDirectory() ? 4 : 2);
    }
    for (Permission permission : context.rules.powerful()) {
      context
          .model
          .system(permission.system())
          .ifPresent(view -> permission(context, view, permission));
    }
  }

  private void permission(FindingContext context, SystemView view, Permission permission) {
    BitSet holders = new BitSet();
    new Holders(context.asker)
        .find(view, permission.right(), 0, true)
        .forEach(holder -> holders.set(holder.account()));
    String text = view.id() + ":" + view.rights().text(permission.right());
    add(new Power(text, "hold " + text, false, Optional.empty(), holders), 1);
  }

  private void add(Power power, int weight) {
    powers.add(power);
    power.holders.stream().forEach(a -> rank.merge(a, weight, Integer::sum));
  }

  public List<Power> powers() {
    return powers;
  }

  public boolean isPowerful(int account) {
    return rank.containsKey(account);
  }

  /** How powerful an account is; 0 for most. */
  public int rank(int account) {
    return rank.getOrDefault(account, 0);
  }

  /** What an account is powerful by, in words. */
  public List<String> of(int account) {
    return powers.stream()
        .filter(power -> power.holders.get(account))
        .map(Power::name)
        .distinct()
        .toList();
  }

  /** All of them, ascending. */
  public BitSet all() {
    BitSet all = new BitSet();
    rank.keySet().forEach(all::set);
    return all;
  }
}
