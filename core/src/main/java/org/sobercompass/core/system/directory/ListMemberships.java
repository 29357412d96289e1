package org.sobercompass.core.system.directory;

import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.Counting;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.store.IntList;

/**
 * As whom accounts count in the directories' lists: by {@code member} and primary group, to any
 * depth, without groups for mail only; and by SID, across directories: a group that lists the SID
 * of somebody elsewhere, or everyone who signed in, has them as members. An account counts surely
 * when its SID was read, perhaps when it was withheld, and not at all in a directory without SIDs.
 * One for all directories of a workspace. Frozen and thread-safe.
 */
final class ListMemberships implements Counting {
  private static final MembershipProfile PROFILE =
      new MembershipProfile(
          EnumSet.of(Via.MEMBER, Via.PRIMARY, Via.IMPLICIT), MembershipProfile.FULL, false);

  private final Visibility visibility;
  private final int[] withSid;
  private final BitSet isWithSid = new BitSet();
  private final int[] ofEverybody;
  private final Map<Integer, int[]> up;
  private final Map<Integer, int[]> down;

  /** Of the accounts and groups of some directories. O(subjects + trustees of elsewhere). */
  ListMemberships(DirectoryTrees trees) {
    Facts facts = trees.facts();
    BitSet sure = new BitSet(facts.subjects());
    BitSet perhaps = new BitSet();
    sure.set(facts.accounts(), facts.subjects());
    IntList accounts = new IntList();
    for (int account = 0; account < facts.accounts(); account++) {
      if (hasSid(trees, account)) {
        sure.set(account);
        isWithSid.set(account);
        accounts.add(account);
      } else if (trees.object(account).isPresent()) {
        perhaps.set(account);
      }
    }
    visibility = Visibility.of(sure, perhaps);
    withSid = accounts.toArray();
    Set<Integer> listingAll = new TreeSet<>();
    Map<Integer, Set<Integer>> above = new HashMap<>();
    Map<Integer, Set<Integer>> below = new HashMap<>();
    for (DirectoryTree tree : trees.all()) {
      for (String sid : tree.listed()) {
        for (int object : tree.listing(sid)) {
          int group = trees.subject(tree.sid(object)).orElse(-1);
          boolean all = DirectoryTrees.isOfEverybody(sid);
          if (group >= 0 && all && tree.countsImplicit(object)) {
            listingAll.add(group);
          } else if (group >= 0 && !all) {
            for (int member : members(trees, sid)) {
              above.computeIfAbsent(member, m -> new TreeSet<>()).add(group);
              below.computeIfAbsent(group, g -> new TreeSet<>()).add(member);
            }
          }
        }
      }
    }
    ofEverybody = listingAll.stream().mapToInt(Integer::intValue).toArray();
    up = arrays(above);
    down = arrays(below);
  }

  /** Who is to be created gets a SID then, where everything has one. */
  private static boolean hasSid(DirectoryTrees trees, int account) {
    Facts facts = trees.facts();
    return !trees.sid(account).isEmpty()
        || (facts.isAbsent(account) && trees.reads(facts.source(account)));
  }

  /** Whom a SID names: who has it, and who brought it along from an earlier directory. */
  private static Set<Integer> members(DirectoryTrees trees, String sid) {
    Set<Integer> members = new TreeSet<>(trees.bearers(sid));
    trees.subject(sid).ifPresent(members::add);
    members.removeIf(
        member -> {
          SubjectKind kind = trees.facts().kind(member);
          return kind != SubjectKind.ACCOUNT && kind != SubjectKind.GROUP;
        });
    return members;
  }

  private static Map<Integer, int[]> arrays(Map<Integer, Set<Integer>> sets) {
    Map<Integer, int[]> arrays = new HashMap<>();
    sets.forEach((key, set) -> arrays.put(key, set.stream().mapToInt(Integer::intValue).toArray()));
    return arrays;
  }

  @Override
  public Memberships over(MembershipGraph graph) {
    boolean plain = ofEverybody.length == 0 && up.isEmpty();
    return new Memberships(
        plain ? graph : new WithSids(graph), PROFILE, visibility.without(graph.facts().absent()));
  }

  private static final int[] NOBODY = new int[0];

  /** A graph with the memberships by SID after those by name. */
  private final class WithSids implements MembershipGraph {
    private final MembershipGraph base;

    WithSids(MembershipGraph base) {
      this.base = base;
    }

    @Override
    public Facts facts() {
      return base.facts();
    }

    @Override
    public boolean isTaken(int member, int group) {
      return base.isTaken(member, group);
    }

    private int[] aboveBySid(int subject) {
      return up.getOrDefault(subject, NOBODY);
    }

    private boolean isOfAll(int subject) {
      return ofEverybody.length > 0 && isWithSid.get(subject);
    }

    @Override
    public int upCount(int subject) {
      return base.upCount(subject)
          + aboveBySid(subject).length
          + (isOfAll(subject) ? ofEverybody.length : 0);
    }

    @Override
    public int upGroup(int subject, int index) {
      int at = index - base.upCount(subject);
      if (at < 0) {
        return base.upGroup(subject, index);
      }
      int[] own = aboveBySid(subject);
      return at < own.length ? own[at] : ofEverybody[at - own.length];
    }

    @Override
    public Via upVia(int subject, int index) {
      int at = index - base.upCount(subject);
      return at < 0
          ? base.upVia(subject, index)
          : at < aboveBySid(subject).length
              ? listed(subject, aboveBySid(subject)[at])
              : Via.IMPLICIT;
    }

    /** A membership by SID; where it was taken away, of a kind that does not count here. */
    private Via listed(int member, int group) {
      return base.isTaken(member, group) ? Via.UNIQUE_MEMBER : Via.MEMBER;
    }

    private int[] belowBySid(int group) {
      return down.getOrDefault(group, NOBODY);
    }

    private boolean hasAll(int group) {
      return java.util.Arrays.binarySearch(ofEverybody, group) >= 0;
    }

    @Override
    public int downCount(int group) {
      return base.downCount(group)
          + belowBySid(group).length
          + (hasAll(group) ? withSid.length : 0);
    }

    @Override
    public int downMember(int group, int index) {
      int at = index - base.downCount(group);
      if (at < 0) {
        return base.downMember(group, index);
      }
      int[] own = belowBySid(group);
      return at < own.length ? own[at] : withSid[at - own.length];
    }

    @Override
    public Via downVia(int group, int index) {
      int at = index - base.downCount(group);
      return at < 0
          ? base.downVia(group, index)
          : at < belowBySid(group).length ? listed(belowBySid(group)[at], group) : Via.IMPLICIT;
    }
  }
}
