package org.sobercompass.core.access;

import static org.sobercompass.core.access.TrusteeIndex.PLACE;

import java.util.BitSet;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.membership.SummedBits;
import org.sobercompass.core.store.BlockSum;
import org.sobercompass.core.system.GrantBits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Token;

/** Hands each subject of an account only to the systems that name it. Not thread-safe. */
final class Sweeper {
  private final AccessModel model;
  private final TrusteeIndex index;
  private final SystemView[] views;
  private final Asker asker;

  Sweeper(Asker asker) {
    this.model = asker.model();
    this.index = model.trustees();
    views = model.systems().toArray(SystemView[]::new);
    this.asker = asker;
  }

  /** The subjects of each account, system by system. */
  void route(Bulk.Range range, Bulk.SubjectVisitor visitor) {
    NamedSubjects subjects = asker.named();
    for (int account = range.from(); account < range.to(); account++) {
      BitSet named = subjects.systems(account);
      for (int system = named.nextSetBit(0); system >= 0; system = named.nextSetBit(system + 1)) {
        SubjectSet own = subjects.of(views[system], account);
        if (!own.sure().isEmpty() || !own.perhaps().isEmpty()) {
          visitor.visit(account, views[system], own);
        }
      }
      visitor.done(account);
    }
  }

  /** What each account holds, system by system. */
  void cells(Bulk.Range range, BitSet systems, Bulk.Cells out) {
    TrusteeIndex.Sums sums = index.sums();
    BlockSum sum = new BlockSum(sums.start);
    Summed summed = new Summed(views, systems, sums, sum, out);
    BitSet unsummed = (BitSet) sums.others.clone();
    unsummed.and(systems);
    NamedSubjects others = new NamedSubjects(asker, index.systems, unsummed);
    for (int account = range.from(); account < range.to(); account++) {
      add(account, sums, sum);
      int count = sum.touched();
      if (unsummed.isEmpty()) {
        summed.run(account, 0, count);
        continue;
      }
      BitSet named = others.systems(account);
      int at = 0;
      for (int other = named.nextSetBit(0); other >= 0; other = named.nextSetBit(other + 1)) {
        int before = at;
        while (at < count && sums.places[sum.list()[at] * PLACE] < other) {
          at++;
        }
        summed.run(account, before, at);
        project(account, views[other], others.of(views[other], account), out);
      }
      summed.run(account, at, count);
    }
  }

  /** Tells cells from a sum, and empties it. */
  private static final class Summed {
    private final SystemView[] views;
    private final BitSet systems;
    private final TrusteeIndex.Sums sums;
    private final BlockSum sum;
    private final long[] bits;
    private final Bulk.Cells out;
    private final GrantBits.Sweep[] sweeps;
    private long[] yes = new long[1];
    private long[] none = new long[1];

    Summed(
        SystemView[] views, BitSet systems, TrusteeIndex.Sums sums, BlockSum sum, Bulk.Cells out) {
      this.views = views;
      this.systems = systems;
      this.sums = sums;
      this.sum = sum;
      this.bits = sum.bits();
      this.out = out;
      this.sweeps = new GrantBits.Sweep[views.length];
    }

    void run(int account, int from, int to) {
      int[] list = sum.list();
      int[] places = sums.places;
      int last = -1;
      for (int at = from; at < to; at++) {
        int place = list[at] * PLACE;
        int system = places[place];
        if (!systems.get(system)) {
          sum.empty(at, at + 1);
          continue;
        }
        if (system != last) {
          out.at(account, views[system]);
          last = system;
        }
        if (places[place + 1] >= 0) {
          plain(places[place + 1], places[place + 2], places[place + 3]);
        } else {
          int first = at;
          while (at + 1 < to && places[list[at + 1] * PLACE] == system) {
            at++;
          }
          sweep(system, first, at + 1);
        }
      }
    }

    private void plain(int resource, int first, int words) {
      if (yes.length != words) {
        yes = new long[words];
        none = new long[words];
      }
      long[] yes = this.yes;
      yes[0] = bits[first];
      bits[first] = 0;
      if (words > 1) {
        yes[1] = bits[first + 1];
        bits[first + 1] = 0;
        for (int w = 2; w < words; w++) {
          yes[w] = bits[first + w];
          bits[first + w] = 0;
        }
      }
      out.cell(resource, false, 1, yes, none);
    }

    private void sweep(int system, int from, int to) {
      GrantBits.Sweep sweep = sweeps[system];
      if (sweep == null) {
        sweep = java.util.Objects.requireNonNull(sums.bits[system]).sweep();
        sweeps[system] = sweep;
      }
      int base = sums.base[system];
      sweep.run(bits, sums.start[base], sum.list(), from, to, base, out);
      sum.empty(from, to);
    }
  }

  private void add(int account, TrusteeIndex.Sums sums, BlockSum sum) {
    Facts facts = model.facts();
    for (SummedBits ofContext : sums.ofContext) {
      if (ofContext != null && ofContext.add(account, sum)) {
        for (var always : TrusteeIndex.ALWAYS) {
          ofContext.addSubject(facts.implicit(always), sum);
        }
      }
    }
  }

  private void project(int account, SystemView view, SubjectSet own, Bulk.Cells out) {
    Projected who = view.decider().project(new Token(account, own, model.asOf().getEpochSecond()));
    if (!who.isEmpty()) {
      out.at(account, view);
      view.decider().sweep(who, out);
    }
  }
}
