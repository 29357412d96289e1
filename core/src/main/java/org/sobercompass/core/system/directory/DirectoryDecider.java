package org.sobercompass.core.system.directory;

import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Rules;
import org.sobercompass.core.descriptor.AccessCheck;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.Impact;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Verdict;

/** Decides admin actions by the lists of a directory's objects. Thread-safe. */
final class DirectoryDecider implements Decider {
  private final DirectoryFacts facts;
  private final DirectoryTree tree;
  private final DirectoryGrants grants;
  private volatile @Nullable DirectoryCrowd crowd;

  DirectoryDecider(DirectoryFacts facts, DirectoryGrants grants) {
    this.facts = facts;
    this.tree = facts.tree();
    this.grants = grants;
  }

  @Override
  public Projected project(Token token) {
    return new DirectoryWho(token, facts);
  }

  private Formula formula(Question question, int right) {
    return Formula.of(
        tree, facts.rights().action(right), question.resource(), question.destination());
  }

  @Override
  public Verdict decide(Projected who, Question question) {
    DirectoryWho one = (DirectoryWho) who;
    Verdict verdict = one.comes();
    for (int right : question.allOf()) {
      if (verdict != Verdict.NO) {
        verdict = verdict.and(decide(one, formula(question, right)));
      }
    }
    return verdict;
  }

  /** Whether he may, if he comes at all. */
  Verdict decide(DirectoryWho who, Formula formula) {
    if (formula instanceof Formula.All all) {
      Verdict verdict = Verdict.YES;
      for (Formula part : all.parts()) {
        verdict = verdict.and(decide(who, part));
      }
      return verdict;
    }
    if (formula instanceof Formula.Any any) {
      Verdict verdict = Verdict.NO;
      for (Formula part : any.parts()) {
        verdict = verdict == Verdict.YES ? verdict : verdict.or(decide(who, part));
      }
      return verdict;
    }
    return formula instanceof Formula.Known known
        ? known.verdict()
        : leaf(who, (Formula.Leaf) formula);
  }

  private Verdict leaf(DirectoryWho who, Formula.Leaf leaf) {
    int object = leaf.object();
    int number = tree.descriptorNumber(object);
    if (number == DirectoryTree.UNREADABLE) {
      return Verdict.UNDECIDED;
    }
    DirectoryWho.Key key =
        new DirectoryWho.Key(leaf.need(), number, tree.kind(object), who.self(object));
    Verdict known = who.known().get(key);
    if (known == null) {
      known =
          Rules.target(tree.names(), leaf.need(), tree.objectClass(object))
              .map(
                  target ->
                      AccessCheck.decide(
                          tree.descriptorOf(number), sid -> who.holds(sid, object), target))
              .orElse(Verdict.UNDECIDED);
      who.known().put(key, known);
    }
    return known;
  }

  /** A cell for each object on which he may anything; those of the catalogue. O(objects). */
  @Override
  public void sweep(Projected who, GrantSink out) {
    int words = facts.rights().words();
    for (int object = 0; object < tree.size() && !who.isEmpty(); object++) {
      long[] yes = new long[words];
      long[] perhaps = new long[words];
      boolean any = false;
      for (int right = 0; right < facts.rights().size(); right++) {
        Verdict verdict = decide(who, Question.of(object, right));
        any |= verdict != Verdict.NO;
        yes[right >> 6] |= verdict == Verdict.YES ? 1L << right : 0;
        perhaps[right >> 6] |= verdict == Verdict.UNDECIDED ? 1L << right : 0;
      }
      if (any) {
        out.cell(object, false, 1, yes, perhaps);
      }
    }
  }

  @Override
  public Decision explain(Token token, Question question, Limits limits) {
    return new DirectoryExplanation(facts, this, grants)
        .of((DirectoryWho) project(token), question, limits);
  }

  @Override
  public List<Layer> layers(Token token, Question question) {
    return new DirectoryExplanation(facts, this, grants)
        .layers((DirectoryWho) project(token), question);
  }

  @Override
  public Optional<Crowd> crowd(Question question, Crowd.Members members, long asOf) {
    DirectoryCrowd kept = crowd;
    if (kept == null || !kept.isOf(members)) {
      kept = new DirectoryCrowd(facts, members);
      crowd = kept;
    }
    return Optional.of(kept.of(question));
  }

  @Override
  public IntList trustees() {
    return facts.trustees().named();
  }

  /** O(objects): lists are shared, but each object has grants of its own. */
  @Override
  public IntList grantsOf(Token token) {
    DirectoryWho who = (DirectoryWho) project(token);
    IntList all = new IntList();
    for (int object = 0; object < tree.size(); object++) {
      Optional<Descriptor> list = tree.descriptor(object);
      int here = object;
      boolean owns =
          list.isPresent()
              && (list.get().dacl().isEmpty()
                  || list.get().owner().filter(o -> who.holds(o, here) == Verdict.YES).isPresent());
      if (owns) {
        all.add(grants.ownership(object));
      }
      List<Ace> entries = list.map(Descriptor::entries).orElse(List.of());
      for (int e = 0; e < entries.size(); e++) {
        if (who.holds(entries.get(e).trustee(), object) == Verdict.YES) {
          all.add(grants.grant(object, e));
        }
      }
    }
    return all;
  }

  @Override
  public IntList giving(int resource, int right, boolean below) {
    IntList giving = new IntList();
    BitSet told = new BitSet();
    int end = below ? tree.end(resource) : resource + 1;
    for (int object = resource; object < end; object++) {
      giving(formula(Question.of(object, right), right), told);
    }
    told.stream().forEach(giving::add);
    return giving;
  }

  private void giving(Formula formula, BitSet into) {
    if (formula instanceof Formula.All all) {
      all.parts().forEach(part -> giving(part, into));
    } else if (formula instanceof Formula.Any any) {
      any.parts().forEach(part -> giving(part, into));
    } else if (formula instanceof Formula.Leaf leaf && tree.descriptor(leaf.object()).isPresent()) {
      Descriptor list = tree.descriptor(leaf.object()).get();
      Optional<Target> target =
          Rules.target(tree.names(), leaf.need(), tree.objectClass(leaf.object()));
      int mask = target.map(t -> DsRights.mapped(t.mask())).orElse(0);
      if (list.dacl().isEmpty() || (mask & (DsRights.READ_CONTROL | DsRights.WRITE_DAC)) != 0) {
        into.set(grants.ownership(leaf.object()));
      }
      for (int e = 0; e < list.entries().size() && target.isPresent(); e++) {
        if (AccessCheck.mayGive(list.entries().get(e), target.get())) {
          into.set(grants.grant(leaf.object(), e));
        }
      }
    }
  }

  /**
   * Lists that were not read, or that name somebody of whom nothing is known, are everywhere; who
   * may act on an object is asked of all at once.
   */
  @Override
  public boolean isOpen(int resource, boolean below) {
    return true;
  }

  @Override
  public Impact impact(Change change) {
    return change.fold(
        moved -> new Impact(IntList.of(moved.member()), 0, tree.size()),
        own ->
            own.byKind(
                added -> Impact.NONE,
                removed -> {
                  int object = tree.objectOfEntry(removed.grant());
                  int everyone = facts.trustees().subject(Trustees.EVERYONE);
                  return new Impact(IntList.of(everyone), object, tree.end(object));
                },
                otherwise -> Impact.NONE),
        self -> new Impact(IntList.of(self.subject()), 0, tree.size()));
  }
}
