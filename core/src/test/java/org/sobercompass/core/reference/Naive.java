package org.sobercompass.core.reference;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.roles.Combining;
import org.sobercompass.core.system.roles.RoleDefinition;

/** docs/combining.md as a program: sets, loops and recursion, nothing shared with the real one. */
public final class Naive {
  private final SmallWorld world;
  private final Facts facts;
  private final MembershipGraph graph;
  private final Set<Integer> absent;
  private final Map<String, Boolean> known = new java.util.HashMap<>();
  private final Map<Integer, Set<Integer>> sureOf = new java.util.HashMap<>();
  private final Map<Integer, Set<Integer>> perhapsOf = new java.util.HashMap<>();

  /** The rules over one organization. */
  public Naive(SmallWorld world) {
    this(world, MembershipGraph.of(world.facts));
  }

  /** The rules over one organization with other memberships. */
  public Naive(SmallWorld world, MembershipGraph graph) {
    this(world, graph, Set.of());
  }

  /** The rules over one organization in which some accounts and groups are not there. */
  public Naive(SmallWorld world, MembershipGraph graph, Set<Integer> absent) {
    this.world = world;
    this.facts = world.facts;
    this.graph = graph;
    this.absent = absent;
  }

  /** What an account is seen as: 1 sure, 0 perhaps, -1 not. */
  private int seen(int subject) {
    if (absent.contains(subject)) {
      return -1;
    }
    if (subject >= facts.firstUnit()) {
      return 1;
    }
    var filter =
        subject < facts.accounts() ? world.sight.accountFilter() : world.sight.groupFilter();
    if (filter.isEmpty()) {
      return 1;
    }
    String value = facts.values(subject, "uidnumber").get(0);
    return value.equals("word") ? 0 : value.equals("7") ? 1 : -1;
  }

  private Set<Integer> reach(int account, int least) {
    Set<Integer> all = new HashSet<>();
    if (seen(account) < least) {
      return all;
    }
    all.add(account);
    Set<Integer> front = Set.of(account);
    MembershipProfile profile = world.sight.profile();
    long levels = profile.nesting() == MembershipProfile.FULL ? 100 : profile.nesting() + 1;
    for (long level = 0; level < levels; level++) {
      Set<Integer> next = new HashSet<>();
      for (int member : front) {
        for (int i = 0; i < graph.upCount(member); i++) {
          int group = graph.upGroup(member, i);
          boolean mail = facts.is(group, Facts.MAIL_ONLY) && !profile.mailOnlyGroups();
          if (profile.counts().contains(graph.upVia(member, i)) && !mail && seen(group) >= least) {
            next.add(group);
          }
        }
      }
      next.removeAll(all);
      all.addAll(next);
      front = next;
    }
    if (profile.counts().contains(Via.CONTAINER)) {
      String dn = facts.dn(account);
      for (int unit = facts.firstUnit(); unit < facts.subjects(); unit++) {
        if (dn.endsWith("," + facts.dn(unit))) {
          all.add(unit);
        }
      }
    }
    return all;
  }

  private Set<Integer> withImplicit(int account, int least) {
    var admission = world.application.admission();
    if (absent.contains(account)) {
      return Set.of();
    }
    if (admission.isOpen()) {
      return Set.of(facts.implicit(Implicit.EVERYONE));
    }
    Set<Integer> all = reach(account, least);
    if (!all.isEmpty()) {
      boolean enrolled = admission.register().isEmpty();
      for (Enrolment line : admission.register().orElse(List.of())) {
        enrolled |= line.active() && all.contains(line.subject());
      }
      all.add(facts.implicit(Implicit.EVERYONE));
      all.add(facts.implicit(Implicit.SIGNED_IN));
      if (enrolled) {
        all.add(facts.implicit(Implicit.MEMBERS));
      }
    }
    return all;
  }

  /** What an account surely counts as. */
  public Set<Integer> sure(int account) {
    return sureOf.computeIfAbsent(account, a -> withImplicit(a, 1));
  }

  /** What it perhaps counts as besides. */
  public Set<Integer> perhaps(int account) {
    return perhapsOf.computeIfAbsent(account, this::onlyPerhaps);
  }

  private Set<Integer> onlyPerhaps(int account) {
    Set<Integer> wide = new HashSet<>(withImplicit(account, 0));
    wide.removeAll(sure(account));
    return wide;
  }

  /** The words a role gives on an area, by its definition. */
  private Map<String, List<String>> entries(RoleDefinition role, boolean allows) {
    Map<String, List<String>> entries = new java.util.HashMap<>();
    if (!role.derives().isEmpty()) {
      entries.putAll(entries(definition(role.derives()), allows));
    }
    entries.putAll(allows ? role.allows() : role.denies());
    return entries;
  }

  private Set<String> includes(RoleDefinition role) {
    Set<String> all = new TreeSet<>(role.includes());
    if (!role.derives().isEmpty()) {
      all.addAll(includes(definition(role.derives())));
    }
    return all;
  }

  private RoleDefinition definition(String id) {
    return world.definitions.stream().filter(r -> r.id().equals(id)).findFirst().orElseThrow();
  }

