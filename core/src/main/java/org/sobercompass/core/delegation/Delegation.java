package org.sobercompass.core.delegation;

import java.util.List;
import java.util.stream.Collectors;

/**
 * What one trustee was given, or denied, on one object: all its entries there of one origin.
 *
 * @param object the object whose list they stand in
 * @param trustee the SID
 * @param origin where they come from
 * @param denies whether they take away
 * @param entries their numbers in the list
 * @param actions the admin actions they make possible, the strongest first; others that these
 *     contain are left out
 * @param besides what the entries give that none of the actions covers, in words
 * @param rights each entry in words
 */
public record Delegation(
    int object,
    String trustee,
    Origin origin,
    boolean denies,
    List<Integer> entries,
    List<AdminAction> actions,
    List<String> besides,
    List<String> rights) {

  /** What it makes possible: admin actions, and in words what none of them covers. */
  public String may() {
    if (denies || actions.isEmpty()) {
      return String.join("; ", rights);
    }
    String named =
        actions.stream().map(AdminAction::name).distinct().collect(Collectors.joining(", "));
    return besides.isEmpty() ? named : named + "; besides: " + String.join("; ", besides);
  }

  /** How much it gives: 0 little, 1 much, 2 the object itself. */
  public int weight() {
    return denies ? 0 : actions.stream().mapToInt(AdminAction::weight).max().orElse(0);
  }
}
