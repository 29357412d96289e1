package org.sobercompass.core.membership;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.store.BlockRows;
import org.sobercompass.core.store.BlockSum;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Stamps;

/**
 * Memberships as one system counts them: a graph, a profile and what is visible. Frozen and
 * thread-safe; the work space of a walk is a {@link Walker}, one a thread.
 *
 * <p>Cost: making it, O(groups + nestings); the subjects of one account, O(its groups, with
 * repeats); the members of one group, O(its members, with repeats).
 */
public final class Memberships {
  private static final int[] NO_GROUPS = new int[0];

  private final MembershipGraph graph;
  private final Facts facts;
  private final MembershipProfile profile;
  private final Visibility visibility;
  private final int mask;
  private final boolean direct;
  private final int maskPerhaps;
  private final int[] open;
  private final boolean certain;
  private final boolean certainButOpen;
  private final IntRows listed;
  private final byte[] listedVia;
  private final int sureMask;
  private final boolean allGroupsCount;
  private volatile @Nullable GroupClosures closures;

  /** Looks at a graph through a profile and a visibility. */
  public Memberships(MembershipGraph graph, MembershipProfile profile, Visibility visibility) {
    this.graph = graph;
    this.facts = graph.facts();
    this.profile = profile;
    this.visibility = visibility;
    this.mask = profile.mask();
    this.direct = !(graph instanceof BaseGraph);
    boolean rules = profile.counts().contains(Via.DYNAMIC);
    this.maskPerhaps = mask | (rules ? 1 << Via.UNDEFINED.ordinal() : 0);
    this.open = open();
    this.listed = facts.arrays().up();
    this.listedVia = facts.arrays().upVia();
    this.sureMask = mask & ~(1 << Via.UNDEFINED.ordinal()) & ~(1 << Via.WITHHELD.ordinal());
    int first = facts.firstGroup();
    this.allGroupsCount =
        visibility.seesAll(first, first + facts.groups()) && profile.mailOnlyGroups();
    this.certainButOpen = visibility.isCertain() && !(rules && facts.hasUndefinedMembers());
    this.certain = certainButOpen && open.length == 0;
  }

  /** The groups whose members were not all shown, and which count. */
  private int[] open() {
    int[] groups = facts.arrays().open();
    byte[] vias = facts.arrays().openVia();
    IntList found = new IntList();
    for (int i = 0; i < groups.length; i++) {
      boolean counted = (mask >> vias[i] & 1) != 0 && groupCounts(groups[i]);
      if (counted && (visibility.sees(groups[i]) || visibility.perhapsSees(groups[i]))) {
        found.add(groups[i]);
      }
    }
    return found.toArray();
  }

  /**
   * Whether all is certain: nothing is perhaps seen, no group that counts has members that were not
   * shown, no rule is undefined for anybody.
   */
  public boolean isCertain() {
    return certain;
  }

  /** The groups of which an account is perhaps a member, since their members were not shown. */
  int[] openFor(int account) {
    return account < facts.accounts() && !facts.arrays().dnForm().isEmpty(account)
        ? open
        : NO_GROUPS;
  }

  /** Whether a group that counts has members which were not shown. */
  public boolean isOpen(int group) {
    return java.util.Arrays.binarySearch(open, group) >= 0;
  }

  /** The graph. */
  public MembershipGraph graph() {
    return graph;
  }

  /** The profile. */
  public MembershipProfile profile() {
    return profile;
  }

  /** What is visible. */
  public Visibility visibility() {
    return visibility;
  }

  /** Makes what speeds up work over many accounts; a single question does without. */
  public void prepare() {
    if (closures == null && !direct && profile.nesting() == MembershipProfile.FULL) {
      closures = GroupClosures.of(graph, this::countsSurely);
    }
  }

  /**
   * The groups above each group, if they are kept: groups nest without limit, nothing is patched.
   */
  Optional<GroupClosures> closures() {
    prepare();
    return Optional.ofNullable(closures);
  }

  /**
   * Adds rows of the groups that list an account and surely count; only where closures are kept.
   */
  void addDirect(int account, BlockRows rows, BlockSum into) {
    for (int at = listed.start(account); at < listed.end(account); at++) {
      if (isDirect(at)) {
        into.add(rows, listed.at(at));
      }
    }
  }

