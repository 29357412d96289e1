package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.CellSweep;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.Impact;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Proof;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;
import org.sobercompass.core.system.database.DatabaseFacts.Rows;

/** Decides over objects and grants. */
final class DatabaseDecider implements Decider {
  private final DatabaseFacts facts;
  private final DatabaseGrants grants;

  DatabaseDecider(DatabaseFacts facts, DatabaseGrants grants) {
    this.facts = facts;
    this.grants = grants;
  }

  @Override
  public Projected project(Token token) {
    boolean superuser = facts.superusers.containsKey(token.account());
    boolean bypasses = facts.bypassing.contains(token.account());
    return new DatabaseWho(Who.of(token, facts.trustees), superuser, bypasses);
  }

  @Override
  public Verdict decide(Projected who, Question question) {
    DatabaseMasks masks = new DatabaseMasks(facts, (DatabaseWho) who);
    int r = question.resource();
    long need = need(question);
    if ((masks.usable(r, masks.reaches(r, false), false) & need) == need) {
      return Verdict.YES;
    }
    boolean may = (masks.usable(r, masks.reaches(r, true), true) & need) == need;
    return may ? Verdict.UNDECIDED : Verdict.NO;
  }

  private static long need(Question question) {
    long need = 0;
    for (int right : question.allOf()) {
      need |= DatabaseRights.RIGHTS.mask(right);
    }
    return need;
  }

  @Override
  public void sweep(Projected who, GrantSink out) {
    if (who.isEmpty()) {
      return;
    }
    DatabaseMasks masks = new DatabaseMasks(facts, (DatabaseWho) who);
    boolean[] sure = new boolean[facts.items.length];
    boolean[] maybe = new boolean[facts.items.length];
    boolean certain = facts.isWhole() && ((DatabaseWho) who).who().isCertain();
    new CellSweep(facts.tree)
        .run(
            (r, into) -> {
              int above = facts.tree.parent(r);
              boolean reached = above < 0 || sure[above];
              boolean perhaps = above < 0 || maybe[above];
              into[0] = masks.usable(r, reached, false);
              into[1] = certain ? 0 : masks.usable(r, perhaps, true) & ~into[0];
              boolean leads = facts.tree.end(r) > r + 1;
              sure[r] = leads && reached && masks.passes(r, false);
              maybe[r] = leads && perhaps && !certain && masks.passes(r, true);
            },
            out);
  }

  /** One step on the way, or the right itself. */
  private record Step(String name, int resource, long need) {}

  private List<Step> steps(int resource, long need) {
    List<Step> steps = new ArrayList<>();
    IntList way = new IntList();
    for (int at = resource; at >= 0; at = facts.tree.parent(at)) {
      way.add(at);
    }
    for (int i = way.size() - 1; i >= 0; i--) {
      int at = way.get(i);
      Kind kind = facts.items[at].kind();
      if (kind == Kind.DATABASE) {
        steps.add(new Step("connect to " + facts.tree.id(at), at, DatabaseRights.CONNECT));
      } else if (kind == Kind.SCHEMA && at != resource) {
        steps.add(new Step("usage of schema " + facts.tree.id(at), at, DatabaseRights.USAGE));
      }
    }
    Step last =
        new Step(
            DatabaseRights.RIGHTS.words(need) + " on the " + facts.items[resource].kind().word(),
            resource,
            need);
    if (steps.isEmpty() || !same(steps.get(steps.size() - 1), last)) {
      steps.add(last);
    }
    return steps;
  }

  /** What stands behind a right: policies of row security, or what a view reads from. */
  private Optional<Layer> behind(DatabaseMasks masks, DatabaseWho who, Step last) {
    if (masks.isDirect(last.resource)) {
      return Optional.empty();
    }
    Verdict verdict =
        masks.behind(last.resource, last.need, false) == 0
            ? Verdict.YES
            : masks.behind(last.resource, last.need, true) == 0 ? Verdict.UNDECIDED : Verdict.NO;
    int relation =
        facts.items[last.resource].kind() == Kind.COLUMN
            ? facts.tree.parent(last.resource)
            : last.resource;
    DatabaseFacts.Item item = facts.items[relation];
    String name =
        item.view().isPresent() ? "what the view reads from" : "rows that a policy lets through";
    return Optional.of(
        new Layer(name, relation, verdict, List.of(), List.of(), reason(item, verdict, who)));
  }

