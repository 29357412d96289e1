package org.sobercompass.bench;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Grant;

/**
 * The flat organization counted as a script would: names in hash maps, sets of strings. On the
 * first accounts only, and scaled up by the caller, who says so.
 */
final class NaiveScript {
  private NaiveScript() {}

  static PlainArrays.Counts count(AccessModel model, int accounts) {
    Facts facts = model.facts();
    Map<String, List<String>> up = new HashMap<>();
    Map<String, List<String>> given = new HashMap<>();
    for (int s = 0; s < facts.subjects(); s++) {
      List<String> groups = new ArrayList<>();
      for (int i = facts.arrays().up().start(s); i < facts.arrays().up().end(s); i++) {
        groups.add(facts.dn(facts.arrays().up().at(i)));
      }
      up.put(facts.dn(s), groups);
    }
    for (SystemView view : model.systems()) {
      for (Grant grant : view.grants()) {
        List<String> texts =
            given.computeIfAbsent(facts.dn(grant.subject()), s -> new ArrayList<>());
        for (int right = 0; right < view.rights().size(); right++) {
          if (view.system().roles().get(grant.role()).allows(right)) {
            texts.add(view.id() + ":" + view.rights().text(right));
          }
        }
      }
    }
    long pairs = 0;
    long permissions = 0;
    for (int account = 0; account < accounts; account++) {
      Set<String> seen = new HashSet<>(Set.of(facts.dn(account)));
      Deque<String> open = new ArrayDeque<>(seen);
      Set<String> held = new HashSet<>();
      while (!open.isEmpty()) {
        String subject = open.pop();
        held.addAll(given.getOrDefault(subject, List.of()));
        for (String group : up.getOrDefault(subject, List.of())) {
          if (seen.add(group)) {
            open.push(group);
          }
        }
      }
      pairs += seen.size() - 1;
      permissions += held.size();
    }
    return new PlainArrays.Counts(pairs, permissions);
  }
}
