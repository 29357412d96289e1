package org.sobercompass.core.delegation;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.function.Predicate;
import org.sobercompass.core.facts.Facts;

/**
 * The domains of which all SIDs were read: an id of one of them that nobody has is gone. Where an
 * account or group of a directory shows no SID, it may be the one that is named.
 */
public final class ReadDomains {
  private ReadDomains() {}

  /**
   * The domains, as SIDs without their last part. O(subjects).
   *
   * @param counts which directories count
   * @param sids the SIDs of a subject; none when it shows none
   */
  public static Set<String> of(
      Facts facts, Predicate<String> counts, IntFunction<List<String>> sids) {
    Map<String, Set<String>> bySource = new HashMap<>();
    Set<String> withheld = new HashSet<>();
    for (int s = 0; s < facts.firstGroup() + facts.groups(); s++) {
      String source = facts.source(s);
      if (counts.test(source)) {
        List<String> own = sids.apply(s);
        if (own.isEmpty()) {
          withheld.add(source);
        }
        for (String sid : own) {
          bySource.computeIfAbsent(source, name -> new HashSet<>()).add(domain(sid));
        }
      }
    }
    Set<String> read = new HashSet<>();
    Set<String> partly = new HashSet<>();
    bySource.forEach(
        (source, domains) -> (withheld.contains(source) ? partly : read).addAll(domains));
    read.removeAll(partly);
    return read;
  }

  private static String domain(String sid) {
    return sid.substring(0, sid.lastIndexOf('-'));
  }
}