  private String reason(DatabaseFacts.Item item, Verdict verdict, DatabaseWho who) {
    if (item.view().isPresent()) {
      DatabaseFacts.View view = item.view().get();
      String whose =
          view.invoker()
              ? "whoever uses it needs the right there too"
              : "its owner " + facts.trustees.label(item.owner()) + " needs the right there";
      return !view.known()
          ? "what it reads from was not collected"
          : verdict == Verdict.YES ? "" : whose;
    }
    boolean exempt = who.superuser() || who.bypasses();
    return verdict == Verdict.NO
        ? "row security is on, and no policy lets rows through"
        : exempt ? "" : item.policies().isEmpty() ? "its policies were not collected" : "";
  }

  private static boolean same(Step a, Step b) {
    return a.resource == b.resource && a.need == b.need;
  }

  private Verdict verdict(DatabaseMasks masks, Step step) {
    boolean open = !facts.closed.get(step.resource);
    if ((masks.own(step.resource, false) & step.need) == step.need) {
      return open ? Verdict.YES : Verdict.NO;
    }
    boolean may = (masks.own(step.resource, true) & step.need) == step.need;
    return may && open ? Verdict.UNDECIDED : Verdict.NO;
  }

  @Override
  public List<Layer> layers(Token token, Question question) {
    DatabaseWho who = (DatabaseWho) project(token);
    DatabaseMasks masks = new DatabaseMasks(facts, who);
    List<Layer> layers = new ArrayList<>();
    for (Step step : steps(question.resource(), need(question))) {
      List<Integer> gives = givers(token.account(), who, step);
      if (isLast(step, question) && verdict(masks, step) != Verdict.NO) {
        behind(masks, who, step).ifPresent(layers::add);
      }
      layers.add(
          new Layer(
              step.name, step.resource, verdict(masks, step), gives, List.of(), note(who, step)));
    }
    return layers;
  }

  private static boolean isLast(Step step, Question question) {
    return step.resource == question.resource() && step.need == need(question);
  }

  private String note(DatabaseWho who, Step step) {
    DatabaseFacts.Item item = facts.items[step.resource];
    if (facts.closed.get(step.resource)) {
      return "the database takes no connections";
    }
    if (!item.known()) {
      return "its grants could not be read";
    }
    boolean owns = item.owner() >= 0 && who.who().surely(item.owner());
    boolean hidden = item.rows() == Rows.FORCED || (item.rows() == Rows.POLICIES && !owns);
    return hidden && !who.superuser() && !who.bypasses() ? item.rows().words() : "";
  }

  /** The grants that give somebody at least a part of a step. */
  private List<Integer> givers(int account, DatabaseWho who, Step step) {
    if (who.superuser()) {
      return List.of(grants.superuser(account));
    }
    List<Integer> gives = new ArrayList<>();
    collect(who, step, step.resource, gives);
    Kind kind = facts.items[step.resource].kind();
    if (kind == Kind.COLUMN) {
      collect(who, step, facts.tree.parent(step.resource), gives);
    }
    int schema = schemaDropping(step);
    if (schema >= 0 && who.who().is(grants.trustee(grants.first(schema)), true)) {
      gives.add(grants.first(schema));
    }
    boolean reads = (DatabaseMasks.readAll(kind) & step.need) != 0 && grants.readAll() >= 0;
    if (reads && who.who().is(facts.readAll, true)) {
      gives.add(grants.readAll());
    }
    boolean writes = (DatabaseMasks.writeAll(kind) & step.need) != 0 && grants.writeAll() >= 0;
    if (writes && who.who().is(facts.writeAll, true)) {
      gives.add(grants.writeAll());
    }
    return gives;
  }

  /** The schema whose owner may drop what is asked about, or -1. */
  private int schemaDropping(Step step) {
    int above = facts.tree.parent(step.resource);
    boolean dropped =
        (step.need & DatabaseRights.DROP) != 0
            && above >= 0
            && facts.items[above].kind() == Kind.SCHEMA
            && facts.items[above].owner() >= 0;
    return dropped ? above : -1;
  }

