package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.OptionalInt;
import java.util.Set;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Proof;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.files.FileList.Reason;
import org.sobercompass.core.system.files.FileNeeds.Check;
import org.sobercompass.core.system.files.FileNeeds.Need;

/** Explains one right on one path: layers, proofs that join them, and what stops it. */
final class FileExplanation {
  private final FileFacts facts;
  private final FileGrants grants;
  private final Who who;
  private final int resource;
  private final int right;
  private final List<Need> needs;

  FileExplanation(FileFacts facts, FileGrants grants, Who who, int resource, int right) {
    this.facts = facts;
    this.grants = grants;
    this.who = who;
    this.resource = resource;
    this.right = right;
    this.needs = new FileNeeds(facts).of(resource, right);
  }

  /** The layers in order. */
  List<Layer> layers() {
    List<Layer> layers = new ArrayList<>();
    for (Need need : needs) {
      List<Integer> gives = new ArrayList<>();
      List<Integer> stops = new ArrayList<>();
      for (Check check : need.anyOf()) {
        gives.addAll(givers(check));
        stops.addAll(stoppers(check));
      }
      boolean unread = need.anyOf().stream().anyMatch(c -> c.list() < 0);
      layers.add(
          new Layer(
              need.name(),
              need.resource(),
              verdict(need),
              gives,
              stops,
              unread ? "its list was not read" : ""));
    }
    return List.copyOf(layers);
  }

  private Verdict verdict(Need need) {
    Verdict best = Verdict.NO;
    for (Check check : need.anyOf()) {
      Verdict own = verdict(check);
      best = own.ordinal() > best.ordinal() ? own : best;
    }
    return best;
  }

  private Verdict verdict(Check check) {
    if (passes(check, false)) {
      return Verdict.YES;
    }
    return passes(check, true) ? Verdict.UNDECIDED : Verdict.NO;
  }

  private boolean passes(Check check, boolean favourable) {
    FileMasks masks = FileMasks.once(facts, who);
    long mask =
        check.share() >= 0
            ? masks.share(facts.shares.get(check.share()), favourable)
            : masks.own(check.resource(), favourable);
    return (mask & check.need()) == check.need();
  }

  private boolean isSuperuser() {
    return facts.superuser >= 0 && who.surely(facts.superuser);
  }

  private List<Integer> givers(Check check) {
    if (isSuperuser()) {
      return passes(check, false) ? List.of(grants.superuserGrant()) : List.of();
    }
    return numbers(check, true);
  }

  private List<Integer> stoppers(Check check) {
    return isSuperuser() ? List.of() : numbers(check, false);
  }

  private List<Integer> numbers(Check check, boolean giving) {
    if (check.list() < 0) {
      return List.of();
    }
    Reason reason = reason(check);
    List<Integer> numbers = new ArrayList<>();
    for (int entry : giving ? reason.gives() : reason.stops()) {
      numbers.add(number(check, entry));
    }
    return numbers;
  }

  private Reason reason(Check check) {
    return facts.lists[check.list()].reason(who, check.need(), facts.isFolder(check.resource()));
  }

  private int number(Check check, int entry) {
    return check.share() >= 0 && entry > 0
        ? grants.shareGrant(check.share(), entry)
        : grants.grant(check.resource(), entry);
  }

  /** The whole decision. */
  Decision decision(Verdict verdict, Limits limits) {
    List<Proof> proofs = new ArrayList<>();
    List<Stopped> stopped = new ArrayList<>();
    if (verdict == Verdict.YES) {
      prove(proofs);
    } else {
      stop(stopped);
    }
    boolean more = proofs.size() > limits.proofs() || stopped.size() > limits.proofs();
    return new Decision(
        verdict,
        List.copyOf(proofs.subList(0, Math.min(limits.proofs(), proofs.size()))),
        unknowns(verdict),
        List.copyOf(stopped.subList(0, Math.min(limits.proofs(), stopped.size()))),
        more);
  }

  /** Entries that may give what is undecided. */
  private List<Integer> unknowns(Verdict verdict) {
    Set<Integer> unknown = new LinkedHashSet<>();
    for (Need need : verdict == Verdict.UNDECIDED ? needs : List.<Need>of()) {
      if (verdict(need) == Verdict.UNDECIDED) {
        need.anyOf().forEach(check -> unknown.addAll(givers(check)));
      }
    }
    return List.copyOf(unknown);
  }

