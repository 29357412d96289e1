package org.sobercompass.core.delegation;

import java.util.ArrayDeque;
import java.util.BitSet;
import java.util.Deque;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Verdict;

/**
 * As whom an account counts in the directories' own lists: its SIDs, those of its groups by {@code
 * member} and primary group, to any depth, groups for mail only left out, SIDs it brought along,
 * and the implicit ones of everybody who signed in. Trustees of one directory in groups of another
 * are followed by SID. Thread-safe.
 */
public final class Tokens {
  /** What everyone is who signed in over the network ([MS-DTYP] 2.4.2.4). */
  private static final List<String> IMPLICIT =
      List.of(
          WellKnown.EVERYONE,
          WellKnown.AUTHENTICATED,
          WellKnown.NETWORK,
          WellKnown.THIS_ORGANIZATION);

  private final Facts facts;
  private final List<DirectoryTree> trees;
  private final Memberships memberships;
  private final Map<Integer, String> sidOf = new HashMap<>();
  private final Map<String, Integer> subjectOf = new HashMap<>();
  private final Map<Integer, Spot> objectOf = new HashMap<>();
  private final Map<Integer, List<String>> history = new HashMap<>();
  private final Map<String, BitSet> accountsOf;
  private final Map<String, BitSet> candidatesOf;
  private final Set<String> strangers;
  private final boolean certain;
  private final BitSet withoutSid;

  /** An object of one tree. */
  public record Spot(DirectoryTree tree, int object) {}

  /** Over a model and the trees of its directories. O(objects). */
  public Tokens(AccessModel model, List<DirectoryTree> trees) {
    this.facts = model.facts();
    this.trees = List.copyOf(trees);
    this.memberships =
        new Memberships(
            model.graph(),
            new MembershipProfile(
                EnumSet.of(Via.MEMBER, Via.PRIMARY), MembershipProfile.FULL, false),
            Visibility.all(facts));
    this.accountsOf = new ConcurrentHashMap<>();
    for (DirectoryTree tree : trees) {
      number(tree);
    }
    Set<String> read = new HashSet<>();
    trees.forEach(tree -> read.add(tree.directory()));
    this.strangers =
        strangers(
            ReadDomains.of(
                facts, read::contains, s -> Optional.ofNullable(sidOf.get(s)).stream().toList()));
    this.certain = memberships.isCertain() && strangers.isEmpty();
    this.candidatesOf = certain ? accountsOf : new ConcurrentHashMap<>();
    this.withoutSid = new BitSet();
    for (int account = 0; account < facts.accounts(); account++) {
      withoutSid.set(account, counts(account) == Verdict.UNDECIDED);
    }
  }

  private static String domain(String sid) {
    return sid.substring(0, sid.lastIndexOf('-'));
  }

  /**
   * Trustees of domains that were not read, and built-in groups that were not exported: whoever is
   * one of them is not known. Of a domain that was read whole, one that is not there is gone.
   */
  private Set<String> strangers(Set<String> domains) {
    Set<String> found = new HashSet<>();
    for (DirectoryTree tree : trees) {
      for (int number = 0; number < tree.descriptors(); number++) {
        tree.descriptorOf(number).entries().forEach(ace -> found.add(ace.trustee()));
        tree.descriptorOf(number).owner().ifPresent(found::add);
      }
    }
    Set<String> kept = new HashSet<>();
    history.values().forEach(kept::addAll);
    found.removeIf(
        sid ->
            subjectOf.containsKey(sid)
                || kept.contains(sid)
                || !(sid.startsWith("S-1-5-21-") || sid.startsWith("S-1-5-32-"))
                || domains.contains(domain(sid)));
    return found;
  }

