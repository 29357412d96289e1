package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Standing;

/**
 * An account that changes shut out of an application, so that nothing is left there that it can
 * use, or let in, so that it can use something for the first time.
 *
 * @param account the number of the account
 * @param system the number of the application
 * @param shut whether it is shut out; else it is let in
 */
public record Door(int account, int system, boolean shut) {

  /** Those that effects come to, by account. O(accounts that differ x their holdings). */
  static List<Door> of(AccessModel before, AccessModel after, Effects effects) {
    Set<List<Integer>> touched = new LinkedHashSet<>();
    Stream.concat(effects.ends().stream(), effects.gives().stream())
        .forEach(effect -> touched.add(List.of(effect.account(), effect.system())));
    Asker then = before.asker();
    Asker now = after.asker();
    List<Door> doors = new ArrayList<>();
    for (List<Integer> one : touched) {
      boolean could = isUsed(then, one.get(0), one.get(1));
      boolean can = isUsed(now, one.get(0), one.get(1));
      if (could != can) {
        doors.add(new Door(one.get(0), one.get(1), could));
      }
    }
    return List.copyOf(doors);
  }

  private static boolean isUsed(Asker asker, int account, int system) {
    return asker.holdings(asker.model().systems().get(system), account).stream()
        .anyMatch(holding -> holding.state() != Standing.State.BLOCKED);
  }
}
