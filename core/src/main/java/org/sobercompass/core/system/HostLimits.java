package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.facts.Column;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Restated;
import org.sobercompass.core.filter.Truth;

/**
 * From which hosts an account may sign in: {@code userWorkstations} ([MS-ADA3]), a list with
 * commas, and {@code host} (RFC 4524). An account without either may from all.
 */
public final class HostLimits {
  /** The attributes (lower case) that must be kept. */
  public static final Set<String> NEEDS = Set.of("host", "userworkstations");

  private static final List<String> ATTRIBUTES = List.of("host", "userworkstations");

  private HostLimits() {}

  /** Whether what limits accounts was kept; it is where an application signs people in. */
  public static boolean isRead(Facts facts) {
    return facts.arrays().columns().keySet().containsAll(NEEDS);
  }

  /** The hosts an account may sign in from, in lower case; none when it is not limited. */
  public static List<String> of(Facts facts, int account) {
    if (!isLimited(facts, account)) {
      return List.of();
    }
    List<String> allowed = new ArrayList<>();
    for (String attribute : ATTRIBUTES) {
      for (String value : facts.values(account, attribute)) {
        for (String name : value.split(",")) {
          if (!name.isBlank()) {
            allowed.add(name.strip().toLowerCase(Locale.ROOT));
          }
        }
      }
    }
    return allowed;
  }

  /**
   * The same facts in which accounts may sign in from other hosts. O(accounts).
   *
   * @param hosts by account; none for all
   */
  public static Facts otherwise(Facts facts, Map<Integer, List<String>> hosts) {
    Map<Integer, List<String>> none = new HashMap<>();
    hosts.keySet().forEach(account -> none.put(account, List.of()));
    Facts cleared = Restated.values(facts, "userworkstations", none);
    return Restated.values(cleared, "host", hosts);
  }

  /** Asked for every account in every system, so it allocates nothing. */
  private static boolean isLimited(Facts facts, int account) {
    for (String attribute : ATTRIBUTES) {
      Column column = facts.arrays().columns().get(attribute);
      if (column != null && column.codes().size(account) > 0) {
        return true;
      }
    }
    return false;
  }

  /**
   * Whether an account may sign in from one of these hosts; undefined when it is limited and the
   * hosts are not known. A star stands for every host, a name without dots for the host in any
   * domain.
   */
  public static Truth allows(List<String> allowed, List<String> hosts) {
    if (allowed.isEmpty() || allowed.contains("*")) {
      return Truth.TRUE;
    }
    return hosts.isEmpty()
        ? Truth.UNDEFINED
        : Truth.of(hosts.stream().anyMatch(h -> allowed.stream().anyMatch(a -> same(a, h))));
  }

  /** Whether two names are of one host: equal, or one is the first label of the other. */
  public static boolean same(String a, String b) {
    String x = a.toLowerCase(Locale.ROOT);
    String y = b.toLowerCase(Locale.ROOT);
    return x.equals(y)
        || (x.indexOf('.') < 0 && y.startsWith(x + "."))
        || (y.indexOf('.') < 0 && x.startsWith(y + "."));
  }
}
