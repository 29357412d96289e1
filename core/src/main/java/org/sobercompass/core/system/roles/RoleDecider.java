package org.sobercompass.core.system.roles;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.GrantBits;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.Impact;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.RightBits;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/**
 * Decides over roles, nodes and assignments.
 *
 * <p>All three ways of combining are one rule here. Each grant has a class: under {@code nearest}
 * its node (deeper is higher) and the rank of its subject, as far as these count; else one class
 * for all. The grants of the highest class that covers the node decide together; what any covering
 * grant denies is taken away. A grant that is only perhaps there is taken once as favourably and
 * once as unfavourably as possible: above or in the deciding class it may give; above it, without
 * the right, or with a deny, it may take.
 */
final class RoleDecider implements Decider {
  private static final IntList NO_GRANTS = new IntList(0);

  final GrantTable table;
  final Resources nodes;
  final Combining combining;
  final long[][] allows;
  final long[][] denies;
  final int words;
  private final boolean[] takes;
  private final long[] none;

  RoleDecider(
      GrantTable table, Resources nodes, Combining combining, List<RoleInfo> roles, int words) {
    this.table = table;
    this.nodes = nodes;
    this.combining = combining;
    this.words = words;
    this.none = new long[words];
    allows = roles.stream().map(RoleInfo::allows).toArray(long[][]::new);
    denies = roles.stream().map(RoleInfo::denies).toArray(long[][]::new);
    takes = new boolean[denies.length];
    for (int role = 0; role < takes.length; role++) {
      takes[role] = !Arrays.equals(denies[role], none);
    }
  }

  @Override
  public Projected project(Token token) {
    IntList sure = new IntList();
    collect(token.subjects().sure(), token.asOf(), sure);
    IntList perhaps = NO_GRANTS;
    if (!token.subjects().perhaps().isEmpty()) {
      perhaps = new IntList(4);
      collect(token.subjects().perhaps(), token.asOf(), perhaps);
    }
    return new RoleProjection(sure, perhaps, table.node, nodes.size() == 1);
  }

  private void collect(IntList subjects, long asOf, IntList into) {
    for (int i = 0; i < subjects.size(); i++) {
      table.collect(subjects.get(i), asOf, into);
    }
  }

  @Override
  public Verdict decide(Projected who, Question question) {
    Verdict verdict = Verdict.YES;
    for (int right : question.allOf()) {
      verdict = verdict.and(decide((RoleProjection) who, question.resource(), right));
    }
    return verdict;
  }

  private Verdict decide(RoleProjection who, int node, int right) {
    long top = -1;
    boolean yes = false;
    boolean denied = false;
    for (int grant : who.sure) {
      if (covers(grant, node)) {
        long cls = classOf(grant);
        if (cls > top) {
          top = cls;
          yes = false;
        }
        yes |= cls == top && allows(grant, right);
        denied |= denies(grant, right);
      }
    }
    boolean mayGive = false;
    boolean mayTake = false;
    for (int grant : who.perhaps) {
      if (covers(grant, node)) {
        long cls = classOf(grant);
        boolean gives = allows(grant, right);
        boolean takes = denies(grant, right);
        mayGive |= cls >= top && gives && !takes;
        mayTake |= takes || (cls > top && !gives);
      }
    }
    if (yes && !denied && !mayTake) {
      return Verdict.YES;
    }
    return (yes || mayGive) && !denied ? Verdict.UNDECIDED : Verdict.NO;
  }

  boolean covers(int grant, int node) {
    int at = table.node[grant];
    return at == node || (table.descends[grant] && at < node && node < nodes.end(at));
  }

  /** Higher decides; equal for all where nearness does not count. */
  long classOf(int grant) {
    long byNode = combining.byNode() ? table.node[grant] : 0;
    return byNode << 2 | (combining.bySubject() ? table.rank[grant] : 0);
  }

  boolean allows(int grant, int right) {
    return (allows[table.role[grant]][right >> 6] >>> right & 1) != 0;
  }

  boolean denies(int grant, int right) {
    return (denies[table.role[grant]][right >> 6] >>> right & 1) != 0;
  }

  @Override
  public void sweep(Projected who, GrantSink out) {
    RoleProjection projection = (RoleProjection) who;
    if (projection.isEmpty()) {
      return;
    }
    if (nodes.size() == 1 && projection.perhaps.length == 0 && !combining.bySubject()) {
      flat(projection, out);
    } else {
      new RoleSweep(this, projection).run(out);
    }
  }

  @Override
  public Optional<GrantBits> bits(long asOf) {
    return Optional.of(new RoleBits(this, asOf));
  }

  /** One node, everything sure, one class: a union and what is denied. The most usual case. */
  private void flat(RoleProjection who, GrantSink out) {
    long[] yes = new long[words];
    add(who.sure, yes);
    if (combining.mode() == Combining.Mode.DENY_OVERRIDES) {
      for (int grant : who.sure) {
        long[] deny = denies[table.role[grant]];
        for (int w = 0; w < words; w++) {
          yes[w] &= ~deny[w];
        }
      }
    }
    out.cell(0, false, 1, yes, none);
  }