  /**
   * One proof for each way through the last layer, joined with the first way through each of the
   * others, and one for each further way through another layer.
   */
  private void prove(List<Proof> proofs) {
    List<List<Set<Integer>>> ways = new ArrayList<>();
    for (Need need : needs) {
      ways.add(ways(need));
    }
    int last = ways.size() - 1;
    for (int layer = 0; layer < last; layer++) {
      if (needs.get(layer).name().equals(FileNeeds.ATTRIBUTES)) {
        ways.set(layer, List.of(least(ways.get(layer), ways.get(last))));
      }
    }
    Set<Set<Integer>> seen = new LinkedHashSet<>();
    for (int layer = last; layer >= 0; layer--) {
      for (Set<Integer> way : ways.get(layer)) {
        Set<Integer> all = new LinkedHashSet<>();
        for (int other = 0; other <= last; other++) {
          all.addAll(other == layer ? way : ways.get(other).get(0));
        }
        if (seen.add(all)) {
          proofs.add(proof(all, ways.get(last).contains(way) ? way : ways.get(last).get(0)));
        }
      }
    }
  }

  /**
   * Attributes are no right anybody looks for: one way, without anything else if that is enough.
   */
  private static Set<Integer> least(List<Set<Integer>> ways, List<Set<Integer>> others) {
    for (Set<Integer> way : ways) {
      if (others.stream().anyMatch(other -> other.containsAll(way))) {
        return Set.of();
      }
    }
    return ways.get(0);
  }

  private Proof proof(Set<Integer> all, Set<Integer> main) {
    int grant = main.iterator().next();
    List<FactRef> present = new ArrayList<>();
    all.forEach(g -> present.add(new FactRef.GrantFact(g)));
    return new Proof(grant, right, present, List.of(new FactRef.NoDenyFact(resource, right)));
  }

  /** The sets of grants by which one layer is passed. */
  private List<Set<Integer>> ways(Need need) {
    List<Set<Integer>> ways = new ArrayList<>();
    for (Check check : need.anyOf()) {
      if (!passes(check, false)) {
        continue;
      }
      if (isSuperuser() || check.list() < 0) {
        ways.add(isSuperuser() ? Set.of(grants.superuserGrant()) : Set.of());
        continue;
      }
      FileList list = facts.lists[check.list()];
      List<Integer> gives = reason(check).gives();
      for (int first : gives) {
        Set<Integer> way = new LinkedHashSet<>();
        long left = check.need();
        left = take(list, check, first, left, way);
        for (int next : gives) {
          left = take(list, check, next, left, way);
        }
        if (left == 0 && ways.stream().noneMatch(way::containsAll)) {
          ways.removeIf(other -> other.containsAll(way));
          ways.add(way);
        }
      }
    }
    return ways.isEmpty() ? List.of(Set.of()) : ways;
  }

  private long take(FileList list, Check check, int entry, long left, Set<Integer> way) {
    long part = list.part(entry, check.need()) & left;
    if (part != 0) {
      way.add(number(check, entry));
    }
    return left & ~part;
  }

  /** What the last layer would give, and the entry of the layer that does not let it through. */
  private void stop(List<Stopped> stopped) {
    OptionalInt limit = OptionalInt.empty();
    for (Need need : needs) {
      if (limit.isEmpty() && verdict(need) != Verdict.YES) {
        limit = limit(need);
      }
    }
    Set<Integer> seen = new LinkedHashSet<>();
    Need last = needs.get(needs.size() - 1);
    for (Need need : needs) {
      boolean shown = need == last || need.resource() == resource && verdict(need) == Verdict.NO;
      for (Check check : shown ? need.anyOf() : List.<Check>of()) {
        boolean denied = verdict(need) == Verdict.NO && !stoppers(check).isEmpty();
        for (int grant : givers(check)) {
          if (seen.add(grant)) {
            Stopped.Reason why = denied ? Stopped.Reason.DENIED : Stopped.Reason.ANOTHER_LAYER;
            stopped.add(new Stopped(grant, right, why, limit));
          }
        }
      }
    }
  }

  /** The entry by which a layer lets less through than was asked. */
  private OptionalInt limit(Need need) {
    for (Check check : need.anyOf()) {
      List<Integer> stops = stoppers(check);
      List<Integer> less = stops.isEmpty() ? givers(check) : stops;
      if (!less.isEmpty()) {
        return OptionalInt.of(less.get(0));
      }
    }
    return OptionalInt.empty();
  }
}