  /** Whether a role gives {@code area:word}. */
  public boolean allows(RoleDefinition role, String right) {
    String area = right.substring(0, right.indexOf(':'));
    String word = right.substring(right.indexOf(':') + 1);
    Map<String, List<String>> entries = entries(role, true);
    String at = area;
    while (!entries.containsKey(at) && !at.equals("*")) {
      at = at.contains("/") ? at.substring(0, at.lastIndexOf('/')) : "*";
    }
    List<String> levels = List.of("view", "edit", "own");
    for (String given : entries.getOrDefault(at, List.of())) {
      boolean lower = levels.contains(word) && levels.indexOf(word) <= levels.indexOf(given);
      if (given.equals(word) || lower) {
        return true;
      }
    }
    return includes(role).stream().anyMatch(id -> allows(definition(id), right));
  }

  /** Whether a role takes {@code area:word} away. */
  public boolean denies(RoleDefinition role, String right) {
    String area = right.substring(0, right.indexOf(':'));
    String word = right.substring(right.indexOf(':') + 1);
    List<String> levels = List.of("view", "edit", "own");
    for (Map.Entry<String, List<String>> entry : entries(role, false).entrySet()) {
      String at = entry.getKey();
      boolean covers = at.equals("*") || area.equals(at) || area.startsWith(at + "/");
      for (String taken : entry.getValue()) {
        boolean higher = levels.contains(taken) && levels.indexOf(word) >= levels.indexOf(taken);
        if (covers && (taken.equals(word) || higher)) {
          return true;
        }
      }
    }
    return includes(role).stream().anyMatch(id -> denies(definition(id), right));
  }

  private boolean covers(Grant grant, int node) {
    int at = node;
    while (at >= 0) {
      if (at == grant.resource()) {
        return at == node || grant.descends();
      }
      at = world.application.resources().parent(at);
    }
    return false;
  }

  /** What an exactly known set of grants gives. */
  private boolean gives(Set<Grant> grants, String right, int node) {
    List<Grant> covering = new ArrayList<>(grants.stream().filter(g -> covers(g, node)).toList());
    Combining combining = world.application.combiningRule();
    if (combining.byNode()) {
      int deepest = covering.stream().mapToInt(g -> depth(g.resource())).max().orElse(0);
      covering.removeIf(g -> depth(g.resource()) < deepest);
    }
    if (combining.bySubject()) {
      int best = covering.stream().mapToInt(this::rank).max().orElse(0);
      covering.removeIf(g -> rank(g) < best);
    }
    boolean denied = covering.stream().anyMatch(g -> says(g, right, false));
    return !denied && covering.stream().anyMatch(g -> says(g, right, true));
  }

  /** What the role of a grant says of a right, worked out once. */
  private boolean says(Grant grant, String right, boolean allow) {
    String key = grant.role() + " " + right + " " + allow;
    Boolean said = known.get(key);
    if (said == null) {
      RoleDefinition role = world.definitions.get(grant.role());
      said = allow ? allows(role, right) : denies(role, right);
      known.put(key, said);
    }
    return said;
  }

  private int depth(int node) {
    int parent = world.application.resources().parent(node);
    return parent < 0 ? 0 : 1 + depth(parent);
  }

  private int rank(Grant grant) {
    return switch (facts.kind(grant.subject())) {
      case ACCOUNT -> 2;
      case GROUP, UNIT -> 1;
      case IMPLICIT -> 0;
    };
  }

  /** The verdict at a time, leaving one grant out (or none). */
  public Verdict decide(int account, String right, int node, long time, Grant without) {
    Set<Grant> sure = new HashSet<>();
    Set<Grant> perhaps = new HashSet<>();
    Set<Integer> own = sure(account);
    Set<Integer> maybe = perhaps(account);
    for (Grant grant : world.application.grants(Basis.ACTUAL)) {
      if (grant != without && grant.activeAt(time) && grant.subject() >= 0) {
        if (own.contains(grant.subject())) {
          sure.add(grant);
        } else if (maybe.contains(grant.subject())) {
          perhaps.add(grant);
        }
      }
    }
    List<Grant> open = List.copyOf(perhaps);
    boolean always = true;
    boolean ever = false;
    for (int subset = 0; subset < 1 << open.size(); subset++) {
      Set<Grant> have = new HashSet<>(sure);
      for (int i = 0; i < open.size(); i++) {
        if ((subset >> i & 1) != 0) {
          have.add(open.get(i));
        }
      }
      boolean yes = gives(have, right, node);
      always &= yes;
      ever |= yes;
    }
    return always ? Verdict.YES : ever ? Verdict.UNDECIDED : Verdict.NO;
  }

  /** The verdict now. */
  public Verdict decide(int account, String right, int node) {
    return decide(account, right, node, SmallWorld.NOW, null);
  }

  /** Whether taking a grant away changes nothing for an account at any time left in its window. */
  public boolean isRedundant(int account, Grant grant) {
    if (!grant.on()
        || grant.until() <= SmallWorld.NOW
        || !sure(account).contains(grant.subject())) {
      return false;
    }
    for (long time = SmallWorld.NOW; time < SmallWorld.NOW + 60; time++) {
      if (grant.activeAt(time)) {
        for (String right : world.rights.texts()) {
          for (int node = 0; node < world.application.resources().size(); node++) {
            if (decide(account, right, node, time, null)
                != decide(account, right, node, time, grant)) {
              return false;
            }
          }
        }
      }
    }
    return true;
  }
}
