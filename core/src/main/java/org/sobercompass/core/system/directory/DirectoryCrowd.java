package org.sobercompass.core.system.directory;

import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Rules;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Trustees;

/**
 * Who can do something to one object: for everybody at once, entries are walked once with sets of
 * accounts. Gives for every account what the decider gives. Not thread-safe. O(entries x accounts /
 * 64).
 */
final class DirectoryCrowd {
  private final DirectoryFacts facts;
  private final DirectoryTree tree;
  private final Crowd.Members members;
  private final Map<Integer, BitSet> sure = new HashMap<>();
  private final Map<Integer, BitSet> most = new HashMap<>();

  DirectoryCrowd(DirectoryFacts facts, Crowd.Members members) {
    this.facts = facts;
    this.tree = facts.tree();
    this.members = members;
  }

  /** Whether it asks these who counts as whom; then it knows what was asked before. */
  boolean isOf(Crowd.Members others) {
    return members == others;
  }

  /** Who can if all that is unknown goes against, and in favour of them. */
  private record Sides(BitSet worst, BitSet best) {
    static Sides nobody() {
      return new Sides(new BitSet(), new BitSet());
    }

    void and(Sides other) {
      worst.and(other.worst);
      best.and(other.best);
    }

    void or(Sides other) {
      worst.or(other.worst);
      best.or(other.best);
    }
  }

  /** The answer to a question. */
  Crowd of(Question question) {
    Sides all = null;
    for (int right : question.allOf()) {
      all =
          both(
              all,
              sides(
                  Formula.of(
                      tree,
                      facts.rights().action(right),
                      question.resource(),
                      question.destination())));
    }
    Sides found = all == null ? everybody() : all;
    found.best.andNot(found.worst);
    return new Crowd(found.worst, found.best);
  }

  private Sides sides(Formula formula) {
    if (formula instanceof Formula.All all) {
      Sides out = null;
      for (Formula part : all.parts()) {
        out = both(out, sides(part));
      }
      return out == null ? everybody() : out;
    }
    if (formula instanceof Formula.Any any) {
      Sides out = Sides.nobody();
      any.parts().forEach(part -> out.or(sides(part)));
      return out;
    }
    if (formula instanceof Formula.Known known) {
      return switch (known.verdict()) {
        case YES -> everybody();
        case UNDECIDED -> unknown();
        case NO -> Sides.nobody();
      };
    }
    Formula.Leaf leaf = (Formula.Leaf) formula;
    Optional<Target> target =
        Rules.target(tree.names(), leaf.need(), tree.objectClass(leaf.object()));
    Optional<Descriptor> list = tree.descriptor(leaf.object());
    return target.isEmpty() || list.isEmpty()
        ? unknown()
        : bits(list.get(), target.get(), leaf.object());
  }

  private Sides everybody() {
    return new Sides(
        (BitSet) accounts(Trustees.EVERYONE).clone(),
        (BitSet) candidates(Trustees.EVERYONE).clone());
  }

  private Sides unknown() {
    return new Sides(new BitSet(), (BitSet) candidates(Trustees.EVERYONE).clone());
  }

  private Sides bits(Descriptor list, Target target, int object) {
    Sides out = null;
    for (int left = DsRights.mapped(target.mask()); left != 0; left &= left - 1) {
      out = both(out, bit(list, Integer.lowestOneBit(left), target.types(), object));
    }
    return out == null ? everybody() : out;
  }

  private static Sides both(@Nullable Sides one, Sides other) {
    if (one == null) {
      return other;
    }
    one.and(other);
    return one;
  }

  /** Entry by entry: who is not decided yet and is spoken of is decided now. */
  private Sides bit(Descriptor list, int bit, List<UUID> types, int object) {
    if (list.dacl().isEmpty()) {
      return everybody();
    }
    Walk worst = new Walk();
    Walk best = new Walk();
    boolean ofOwner = bit == DsRights.READ_CONTROL || bit == DsRights.WRITE_DAC;
    boolean ownerRights =
        list.entries().stream()
            .anyMatch(ace -> ace.countsHere() && ace.trustee().equals(WellKnown.OWNER_RIGHTS));
    if (ofOwner && !ownerRights && list.owner().isPresent()) {
      worst.decide(accounts(list.owner().get(), object), true);
      best.decide(candidates(list.owner().get(), object), true);
    }
    for (Ace ace : list.entries()) {
      if (ace.countsHere()) {
        step(ace, bit, types, object, worst, best);
      }
    }
    return new Sides(worst.yes, best.yes);
  }

  private void step(Ace ace, int bit, List<UUID> types, int object, Walk worst, Walk best) {
    boolean part = ace.object().isEmpty() || types.contains(ace.object().get());
    boolean known = part && (DsRights.mapped(ace.mask()) & bit) != 0;
    switch (ace.type().effect()) {
      case ALLOW -> {
        if (known) {
          worst.decide(accounts(ace.trustee(), object), true);
          best.decide(candidates(ace.trustee(), object), true);
        }
      }
      case DENY -> {
        if (known) {
          worst.decide(candidates(ace.trustee(), object), false);
          best.decide(accounts(ace.trustee(), object), false);
        }
      }
      case PERHAPS_ALLOW -> {
        if (known) {
          best.decide(candidates(ace.trustee(), object), true);
        }
      }
      case PERHAPS_DENY -> {
        if (known) {
          worst.decide(candidates(ace.trustee(), object), false);
        }
      }
      case UNKNOWN -> {
        best.decide(candidates(Trustees.EVERYONE), true);
        worst.decide(candidates(Trustees.EVERYONE), false);
      }
      case NONE -> {}
    }
  }

  private BitSet accounts(String sid, int object) {
    return sid.equals(WellKnown.SELF) ? self(object, true) : accounts(facts.trustee(sid));
  }

  private BitSet candidates(String sid, int object) {
    return sid.equals(WellKnown.SELF) ? self(object, false) : candidates(facts.trustee(sid));
  }

  /** The accounts that are, or are members of, what an object is. */
  private BitSet self(int object, boolean surely) {
    int subject = facts.subject(object);
    if (subject >= 0) {
      return surely ? members.surely(subject) : members.atMost(subject);
    }
    int trustee = facts.trustee(tree.sid(object));
    return surely ? accounts(trustee) : candidates(trustee);
  }

  private BitSet accounts(int trustee) {
    return sure.computeIfAbsent(trustee, t -> union(t, true));
  }

  private BitSet candidates(int trustee) {
    if (trustee >= 0 && facts.trustees().isOpen(trustee)) {
      return candidates(Trustees.EVERYONE);
    }
    return members.areCertain()
        ? accounts(trustee)
        : most.computeIfAbsent(trustee, t -> union(t, false));
  }

  private BitSet union(int trustee, boolean surely) {
    if (trustee < 0) {
      return new BitSet();
    }
    IntList subjects = facts.trustees().subjects(trustee);
    BitSet all = new BitSet();
    for (int i = 0; i < subjects.size(); i++) {
      BitSet one = surely ? members.surely(subjects.get(i)) : members.atMost(subjects.get(i));
      if (subjects.size() == 1) {
        return one;
      }
      all.or(one);
    }
    return all;
  }

  /** Who is decided, and who of them with yes. */
  private static final class Walk {
    private final BitSet decided = new BitSet();
    private final BitSet yes = new BitSet();

    void decide(BitSet who, boolean allow) {
      if (allow) {
        BitSet now = (BitSet) who.clone();
        now.andNot(decided);
        yes.or(now);
      }
      decided.or(who);
    }
  }
}