  private Tokens(Tokens of, List<DirectoryTree> trees) {
    this.facts = of.facts;
    this.trees = List.copyOf(trees);
    this.memberships = of.memberships;
    this.accountsOf = of.accountsOf;
    this.candidatesOf = of.candidatesOf;
    this.strangers = of.strangers;
    this.certain = of.certain;
    this.withoutSid = of.withoutSid;
    this.sidOf.putAll(of.sidOf);
    this.subjectOf.putAll(of.subjectOf);
    this.history.putAll(of.history);
    Map<DirectoryTree, DirectoryTree> now = new IdentityHashMap<>();
    for (int i = 0; i < trees.size(); i++) {
      now.put(of.trees.get(i), this.trees.get(i));
    }
    of.objectOf.forEach(
        (subject, spot) ->
            objectOf.put(
                subject, new Spot(now.getOrDefault(spot.tree(), spot.tree()), spot.object())));
  }

  /**
   * The same memberships and ids, with other lists in the trees: who counts as whom is shared.
   *
   * @param patched the trees in the same order, with the same objects
   */
  public Tokens with(List<DirectoryTree> patched) {
    return new Tokens(this, patched);
  }

  private void number(DirectoryTree tree) {
    Map<String, Integer> byForm = new HashMap<>();
    for (int s = 0; s < facts.subjects(); s++) {
      if (facts.source(s).equals(tree.directory())) {
        byForm.put(facts.arrays().dnForm().get(s), s);
      }
    }
    for (int object = 0; object < tree.size(); object++) {
      Integer subject = byForm.get(tree.dnForm(object));
      if (subject != null) {
        objectOf.put(subject, new Spot(tree, object));
        String sid = tree.sid(object);
        if (!sid.isEmpty()) {
          sidOf.put(subject, sid);
          subjectOf.putIfAbsent(sid, subject);
        }
        if (!tree.history(object).isEmpty()) {
          history.put(subject, tree.history(object));
        }
      }
    }
  }

  /** Whether everybody who signed in counts as a trustee. */
  public static boolean isOfEverybody(String sid) {
    return IMPLICIT.contains(sid);
  }

  /** The facts these tokens are of. */
  public Facts facts() {
    return facts;
  }

  /** The trees. */
  public List<DirectoryTree> trees() {
    return trees;
  }

  /** The subjects that the objects of a tree are, by object. */
  public Map<Integer, Integer> subjects(DirectoryTree tree) {
    Map<Integer, Integer> subjects = new HashMap<>();
    objectOf.forEach(
        (subject, spot) -> {
          if (spot.tree() == tree) {
            subjects.put(spot.object(), subject);
          }
        });
    return subjects;
  }

  /** The memberships that count in tokens. */
  public Memberships memberships() {
    return memberships;
  }

  /** The subject with this SID, in any directory. */
  public Optional<Integer> subject(String sid) {
    return Optional.ofNullable(subjectOf.get(sid));
  }

  /** The SID of a subject, or empty. */
  public String sid(int subject) {
    return sidOf.getOrDefault(subject, "");
  }

  /** Whether it is not known who counts as a trustee: its domain was not read. */
  public boolean isStranger(String sid) {
    return strangers.contains(sid);
  }

  /** Where a subject stands in its directory's tree. */
  public Optional<Spot> object(int subject) {
    return Optional.ofNullable(objectOf.get(subject));
  }

  /**
   * Whether an account counts in the lists at all: YES when it has a SID; UNDECIDED when it stands
   * in a directory with lists and its SID was not read; NO when it is of a directory without SIDs.
   */
  public Verdict counts(int account) {
    return sidOf.containsKey(account)
        ? Verdict.YES
        : objectOf.containsKey(account) ? Verdict.UNDECIDED : Verdict.NO;
  }

  /** The accounts of which it is not known whether they count: their SID was not read. */
  public BitSet withoutSid() {
    return withoutSid;
  }

  /** All SIDs that an account surely counts as. O(its groups). */
  public Set<String> of(int account) {
    return sids(account, false);
  }

  /** The SIDs that an account perhaps counts as, and not surely. */
  public Set<String> perhaps(int account) {
    if (certain) {
      return Set.of();
    }
    Set<String> any = sids(account, true);
    any.addAll(strangers);
    any.removeAll(of(account));
    return any;
  }

