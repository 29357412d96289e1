package org.sobercompass.core.findings;

import java.util.BitSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.NamedPowers;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;

/**
 * Who could come to a power, sorted by how.
 *
 * @param reach the ways
 * @param direct who can act as an account that holds it, by that account
 * @param longer who comes to it by other ways
 */
public record Reached(Reach reach, Map<Integer, BitSet> direct, BitSet longer) {
  private static final Set<String> CONTROLLING =
      Set.of("set-password", "change-permissions", "take-ownership");

  /** For the power with an id, of a directory or an application, if it is still there. */
  public static Optional<Reached> of(Powers powers, String id, boolean ofDirectory) {
    return NamedPowers.of(powers).stream()
        .filter(power -> power.id().equals(id) && power.ofDirectory() == ofDirectory)
        .findFirst()
        .map(power -> of(powers, power));
  }

  /** For a power. */
  public static Reached of(Powers powers, NamedPower power) {
    Reach reach = new Reach(powers, power);
    Map<Integer, BitSet> direct = new TreeMap<>();
    BitSet longer = new BitSet();
    BitSet held = reach.answer().held();
    reach.answer().within().stream()
        .forEach(
            account -> {
              Reach.Step first = reach.chain(account).get(0);
              boolean controls =
                  first.action().map(a -> CONTROLLING.contains(a.id())).orElse(false);
              if (controls && held.get(first.to())) {
                direct.computeIfAbsent(first.to(), t -> new BitSet()).set(account);
              } else {
                longer.set(account);
              }
            });
    return new Reached(reach, direct, longer);
  }
}