  /** Whether a membership as it was read surely counts. */
  private boolean isDirect(int at) {
    if ((sureMask >> listedVia[at] & 1) == 0) {
      return false;
    }
    int group = listed.at(at);
    return allGroupsCount || (visibility.sees(group) && groupCounts(group));
  }

  /** A work space; not thread-safe. */
  public Walker walker() {
    return new Walker();
  }

  /** Whether an edge counts for sure under the profile, whatever is visible. */
  public boolean counts(int member, int index, int group) {
    Via via = graph.upVia(member, index);
    return via.isSure() && (mask >> via.ordinal() & 1) != 0 && groupCounts(group);
  }

  /** The same seen from the group: whether its member with an index counts. */
  boolean countsDown(int group, int index) {
    int member = graph.downMember(group, index);
    boolean isAccount = member < facts.accounts();
    Via via = graph.downVia(group, index);
    return via.isSure()
        && (mask >> via.ordinal() & 1) != 0
        && !facts.isAbsent(group)
        && !facts.isAbsent(member)
        && groupCounts(group)
        && (isAccount || groupCounts(member));
  }

  /** By which kind of edge a member is in a group, the first that counts. */
  Via via(int member, int group) {
    for (int i = 0; i < graph.upCount(member); i++) {
      if (graph.upGroup(member, i) == group && countsPerhaps(member, i, group)) {
        return graph.upVia(member, i);
      }
    }
    if (isOpen(group)) {
      return Via.WITHHELD;
    }
    throw new IllegalStateException("no edge from " + member + " to " + group);
  }

  private boolean groupCounts(int group) {
    return profile.mailOnlyGroups() || !facts.is(group, Facts.MAIL_ONLY);
  }

  private boolean countsSurely(int member, int index, int group) {
    return visibility.sees(group) && counts(member, index, group);
  }

  /** Whether an edge counts, and its group is seen, surely or perhaps. */
  boolean countsPerhaps(int member, int index, int group) {
    return (visibility.sees(group) || visibility.perhapsSees(group))
        && (maskPerhaps >> graph.upVia(member, index).ordinal() & 1) != 0
        && groupCounts(group);
  }

  /** Walks memberships, keeping its marks from walk to walk. Not thread-safe. */
  public final class Walker {
    private final Stamps seen = new Stamps(facts.subjects());
    private @Nullable Stamps met;
    private final IntList reached = new IntList(256);
    private final IntList some = new IntList();
    private int whole;
    private boolean sureOnly;
    private boolean groupsOnly;
    private boolean goesOn;

    /**
     * Fills {@code into} with the account, its groups and the organizational units above it.
     * Nothing when the account is not seen; all perhaps when it is not known whether it is seen.
     */
    public void subjects(int account, SubjectSet into) {
      into.clear();
      seen.clear();
      boolean sees = visibility.sees(account);
      if (!sees && !visibility.perhapsSees(account)) {
        return;
      }
      IntList target = sees ? into.sure() : into.perhaps();
      seen.add(account);
      target.add(account);
      if (sees) {
        up(account, into.sure());
        units(account, into.sure());
      }
      if (!certain && !(certainButOpen && aboveOpen(account, into.perhaps()))) {
        restart(into.sure());
        wide(account, into.perhaps());
        if (!sees) {
          units(account, into.perhaps());
        }
      }
    }

    /**
     * Adds the groups above those that do not show their members, where nothing else is undecided.
     *
     * @return false when the groups above them are not kept, and nothing was added
     */
    private boolean aboveOpen(int account, IntList perhaps) {
      GroupClosures ready = closures;
      int[] perhapsIn = openFor(account);
      if (ready == null) {
        return perhapsIn.length == 0;
      }
      for (int group : perhapsIn) {
        if (ready.start(group) == ready.end(group)) {
          return false;
        }
      }
      for (int group : perhapsIn) {
        seen.addAll(ready.groups(), ready.start(group), ready.end(group), perhaps);
      }
      return true;
    }

    private void restart(IntList sure) {
      seen.clear();
      for (int i = 0; i < sure.size(); i++) {
        seen.add(sure.get(i));
      }
    }

