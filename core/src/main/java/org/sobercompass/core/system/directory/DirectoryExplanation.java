package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Rules;
import org.sobercompass.core.descriptor.AccessCheck;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Proof;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.core.system.Verdict;

/** The entries that a decision rests on. Not thread-safe. */
final class DirectoryExplanation {
  private final DirectoryFacts facts;
  private final DirectoryTree tree;
  private final DirectoryDecider decider;
  private final DirectoryGrants grants;

  DirectoryExplanation(DirectoryFacts facts, DirectoryDecider decider, DirectoryGrants grants) {
    this.facts = facts;
    this.tree = facts.tree();
    this.decider = decider;
    this.grants = grants;
  }

  /**
   * Why one right of a list is given or not.
   *
   * @param gives grants of which each gives it by itself
   * @param stops grants that take it away, or may
   * @param note that the first of what gives is ownership, or that there is no list; else empty
   */
  private record Ground(
      int object, Verdict verdict, List<Integer> gives, List<Integer> stops, String note) {}

  /** The verdict with its proofs. */
  Decision of(DirectoryWho who, Question question, Limits limits) {
    Verdict verdict = decider.decide(who, question);
    if (who.isEmpty()) {
      return Decision.of(verdict);
    }
    int right = question.allOf()[0];
    List<Formula> parts = formulas(question);
    if (verdict == Verdict.YES) {
      List<Set<Integer>> ways = proofs(who, new Formula.All(parts), limits.proofs());
      List<Proof> proofs =
          ways.stream().map(way -> proof(way, right)).limit(limits.proofs()).toList();
      return new Decision(verdict, proofs, List.of(), List.of(), ways.size() > limits.proofs());
    }
    Set<Integer> gives = new LinkedHashSet<>();
    List<Stopped> stopped = new ArrayList<>();
    for (Ground ground : grounds(who, new Formula.All(parts))) {
      gives.addAll(ground.gives);
      for (int give : ground.gives) {
        if (ground.verdict == Verdict.NO && !ground.stops.isEmpty()) {
          OptionalInt by = OptionalInt.of(ground.stops.get(0));
          stopped.add(new Stopped(give, right, Stopped.Reason.DENIED, by));
        }
      }
    }
    List<Integer> unknowns = verdict == Verdict.UNDECIDED ? List.copyOf(gives) : List.of();
    return new Decision(verdict, List.of(), unknowns, List.copyOf(stopped), false);
  }

  private static Proof proof(Set<Integer> way, int right) {
    List<FactRef> present = new ArrayList<>();
    way.forEach(grant -> present.add(new FactRef.GrantFact(grant)));
    return new Proof(way.iterator().next(), right, present, List.of());
  }

  private List<Formula> formulas(Question question) {
    List<Formula> parts = new ArrayList<>();
    for (int right : question.allOf()) {
      parts.add(
          Formula.of(
              tree, facts.rights().action(right), question.resource(), question.destination()));
    }
    return parts;
  }

  /** Sets of grants of which each is enough; the first of them where there are more than some. */
  private List<Set<Integer>> proofs(DirectoryWho who, Formula formula, int most) {
    if (formula instanceof Formula.Any any) {
      List<Set<Integer>> all = new ArrayList<>();
      for (Formula part : any.parts()) {
        if (all.size() <= most && decider.decide(who, part) == Verdict.YES) {
          all.addAll(proofs(who, part, most));
        }
      }
      return all;
    }
    if (formula instanceof Formula.All all) {
      List<Set<Integer>> joined = List.of(Set.of());
      for (Formula part : all.parts()) {
        joined = joined(joined, proofs(who, part, most), most);
      }
      return joined;
    }
    List<Set<Integer>> joined = List.of(Set.of());
    for (Ground ground : grounds(who, formula)) {
      List<Set<Integer>> ways = ground.gives.stream().map(grant -> Set.of(grant)).toList();
      joined = joined(joined, ways, most);
    }
    return joined;
  }