  /** Where grants only add up each is held at its own node at least; else they are swept. */
  @Override
  public void held(Projected who, long[] sure, long[] any) {
    if (combining.mode() != Combining.Mode.UNION) {
      Decider.super.held(who, sure, any);
      return;
    }
    RoleProjection projection = (RoleProjection) who;
    add(projection.sure, sure);
    add(projection.sure, any);
    add(projection.perhaps, any);
  }

  private void add(int[] grants, long[] into) {
    for (int grant : grants) {
      RightBits.add(allows[table.role[grant]], into);
    }
  }

  @Override
  public Decision explain(Token token, Question question, Limits limits) {
    return new RoleExplanation(this, token, question, limits).decision();
  }

  @Override
  public IntList trustees() {
    return IntList.of(table.trustees);
  }

  @Override
  public IntList grantsOf(Token token) {
    IntList all = new IntList();
    IntList subjects = token.subjects().sure();
    for (int i = 0; i < subjects.size(); i++) {
      table.collectAll(subjects.get(i), all);
    }
    all.sort();
    return all;
  }

  @Override
  public IntList giving(int resource, int right, boolean below) {
    IntList giving = new IntList();
    for (int grant = 0; grant < table.node.length; grant++) {
      boolean here =
          covers(grant, resource) || (below && nodes.covers(resource, table.node[grant]));
      boolean removed = table.grants.get(grant).isWithdrawn();
      if (here && !removed && allows(grant, right)) {
        giving.add(grant);
      }
    }
    return giving;
  }

  @Override
  public boolean mayTake(int grant) {
    return combining.mode() == Combining.Mode.NEAREST || takes[table.role[grant]];
  }

  @Override
  public IntList taking(Projected projected) {
    RoleProjection who = (RoleProjection) projected;
    if (who.sure.length < 2 || !mayTake(who)) {
      return NO_GRANTS;
    }
    IntList taking = new IntList(2);
    long[] all = new long[words];
    long[] deciding = new long[words];
    for (int i = 0; i < who.sure.length; i++) {
      int node = table.node[who.sure[i]];
      if (i == 0 || node != table.node[who.sure[i - 1]]) {
        Arrays.fill(all, 0);
        Arrays.fill(deciding, 0);
        taking(who, node, all, deciding, taking);
      }
    }
    return taking;
  }

  /** Whether there is a deny, or a grant that is nearer than another. */
  private boolean mayTake(RoleProjection who) {
    for (int grant : who.sure) {
      if (takes[table.role[grant]] || classOf(grant) != classOf(who.sure[0])) {
        return true;
      }
    }
    return false;
  }

  private void taking(RoleProjection who, int node, long[] all, long[] deciding, IntList taking) {
    long top = -1;
    boolean denied = false;
    for (int grant : who.sure) {
      if (covers(grant, node)) {
        long cls = classOf(grant);
        if (cls > top) {
          top = cls;
          Arrays.fill(deciding, 0);
        }
        long[] allow = allows[table.role[grant]];
        RightBits.add(allow, all);
        if (cls == top) {
          RightBits.add(allow, deciding);
        }
        denied |= takes[table.role[grant]];
      }
    }
    boolean nearer = !Arrays.equals(all, deciding);
    for (int i = 0; i < who.sure.length && (nearer || denied); i++) {
      int grant = who.sure[i];
      boolean here =
          (nearer && classOf(grant) == top)
              || (denied
                  && RightBits.meet(denies[table.role[grant]], all)
                  && deniesOthers(who, grant, node));
      if (here && covers(grant, node) && !taking.contains(grant)) {
        taking.add(grant);
      }
    }
  }

  /** Whether a grant denies what another one gives; a role may deny what only it allows. */
  private boolean deniesOthers(RoleProjection who, int grant, int node) {
    for (int other : who.sure) {
      if (other != grant
          && covers(other, node)
          && RightBits.meet(denies[table.role[grant]], allows[table.role[other]])) {
        return true;
      }
    }
    return false;
  }

  @Override
  public boolean isIdle(Projected who, int grant) {
    return new RoleIdleness(this, (RoleProjection) who).isIdle(grant);
  }

  @Override
  public boolean isMonotone() {
    return combining.mode() == Combining.Mode.UNION;
  }

  @Override
  public Impact impact(Change change) {
    return change.fold(
        moved -> new Impact(IntList.of(moved.member()), 0, nodes.size()),
        own ->
            own.byKind(
                added -> impact(added.subject(), added.node(), added.descends()),
                removed ->
                    impact(
                        table.subject[removed.grant()],
                        table.node[removed.grant()],
                        table.descends[removed.grant()]),
                otherwise -> new Impact(trustees(), 0, nodes.size())),
        self -> new Impact(IntList.of(self.subject()), 0, nodes.size()));
  }

  private Impact impact(int subject, int node, boolean descends) {
    int end = descends ? nodes.end(node) : node + 1;
    return subject < 0 ? Impact.NONE : new Impact(IntList.of(subject), node, end);
  }
}