    private void up(int account, IntList out) {
      GroupClosures ready = closures;
      if (ready == null) {
        levels(account, out);
        return;
      }
      for (int at = listed.start(account); at < listed.end(account); at++) {
        int group = listed.at(at);
        if (!isDirect(at) || seen.contains(group)) {
          continue;
        }
        int from = ready.start(group);
        int to = ready.end(group);
        if (from == to) {
          onward(group, out);
        } else {
          seen.addAll(ready.groups(), from, to, out);
        }
      }
    }

    private void onward(int group, IntList out) {
      seen.add(group);
      int from = out.size();
      out.add(group);
      for (int at = from; at < out.size(); at++) {
        int g = out.get(at);
        for (int i = 0; i < graph.upCount(g); i++) {
          int above = graph.upGroup(g, i);
          if (countsSurely(g, i, above) && seen.add(above)) {
            out.add(above);
          }
        }
      }
    }

    /** Level by level, so that a limit on nesting is a limit on the shortest chain. */
    private void levels(int account, IntList out) {
      int from = out.size();
      spread(account, out);
      for (int level = 0; level < profile.nesting() && from < out.size(); level++) {
        int to = out.size();
        for (int at = from; at < to; at++) {
          spread(out.get(at), out);
        }
        from = to;
      }
    }

    private void spread(int member, IntList out) {
      for (int i = 0; i < graph.upCount(member); i++) {
        int group = graph.upGroup(member, i);
        if (countsSurely(member, i, group) && seen.add(group)) {
          out.add(group);
        }
      }
    }

    /** All that would count if every undecided group were seen and that is not sure already. */
    private void wide(int account, IntList out) {
      Stamps met = this.met == null ? new Stamps(facts.subjects()) : this.met;
      this.met = met;
      met.clear();
      reached.clear();
      reached.add(account);
      met.add(account);
      int from = 0;
      int[] perhapsIn = openFor(account);
      for (int level = -1; level < profile.nesting() && from < reached.size(); level++) {
        int to = reached.size();
        if (level < 0) {
          for (int group : perhapsIn) {
            note(group, met, out);
          }
        }
        for (int at = from; at < to; at++) {
          int member = reached.get(at);
          for (int i = 0; i < graph.upCount(member); i++) {
            int group = graph.upGroup(member, i);
            if (countsPerhaps(member, i, group)) {
              note(group, met, out);
            }
          }
        }
        from = to;
      }
    }

    private void note(int group, Stamps met, IntList out) {
      if (met.add(group)) {
        reached.add(group);
        if (seen.add(group)) {
          out.add(group);
        }
      }
    }

    private void units(int account, IntList out) {
      if ((mask >> Via.CONTAINER.ordinal() & 1) != 0) {
        for (int unit = facts.container(account); unit >= 0; unit = facts.container(unit)) {
          if (visibility.sees(unit) && seen.add(unit)) {
            out.add(unit);
          }
        }
      }
    }

    /**
     * Adds the accounts that surely count as {@code subject}, ascending where the subject is an
     * organizational unit, else in the order found. Implicit groups are not asked here.
     */
    public void accounts(int subject, IntList out) {
      accounts(subject, out, true);
    }

    /** Begins anew with {@link #more}. */
    public void begin() {
      seen.clear();
    }

    /**
     * Like {@link #accounts}, without accounts of groups that were found since {@link #begin}: to
     * find those of several subjects together. All calls in between must be of this method. O(new
     * memberships) where groups nest without limit, else as the other.
     */
    public void more(int subject, IntList out) {
      goesOn = profile.nesting() == MembershipProfile.FULL;
      accounts(subject, out, true);
      goesOn = false;
    }

    /** The same with those that perhaps count as it. */
    public void candidates(int subject, IntList out) {
      accounts(subject, out, false);
    }

    private void accounts(int subject, IntList out, boolean surely) {
      sureOnly = surely;
      switch (facts.kind(subject)) {
        case ACCOUNT -> {
          if (!facts.isAbsent(subject)) {
            out.add(subject);
          }
        }
        case GROUP -> {
          members(subject, out, false);
          if (!surely) {
            anybody(out);
          }
        }
        case UNIT -> below(subject, out);
        case IMPLICIT -> throw new IllegalArgumentException("ask the system for implicit groups");
      }
    }

