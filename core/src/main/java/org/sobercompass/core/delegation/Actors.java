package org.sobercompass.core.delegation;

import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.descriptor.WellKnown;

/**
 * Who can do something to one object: for everybody at once, entries are walked once with sets of
 * accounts. Gives for every account what {@link ActionCheck} gives. Thread-safe. O(entries x
 * accounts / 64).
 */
public final class Actors {
  private final DirectoryTree tree;
  private final Tokens tokens;

  /** In one directory. */
  public Actors(DirectoryTree tree, Tokens tokens) {
    this.tree = tree;
    this.tokens = tokens;
  }

  /**
   * Accounts by answer; the others cannot.
   *
   * @param yes who surely can
   * @param perhaps of whom it is not known
   */
  public record Answer(BitSet yes, BitSet perhaps) {}

  /** Who meets a need on an object. */
  public Answer who(Requirement need, int object, int destination) {
    Sides sides = sides(need, object, destination, tree.objectClass(object));
    BitSet perhaps = (BitSet) sides.best.clone();
    perhaps.andNot(sides.worst);
    return new Answer(sides.worst, perhaps);
  }

  /** Who can if all that is unknown goes against, and in favour of them. */
  private record Sides(BitSet worst, BitSet best) {
    static Sides nobody() {
      return new Sides(new BitSet(), new BitSet());
    }
  }

  private Sides sides(Requirement need, int object, int destination, String childClass) {
    if (need instanceof Requirement.All all) {
      return all(all.parts(), object, destination, childClass);
    }
    if (need instanceof Requirement.Any any) {
      Sides out = Sides.nobody();
      for (Requirement part : any.parts()) {
        Sides one = sides(part, object, destination, childClass);
        out.worst.or(one.worst);
        out.best.or(one.best);
      }
      return out;
    }
    if (need instanceof Requirement.At at) {
      int other = at.where() == Requirement.Where.PARENT ? tree.parent(object) : destination;
      if (other < 0) {
        return at.where() == Requirement.Where.PARENT ? Sides.nobody() : unknown();
      }
      return sides(at.need(), other, destination, childClass);
    }
    if (need instanceof Requirement.Confidential) {
      return confidential(object);
    }
    if (!Rules.never(tree.names(), need).isEmpty()) {
      return Sides.nobody();
    }
    Requirement resolved = Rules.ofClass(need, childClass);
    Optional<Target> target = Rules.target(tree.names(), resolved, tree.objectClass(object));
    Optional<Descriptor> descriptor = tree.descriptor(object);
    return target.isEmpty() || descriptor.isEmpty()
        ? unknown()
        : bits(descriptor.get(), target.get(), object);
  }

  private Sides all(List<Requirement> parts, int object, int destination, String childClass) {
    Sides out = new Sides(everybody(), everybody());
    for (Requirement part : parts) {
      Sides one = sides(part, object, destination, childClass);
      out.worst.and(one.worst);
      out.best.and(one.best);
    }
    return out;
  }

  private Sides unknown() {
    return new Sides(new BitSet(), everybody());
  }

  private BitSet everybody() {
    return (BitSet) tokens.accounts(WellKnown.EVERYONE).clone();
  }

  private Sides confidential(int object) {
    Sides out = Sides.nobody();
    for (DsNames.AttributeType attribute : tree.names().attributes()) {
      if (attribute.confidential()) {
        Requirement both =
            new Requirement.Attribute(
                DsRights.READ_PROPERTY | DsRights.CONTROL_ACCESS, attribute.name());
        Sides one = sides(both, object, -1, "");
        out.worst.or(one.worst);
        out.best.or(one.best);
      }
    }
    return out;
  }

  private Sides bits(Descriptor descriptor, Target target, int object) {
    Sides out = new Sides(everybody(), everybody());
    for (int left = DsRights.mapped(target.mask()); left != 0; left &= left - 1) {
      Sides one = bit(descriptor, Integer.lowestOneBit(left), target.types(), object);
      out.worst.and(one.worst);
      out.best.and(one.best);
    }
    return out;
  }

  /** Entry by entry: who is not decided yet and is spoken of is decided now. */
  private Sides bit(Descriptor descriptor, int bit, List<UUID> types, int object) {
    if (descriptor.dacl().isEmpty()) {
      return new Sides(everybody(), everybody());
    }
    Walk worst = new Walk();
    Walk best = new Walk();
    boolean ofOwner = bit == DsRights.READ_CONTROL || bit == DsRights.WRITE_DAC;
    boolean ownerRights =
        descriptor.entries().stream()
            .anyMatch(ace -> ace.countsHere() && ace.trustee().equals(WellKnown.OWNER_RIGHTS));
    if (ofOwner && !ownerRights && descriptor.owner().isPresent()) {
      worst.decide(accounts(descriptor.owner().get(), object), true);
      best.decide(candidates(descriptor.owner().get(), object), true);
    }
    for (Ace ace : descriptor.entries()) {
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
        best.decide(tokens.accounts(WellKnown.EVERYONE), true);
        worst.decide(tokens.accounts(WellKnown.EVERYONE), false);
      }
      case NONE -> {}
    }
  }

  private BitSet accounts(String sid, int object) {
    return tokens.accounts(sid.equals(WellKnown.SELF) ? tree.sid(object) : sid);
  }

  private BitSet candidates(String sid, int object) {
    return tokens.candidates(sid.equals(WellKnown.SELF) ? tree.sid(object) : sid);
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
