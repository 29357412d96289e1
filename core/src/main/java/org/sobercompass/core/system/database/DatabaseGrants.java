package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.database.DatabaseFacts.Given;
import org.sobercompass.core.system.database.DatabaseFacts.Item;

/**
 * All grants of a database by number: for each object what its owner has and what was granted, then
 * the roles that read or write everything, then the superusers. Frozen.
 */
final class DatabaseGrants {
  private final DatabaseFacts facts;
  private final Facts subjects;
  private final List<Grant> grants = new ArrayList<>();
  private final List<RoleInfo> roles = new ArrayList<>();
  private final Map<Long, Integer> roleOf = new LinkedHashMap<>();
  private final int[] first;
  private int readAll = -1;
  private int writeAll = -1;
  private final Map<Integer, Integer> superusers = new TreeMap<>();
  private final IntList masksAt = new IntList();
  private final List<Long> masks = new ArrayList<>();

  DatabaseGrants(DatabaseFacts facts, Facts subjects) {
    this.facts = facts;
    this.subjects = subjects;
    first = new int[facts.items.length + 1];
    for (int r = 0; r < facts.items.length; r++) {
      Item item = facts.items[r];
      if (item.owner() >= 0) {
        add(r, item.owner(), item.kind().rights() & ownerHas(), "owner", true, "");
        for (Given given : item.given()) {
          add(r, given.trustee(), given.mask() & item.kind().rights(), "", false, given.by());
        }
      }
      first[r + 1] = grants.size();
    }
    if (facts.readAll >= 0) {
      readAll = grants.size();
      add(0, facts.readAll, DatabaseRights.SELECT | DatabaseRights.USAGE, "", false, "");
    }
    if (facts.writeAll >= 0) {
      writeAll = grants.size();
      long writes = DatabaseRights.INSERT | DatabaseRights.UPDATE | DatabaseRights.DELETE;
      add(0, facts.writeAll, writes | DatabaseRights.USAGE, "", false, "");
    }
    new TreeMap<>(facts.superusers)
        .forEach(
            (account, trustee) -> {
              superusers.put(account, grants.size());
              add(0, trustee, DatabaseRights.ALL, "superuser", true, "");
              int last = grants.size() - 1;
              grants.set(last, onAccount(grants.get(last), account));
            });
  }

  private static long ownerHas() {
    return DatabaseRights.OPTIONS | DatabaseRights.OWN | DatabaseRights.DROP;
  }

  private static Grant onAccount(Grant grant, int account) {
    return new Grant(
        grant.id(),
        grant.role(),
        account,
        grant.subjectText(),
        0,
        true,
        grant.from(),
        grant.until(),
        true,
        "",
        "signs in as a superuser",
        grant.place(),
        false);
  }

  private void add(int resource, int trustee, long mask, String name, boolean declared, String by) {
    int subject = facts.trustees.subject(trustee);
    boolean everybody = subject >= 0 && subjects.kind(subject) == SubjectKind.IMPLICIT;
    String path = facts.tree.id(resource);
    grants.add(
        new Grant(
            path + " " + name + facts.trustees.text(trustee) + " " + Long.toHexString(mask),
            role(mask, name),
            subject,
            facts.trustees.label(trustee),
            resource,
            resource == 0,
            Long.MIN_VALUE,
            Long.MAX_VALUE,
            true,
            by,
            "",
            Place.of(path),
            declared || everybody));
    masksAt.add(trustee);
    masks.add(mask);
  }

  private int role(long mask, String name) {
    return roleOf.computeIfAbsent(
        name.isEmpty() ? mask : ~mask,
        key -> {
          String words = name.isEmpty() ? DatabaseRights.words(mask) : name;
          long[] allows = {DatabaseRights.RIGHTS.of(mask)};
          roles.add(
              new RoleInfo(words + " " + roles.size(), words, allows, new long[1], List.of(), ""));
          return roles.size() - 1;
        });
  }

  List<Grant> all() {
    return grants;
  }

  List<RoleInfo> roles() {
    return roles;
  }

  int first(int resource) {
    return first[resource];
  }

  int end(int resource) {
    return first[resource + 1];
  }

  /** Which of the grants on its object a grant is, from 0; none of what the owner has. */
  OptionalInt entry(int grant) {
    int resource = grants.get(grant).resource();
    int given = grant - first[resource] - 1;
    return grant >= first[resource + 1] || given < 0 ? OptionalInt.empty() : OptionalInt.of(given);
  }

  /** The facts as if a grant were not there. */
  DatabaseFacts without(int grant) {
    int given =
        entry(grant)
            .orElseThrow(
                () ->
                    new IllegalArgumentException(
                        "ownership, superusers and predefined roles are no grants that can be"
                            + " revoked here"));
    return facts.without(grants.get(grant).resource(), given);
  }

  /** The trustee of a grant. */
  int trustee(int grant) {
    return masksAt.get(grant);
  }

  /** The rights of a grant, one bit each. */
  long mask(int grant) {
    return masks.get(grant);
  }

  int readAll() {
    return readAll;
  }

  int writeAll() {
    return writeAll;
  }

  /** The grant by which an account is a superuser, or -1. */
  int superuser(int account) {
    return superusers.getOrDefault(account, -1);
  }

  Iterable<Integer> superusers() {
    return superusers.values();
  }

  /** Whether a trustee is everybody. */
  boolean isEverybody(int trustee) {
    return trustee == Trustees.EVERYONE;
  }
}