    /**
     * Whether any account counts as a group, surely or perhaps; stops at the level of the first.
     */
    public boolean hasAccount(int group) {
      sureOnly = false;
      if (groupCounts(group) && isSeen(group) && listsAccount(group)) {
        return true;
      }
      some.clear();
      members(group, some, true);
      return !some.isEmpty() || isAnyOpen();
    }

    /** Whether an account that counts is listed in a group itself; most groups begin with one. */
    private boolean listsAccount(int group) {
      for (int i = 0; i < graph.downCount(group); i++) {
        int member = graph.downMember(group, i);
        if (member < facts.accounts() && isFollowed(graph.downVia(group, i)) && isSeen(member)) {
          return true;
        }
      }
      return false;
    }

    /** Where a group that was reached has members that were not shown, anybody may count. */
    private void anybody(IntList out) {
      if (isAnyOpen()) {
        for (int account = 0; account < facts.accounts(); account++) {
          if (openFor(account).length > 0
              && (visibility.sees(account) || visibility.perhapsSees(account))
              && seen.add(account)) {
            out.add(account);
          }
        }
      }
    }

    private boolean isAnyOpen() {
      for (int i = 0; open.length > 0 && i < whole; i++) {
        if (isOpen(reached.get(i))) {
          return true;
        }
      }
      return false;
    }

    /**
     * Adds the groups whose members count as a group, itself first. O(memberships listed below).
     */
    public void groups(int group, IntList out) {
      sureOnly = false;
      groupsOnly = true;
      members(group, some, false);
      groupsOnly = false;
      for (int i = 0; i < whole; i++) {
        out.add(reached.get(i));
      }
    }

    /**
     * Adds the groups that the members of a group count as by it, surely or perhaps, itself first.
     */
    public void groupsAbove(int group, IntList out) {
      seen.clear();
      sureOnly = false;
      if (!groupCounts(group) || !isSeen(group)) {
        return;
      }
      seen.add(group);
      int from = out.size();
      out.add(group);
      for (int level = 0; level < profile.nesting() && from < out.size(); level++) {
        int to = out.size();
        for (int at = from; at < to; at++) {
          int below = out.get(at);
          for (int i = 0; i < graph.upCount(below); i++) {
            int above = graph.upGroup(below, i);
            if (countsPerhaps(below, i, above) && seen.add(above)) {
              out.add(above);
            }
          }
        }
        from = to;
      }
    }

    /** Adds the accounts; {@link #whole} is how many of the groups reached are near enough. */
    private void members(int group, IntList out, boolean firstOnly) {
      if (!goesOn) {
        seen.clear();
      }
      reached.clear();
      whole = 0;
      if (!groupCounts(group) || !isSeen(group) || !seen.add(group)) {
        return;
      }
      reached.add(group);
      int from = 0;
      for (int level = -1; level < profile.nesting() && from < reached.size(); level++) {
        int to = reached.size();
        for (int at = from; at < to && !(firstOnly && !out.isEmpty()); at++) {
          listed(reached.get(at), out);
        }
        from = to;
      }
      whole = from;
    }

    private void listed(int group, IntList out) {
      for (int i = 0; i < graph.downCount(group); i++) {
        int member = graph.downMember(group, i);
        if (groupsOnly && member < facts.accounts()) {
          continue;
        }
        if (seen.contains(member) || !isFollowed(graph.downVia(group, i))) {
          continue;
        }
        boolean isAccount = member < facts.accounts();
        if (isSeen(member) && (isAccount || groupCounts(member))) {
          seen.add(member);
          (isAccount ? out : reached).add(member);
        }
      }
    }

    private boolean isSeen(int subject) {
      return visibility.sees(subject) || (!sureOnly && visibility.perhapsSees(subject));
    }

    private boolean isFollowed(Via via) {
      return ((sureOnly ? mask : maskPerhaps) >> via.ordinal() & 1) != 0
          && (via.isSure() || !sureOnly);
    }

    private void below(int unit, IntList out) {
      for (int account = 0; account < facts.accounts(); account++) {
        int above = facts.container(account);
        while (above >= 0 && above != unit) {
          above = facts.container(above);
        }
        if (above == unit && !facts.isAbsent(account)) {
          out.add(account);
        }
      }
    }
  }
}
