package org.sobercompass.core.access;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Restated;
import org.sobercompass.core.membership.PatchedGraph;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.HostLimits;

/** What changes do to facts and memberships, laid over what was read. */
final class LaidOver {
  private LaidOver() {}

  /** The facts with what changes of accounts and groups themselves; the same where none does. */
  static Facts facts(Facts read, List<Change> changes) {
    Map<Integer, Boolean> disabled = new HashMap<>();
    Map<Integer, Long> expires = new HashMap<>();
    Map<Integer, List<String>> hosts = new HashMap<>();
    Map<Integer, Boolean> present = new HashMap<>();
    for (Change change : changes) {
      change.<Boolean>fold(
          moved -> false,
          own -> false,
          subject ->
              subject.byKind(
                  account -> {
                    account.disabled().ifPresent(off -> disabled.put(account.subject(), off));
                    account.expires().ifPresent(at -> expires.put(account.subject(), at));
                    account.hosts().ifPresent(from -> hosts.put(account.subject(), from));
                    return true;
                  },
                  presence -> {
                    present.put(presence.subject(), presence.isThere());
                    return true;
                  }));
    }
    Facts facts = read;
    facts = present.isEmpty() ? facts : Restated.presence(facts, present);
    facts = hosts.isEmpty() ? facts : HostLimits.otherwise(facts, hosts);
    return disabled.isEmpty() && expires.isEmpty() ? facts : Restated.of(facts, disabled, expires);
  }

  /** Lays a change of a membership over a graph; memberships move by it. */
  static boolean apply(Change.OfMembership change, PatchedGraph graph) {
    return change.byKind(
        added -> {
          graph.add(added.member(), added.group(), added.via());
          return true;
        },
        removed -> {
          graph.remove(removed.member(), removed.group(), removed.via());
          return true;
        });
  }
}