  private static List<Set<Integer>> joined(
      List<Set<Integer>> some, List<Set<Integer>> more, int most) {
    Set<Set<Integer>> all = new LinkedHashSet<>();
    for (Set<Integer> one : some) {
      for (Set<Integer> other : more) {
        if (all.size() <= most) {
          Set<Integer> both = new TreeSet<>(one);
          both.addAll(other);
          all.add(both);
        }
      }
    }
    return List.copyOf(all);
  }

  /** Right by right, in the order in which the formula asks for them. */
  private List<Ground> grounds(DirectoryWho who, Formula formula) {
    List<Ground> found = new ArrayList<>();
    if (formula instanceof Formula.All all) {
      all.parts().forEach(part -> found.addAll(grounds(who, part)));
    } else if (formula instanceof Formula.Any any) {
      any.parts().forEach(part -> found.addAll(grounds(who, part)));
    } else if (formula instanceof Formula.Leaf leaf) {
      leaf(who, leaf, found);
    }
    return found;
  }

  private void leaf(DirectoryWho who, Formula.Leaf leaf, List<Ground> found) {
    int object = leaf.object();
    Optional<Descriptor> list = tree.descriptor(object);
    Optional<Target> target = Rules.target(tree.names(), leaf.need(), tree.objectClass(object));
    if (list.isEmpty() || target.isEmpty()) {
      return;
    }
    for (int left = DsRights.mapped(target.get().mask()); left != 0; left &= left - 1) {
      Target single = new Target(Integer.lowestOneBit(left), target.get().types());
      AccessCheck.Reason reason =
          AccessCheck.explain(list.get(), sid -> who.holds(sid, object), single);
      List<Integer> gives = new ArrayList<>();
      if (reason.noList() || reason.byOwner()) {
        gives.add(grants.ownership(object));
      }
      reason.gives().forEach(entry -> gives.add(grants.grant(object, entry)));
      List<Integer> stops =
          reason.stops().map(entry -> List.of(grants.grant(object, entry))).orElse(List.of());
      String note =
          reason.noList() ? "there is no list" : reason.byOwner() ? "it is the owner" : "";
      found.add(new Ground(object, reason.verdict(), gives, stops, note));
    }
  }

  /** What must be passed: all parts of the formula, of each what gives and what stops. */
  List<Layer> layers(DirectoryWho who, Question question) {
    List<Layer> layers = new ArrayList<>();
    formulas(question).forEach(formula -> layers(who, formula, question.resource(), layers));
    return List.copyOf(layers);
  }

  private void layers(DirectoryWho who, Formula formula, int object, List<Layer> into) {
    if (formula instanceof Formula.All all) {
      all.parts().forEach(part -> layers(who, part, object, into));
      return;
    }
    if (formula instanceof Formula.Leaf leaf) {
      List<Ground> grounds = grounds(who, leaf);
      if (!grounds.isEmpty()) {
        grounds.forEach(
            ground -> into.add(layer(who, ground.verdict, ground.object, List.of(ground))));
        return;
      }
    }
    Verdict verdict = decider.decide(who, formula);
    if (formula instanceof Formula.Known known) {
      into.add(
          new Layer("list", object, verdict.and(who.comes()), List.of(), List.of(), known.note()));
      return;
    }
    into.add(layer(who, verdict, object, grounds(who, formula)));
  }

  private Layer layer(DirectoryWho who, Verdict verdict, int object, List<Ground> grounds) {
    List<Integer> gives = new ArrayList<>();
    List<Integer> stops = new ArrayList<>();
    String note = "";
    for (Ground ground : grounds) {
      gives.addAll(ground.gives);
      stops.addAll(ground.stops);
      note = note.isEmpty() ? ground.note : note;
    }
    return new Layer("list", object, verdict.and(who.comes()), gives, stops, note);
  }
}
