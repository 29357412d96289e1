package org.sobercompass.core.system.database;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.system.Climb;
import org.sobercompass.core.system.database.DatabaseFacts.Switch;

/**
 * Roles that lead to everything: from superusers, and from the roles that read or write files of
 * the server or run programs there, backwards over who may switch to whom. Up to version 15 whoever
 * may create roles may give itself all roles but a superuser's. Breadth first, so that each way is
 * a shortest one. O(memberships).
 */
final class DatabaseClimbs {
  private final DatabaseFacts facts;
  private final Map<Integer, List<Switch>> into = new LinkedHashMap<>();
  private final Map<Integer, Integer> next = new LinkedHashMap<>();

  DatabaseClimbs(DatabaseFacts facts) {
    this.facts = facts;
    for (Switch one : facts.switches) {
      into.computeIfAbsent(one.role(), r -> new ArrayList<>()).add(one);
    }
    Deque<Integer> open = new ArrayDeque<>();
    new TreeMap<>(facts.powerful)
        .forEach(
            (role, how) -> {
              next.put(role, role);
              open.add(role);
            });
    while (!open.isEmpty()) {
      int role = open.remove();
      for (Switch one : into.getOrDefault(role, List.of())) {
        if (next.putIfAbsent(one.member(), role) == null) {
          open.add(one.member());
        }
      }
      if (open.isEmpty() && facts.creatorsReachAll) {
        new TreeMap<>(facts.creators)
            .forEach(
                (creator, name) -> {
                  if (next.putIfAbsent(creator, CREATING) == null) {
                    open.add(creator);
                  }
                });
      }
    }
  }

  private static final int CREATING = -1;

  /** The accounts that sign in as a superuser. */
  List<Integer> controllers() {
    return facts.superusers.keySet().stream().sorted().toList();
  }

  /** The others that can come to it. */
  List<Climb> climbs() {
    Map<Integer, Climb> found = new TreeMap<>();
    next.forEach(
        (role, first) -> {
          for (int account : facts.signingIn.getOrDefault(role, List.of())) {
            if (!facts.superusers.containsKey(account)) {
              found.putIfAbsent(account, climb(account, role));
            }
          }
        });
    return List.copyOf(found.values());
  }

  private Climb climb(int account, int role) {
    List<String> steps = new ArrayList<>();
    int at = role;
    int to = next.getOrDefault(at, at);
    while (to != at && to != CREATING) {
      String power = facts.powerful.getOrDefault(to, DatabaseFacts.SUPERUSER);
      boolean host = !power.equals(DatabaseFacts.SUPERUSER);
      steps.add((host ? "is a member of " : "may switch to ") + facts.trustees.label(to));
      at = to;
      to = next.getOrDefault(at, at);
    }
    String power = facts.powerful.getOrDefault(at, "");
    steps.add(
        to == CREATING
            ? "may create roles, and so give itself every role but a superuser's"
            : power.equals(DatabaseFacts.SUPERUSER) ? "which is a superuser" : "which " + power);
    return new Climb(account, facts.trustees.subject(at), String.join(", ", steps));
  }

  /** All roles that can come to a role by memberships, itself left out. */
  List<Integer> leadingTo(int role) {
    List<Integer> found = new ArrayList<>();
    Deque<Integer> open = new ArrayDeque<>(List.of(role));
    while (!open.isEmpty()) {
      for (Switch one : into.getOrDefault(open.remove(), List.of())) {
        if (one.member() != role && !found.contains(one.member())) {
          found.add(one.member());
          open.add(one.member());
        }
      }
    }
    return found;
  }
}