  private void collect(DatabaseWho who, Step step, int resource, List<Integer> into) {
    for (int g = grants.first(resource); g < grants.end(resource); g++) {
      if ((grants.mask(g) & step.need) != 0 && who.who().is(grants.trustee(g), true)) {
        into.add(g);
      }
    }
  }

  @Override
  public Decision explain(Token token, Question question, Limits limits) {
    DatabaseWho who = (DatabaseWho) project(token);
    Verdict verdict = decide(who, question);
    List<Step> steps = steps(question.resource(), need(question));
    int right = question.allOf()[0];
    List<Proof> proofs = new ArrayList<>();
    List<Stopped> stopped = new ArrayList<>();
    Set<Integer> unknown = new LinkedHashSet<>();
    Step last = steps.get(steps.size() - 1);
    List<Integer> main = givers(token.account(), who, last);
    if (verdict == Verdict.YES) {
      prove(token.account(), who, steps, right, proofs);
    } else {
      DatabaseMasks masks = new DatabaseMasks(facts, who);
      boolean here = verdict(masks, last) != Verdict.NO;
      for (int grant : main) {
        if (verdict == Verdict.UNDECIDED) {
          unknown.add(grant);
        } else if (here) {
          stopped.add(Stopped.of(grant, right, Stopped.Reason.ANOTHER_LAYER));
        }
      }
    }
    boolean more = proofs.size() > limits.proofs() || stopped.size() > limits.proofs();
    return new Decision(
        verdict,
        List.copyOf(proofs.subList(0, Math.min(proofs.size(), limits.proofs()))),
        List.copyOf(unknown),
        List.copyOf(stopped.subList(0, Math.min(stopped.size(), limits.proofs()))),
        more);
  }

  /**
   * Each way through each step, joined with the first way through the others. A step may need
   * several grants when several rights are asked together.
   */
  private void prove(
      int account, DatabaseWho who, List<Step> steps, int right, List<Proof> proofs) {
    List<List<Integer>> ways = new ArrayList<>();
    for (Step step : steps) {
      ways.add(givers(account, who, step));
    }
    int last = ways.size() - 1;
    Set<Set<FactRef>> seen = new LinkedHashSet<>();
    for (int layer = last; layer >= 0; layer--) {
      for (int way : ways.get(layer)) {
        Set<FactRef> present = new LinkedHashSet<>();
        for (int other = 0; other <= last; other++) {
          first(steps.get(other), ways.get(other), other == layer ? way : -1, present);
        }
        int main = layer == last ? way : ways.get(last).get(0);
        if (seen.add(present)) {
          proofs.add(new Proof(main, right, List.copyOf(present), List.of()));
        }
      }
    }
  }

  private void first(Step step, List<Integer> ways, int wanted, Set<FactRef> into) {
    long left = step.need;
    if (wanted >= 0) {
      into.add(new FactRef.GrantFact(wanted));
      left &= ~grants.mask(wanted);
    }
    for (int way : ways) {
      if ((grants.mask(way) & left) != 0) {
        into.add(new FactRef.GrantFact(way));
        left &= ~grants.mask(way);
      }
    }
  }

  @Override
  public Optional<Crowd> crowd(Question question, Crowd.Members members, long asOf) {
    DatabaseWho nobody = new DatabaseWho(new Who(new long[1], new long[1], 0), false, false);
    if (!members.areCertain() || !new DatabaseMasks(facts, nobody).isDirect(question.resource())) {
      return Optional.empty();
    }
    BitSet yes = new BitSet();
    yes.or(members.surely(facts.trustees.subject(Trustees.EVERYONE)));
    BitSet perhaps = (BitSet) yes.clone();
    BitSet superusers = new BitSet();
    facts.superusers.keySet().forEach(superusers::set);
    for (Step step : steps(question.resource(), need(question))) {
      boolean none = (step.need & ~facts.items[step.resource].kind().rights()) != 0;
      if (none || facts.closed.get(step.resource)) {
        return Optional.of(new Crowd(new BitSet(), new BitSet()));
      }
      BitSet through = through(step, members::surely);
      through.or(superusers);
      if (isKnown(step.resource)) {
        perhaps.and(through);
      }
      yes.and(through);
    }
    perhaps.andNot(yes);
    return Optional.of(new Crowd(yes, perhaps));
  }