  private Set<String> sids(int account, boolean any) {
    Set<String> sids = new HashSet<>(IMPLICIT);
    Deque<String> open = new ArrayDeque<>(IMPLICIT);
    Memberships.Walker walker = memberships.walker();
    SubjectSet subjects = new SubjectSet();
    walker.subjects(account, subjects);
    add(subjects, any, sids, open);
    while (!open.isEmpty()) {
      String sid = open.remove();
      for (DirectoryTree tree : trees) {
        for (int group : tree.listing(sid)) {
          Integer subject = subjectOf.get(tree.sid(group));
          boolean counts = !IMPLICIT.contains(sid) || tree.countsImplicit(group);
          if (counts && subject != null && !sids.contains(tree.sid(group))) {
            walker.subjects(subject, subjects);
            add(subjects, any, sids, open);
          }
        }
      }
    }
    return sids;
  }

  private void add(SubjectSet subjects, boolean any, Set<String> sids, Deque<String> open) {
    add(subjects.sure(), sids, open);
    if (any) {
      add(subjects.perhaps(), sids, open);
    }
  }

  private void add(IntList subjects, Set<String> sids, Deque<String> open) {
    for (int i = 0; i < subjects.size(); i++) {
      int subject = subjects.get(i);
      String sid = sid(subject);
      if (!sid.isEmpty() && sids.add(sid)) {
        open.add(sid);
      }
      for (String old : history.getOrDefault(subject, List.of())) {
        if (sids.add(old)) {
          open.add(old);
        }
      }
    }
  }

  /**
   * The accounts that surely count as a trustee. Kept, one bit an account, for each trustee asked
   * about; not to be changed.
   */
  public BitSet accounts(String sid) {
    return kept(sid, false);
  }

  /** The same with those that perhaps count as it. */
  public BitSet candidates(String sid) {
    return kept(sid, !certain);
  }

  private BitSet kept(String sid, boolean any) {
    Map<String, BitSet> all = any ? candidatesOf : accountsOf;
    BitSet known = all.get(sid);
    if (known == null) {
      known = find(sid, any, new HashSet<>());
      all.put(sid, known);
    }
    return known;
  }

  private BitSet find(String sid, boolean any, Set<String> seen) {
    BitSet accounts = new BitSet();
    if (IMPLICIT.contains(sid) || (any && strangers.contains(sid))) {
      everybody(accounts);
      return accounts;
    }
    if (!seen.add(sid)) {
      return accounts;
    }
    Integer subject = subjectOf.get(sid);
    if (subject != null) {
      members(subject, any, accounts, seen);
    }
    history.forEach(
        (bearer, old) -> {
          if (old.contains(sid)) {
            members(bearer, any, accounts, seen);
          }
        });
    return accounts;
  }

  private void everybody(BitSet accounts) {
    for (int account = 0; account < facts.accounts(); account++) {
      if (sidOf.containsKey(account)) {
        accounts.set(account);
      }
    }
  }

  private void members(int subject, boolean any, BitSet accounts, Set<String> seen) {
    if (facts.kind(subject) == SubjectKind.ACCOUNT) {
      accounts.set(subject);
    }
    if (facts.kind(subject) != SubjectKind.GROUP) {
      return;
    }
    Memberships.Walker walker = memberships.walker();
    IntList below = new IntList();
    if (any) {
      walker.candidates(subject, below);
    } else {
      walker.accounts(subject, below);
    }
    for (int i = 0; i < below.size(); i++) {
      accounts.set(below.get(i));
    }
    foreign(subject, any, walker, accounts, seen);
  }

  /** Trustees of elsewhere that this group, or a group in it, lists by SID. */
  private void foreign(
      int group, boolean any, Memberships.Walker walker, BitSet accounts, Set<String> seen) {
    SubjectSet above = new SubjectSet();
    for (DirectoryTree tree : trees) {
      for (String listed : tree.listed()) {
        for (int lister : tree.listing(listed)) {
          Integer subject = subjectOf.get(tree.sid(lister));
          boolean counts = !IMPLICIT.contains(listed) || tree.countsImplicit(lister);
          if (counts && subject != null) {
            walker.subjects(subject, above);
            if (above.sure().contains(group) || (any && above.perhaps().contains(group))) {
              accounts.or(find(listed, any, seen));
            }
          }
        }
      }
    }
  }
}