  /** Whether what gives rights on an object was read: of a column its table's grants too. */
  private boolean isKnown(int resource) {
    DatabaseFacts.Item item = facts.items[resource];
    return item.known() && (item.kind() != Kind.COLUMN || isKnown(facts.tree.parent(resource)));
  }

  /** Whom a step lets pass, one right after another. */
  private BitSet through(Step step, IntFunction<BitSet> members) {
    BitSet all = new BitSet();
    boolean first = true;
    for (long left = step.need; left != 0; left &= left - 1) {
      Step one = new Step(step.name, step.resource, Long.lowestOneBit(left));
      BitSet some = new BitSet();
      IntList giving = giving(one);
      for (int i = 0; i < giving.size(); i++) {
        int subject = grants.all().get(giving.get(i)).subject();
        if (subject >= 0) {
          some.or(members.apply(subject));
        }
      }
      if (first) {
        all.or(some);
      }
      all.and(some);
      first = false;
    }
    return all;
  }

  /** The grants that give a right to anybody, superusers left out. */
  private IntList giving(Step step) {
    IntList giving = new IntList();
    Kind kind = facts.items[step.resource].kind();
    for (int at = step.resource; at >= 0; at = facts.tree.parent(at)) {
      for (int g = grants.first(at); g < grants.end(at); g++) {
        if ((grants.mask(g) & step.need) != 0) {
          giving.add(g);
        }
      }
      if (facts.items[at].kind() != Kind.COLUMN) {
        break;
      }
    }
    int schema = schemaDropping(step);
    if (schema >= 0) {
      giving.add(grants.first(schema));
    }
    if (grants.readAll() >= 0 && (DatabaseMasks.readAll(kind) & step.need) != 0) {
      giving.add(grants.readAll());
    }
    if (grants.writeAll() >= 0 && (DatabaseMasks.writeAll(kind) & step.need) != 0) {
      giving.add(grants.writeAll());
    }
    return giving;
  }

  @Override
  public IntList trustees() {
    IntList named = facts.trustees.named();
    IntList all = new IntList();
    Set<Integer> known = new java.util.TreeSet<>(facts.superusers.keySet());
    for (int i = 0; i < named.size(); i++) {
      known.add(named.get(i));
    }
    known.forEach(all::add);
    return all;
  }

  @Override
  public IntList grantsOf(Token token) {
    DatabaseWho who = (DatabaseWho) project(token);
    IntList all = new IntList();
    for (int g = 0; g < grants.all().size(); g++) {
      boolean own = grants.all().get(g).subject() == token.account();
      if (own || (grants.mask(g) != DatabaseRights.ALL && who.who().surely(grants.trustee(g)))) {
        all.add(g);
      }
    }
    return all;
  }

  @Override
  public IntList giving(int resource, int right, boolean below) {
    long need = DatabaseRights.RIGHTS.mask(right);
    int end = below ? facts.tree.end(resource) : resource + 1;
    Set<Integer> all = new LinkedHashSet<>();
    for (int r = resource; r < end; r++) {
      IntList own = giving(new Step("", r, need));
      for (int i = 0; i < own.size(); i++) {
        all.add(own.get(i));
      }
    }
    grants.superusers().forEach(all::add);
    IntList giving = new IntList();
    all.forEach(giving::add);
    return giving;
  }

  @Override
  public boolean isOpen(int resource, boolean below) {
    int end = below ? facts.tree.end(resource) : resource + 1;
    boolean open = facts.trustees.hasOpen();
    for (int r = resource; r < end && !open; r++) {
      open = !facts.items[r].known();
    }
    for (int at = facts.tree.parent(resource); at >= 0 && !open; at = facts.tree.parent(at)) {
      open = !facts.items[at].known();
    }
    return open;
  }

  @Override
  public Impact impact(Change change) {
    // A view gives to whoever uses it what its owner has; a trustee may stand for several.
    int everyone = facts.trustees.subject(Trustees.EVERYONE);
    int whom =
        change.fold(
            moved -> facts.asRole.isEmpty() ? moved.member() : everyone,
            own -> everyone,
            Change.OfSubject::subject);
    return new Impact(IntList.of(whom), 0, facts.tree.size());
  }
}
