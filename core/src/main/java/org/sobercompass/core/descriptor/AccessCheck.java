package org.sobercompass.core.descriptor;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.system.Verdict;

/**
 * The access check ([MS-DTYP] 2.5.3.2, [MS-ADTS] 5.1.3.3): entry by entry in the order as stored;
 * of each right asked, the first entry that speaks of it decides. Thread-safe; O(entries).
 */
public final class AccessCheck {
  private AccessCheck() {}

  /**
   * As whom somebody counts: for the SID of a trustee YES, NO, or UNDECIDED where it is not known.
   */
  @FunctionalInterface
  public interface Counts {
    /** Whether he counts as a trustee. */
    Verdict as(String sid);

    /** Somebody of whom all is known. */
    static Counts surely(java.util.function.Predicate<String> who) {
      return sid -> who.test(sid) ? Verdict.YES : Verdict.NO;
    }
  }

  /** Decides for somebody. */
  public static Verdict decide(Descriptor descriptor, Counts who, Target target) {
    int asked = DsRights.mapped(target.mask());
    Verdict verdict = Verdict.YES;
    for (int left = asked; left != 0 && verdict != Verdict.NO; left &= left - 1) {
      int bit = Integer.lowestOneBit(left);
      verdict = verdict.and(one(descriptor, who, bit, target.types()));
    }
    return verdict;
  }

  private static Verdict one(Descriptor descriptor, Counts who, int bit, List<UUID> types) {
    Verdict owner = byOwner(descriptor, who, bit);
    if (descriptor.dacl().isEmpty() || owner == Verdict.YES) {
      return Verdict.YES;
    }
    boolean mayAllow = owner == Verdict.UNDECIDED;
    boolean mayDeny = false;
    for (Ace ace : descriptor.entries()) {
      Verdict spoken = speaksOf(ace, who, bit, types);
      if (spoken != Verdict.NO) {
        switch (ace.type().effect()) {
          case ALLOW -> {
            if (spoken == Verdict.YES) {
              return mayDeny ? Verdict.UNDECIDED : Verdict.YES;
            }
            mayAllow = true;
          }
          case DENY -> {
            if (spoken == Verdict.YES) {
              return mayAllow ? Verdict.UNDECIDED : Verdict.NO;
            }
            mayDeny = true;
          }
          case PERHAPS_ALLOW -> mayAllow = true;
          case PERHAPS_DENY -> mayDeny = true;
          case UNKNOWN -> {
            mayAllow = true;
            mayDeny = true;
          }
          case NONE -> {}
        }
      }
    }
    return mayAllow ? Verdict.UNDECIDED : Verdict.NO;
  }

  /** Whether an entry may give something of what is asked to those it names. */
  public static boolean mayGive(Ace ace, Target target) {
    boolean part = ace.object().isEmpty() || target.types().contains(ace.object().get());
    boolean known = part && (DsRights.mapped(ace.mask()) & DsRights.mapped(target.mask())) != 0;
    return ace.countsHere() && ((known && ace.allows()) || ace.type() == AceType.UNKNOWN);
  }

  /** Whether an entry is about this trustee, this right and this part. */
  static Verdict speaksOf(Ace ace, Counts who, int bit, List<UUID> types) {
    if (!ace.countsHere()) {
      return Verdict.NO;
    }
    if (ace.type() == AceType.UNKNOWN) {
      return Verdict.YES;
    }
    boolean part = ace.object().isEmpty() || types.contains(ace.object().get());
    return part && (DsRights.mapped(ace.mask()) & bit) != 0 ? who.as(ace.trustee()) : Verdict.NO;
  }

  /**
   * The owner reads and changes permissions, unless an entry says what owners may ([MS-DTYP]
   * 2.5.3.2).
   */
  private static Verdict byOwner(Descriptor descriptor, Counts who, int bit) {
    boolean ofOwner = bit == DsRights.READ_CONTROL || bit == DsRights.WRITE_DAC;
    return ofOwner
            && descriptor.entries().stream()
                .noneMatch(ace -> ace.countsHere() && ace.trustee().equals(WellKnown.OWNER_RIGHTS))
        ? descriptor.owner().map(who::as).orElse(Verdict.NO)
        : Verdict.NO;
  }

  /**
   * Why one right is given or not.
   *
   * @param verdict the answer
   * @param byOwner whether it is given because the account owns the object
   * @param noList whether it is given because there is no list
   * @param gives the entries that give it, each enough by itself as things stand
   * @param stops the entry that takes it away, or that may
   */
  public record Reason(
      Verdict verdict,
      boolean byOwner,
      boolean noList,
      List<Integer> gives,
      Optional<Integer> stops) {}

  /** The same as {@link #decide} for one right, with the entries that matter. */
  public static Reason explain(Descriptor descriptor, Counts who, Target target) {
    int bit = DsRights.mapped(target.mask());
    List<Integer> gives = new ArrayList<>();
    Optional<Integer> stops = Optional.empty();
    boolean certain = true;
    for (int i = 0; i < descriptor.entries().size() && certain; i++) {
      Ace ace = descriptor.entries().get(i);
      Verdict spoken = speaksOf(ace, who, bit, target.types());
      if (spoken != Verdict.NO) {
        switch (ace.type().effect()) {
          case ALLOW, PERHAPS_ALLOW -> gives.add(i);
          case DENY -> {
            stops = stops.or(constant(i));
            certain = spoken != Verdict.YES;
          }
          case PERHAPS_DENY, UNKNOWN -> stops = stops.or(constant(i));
          case NONE -> {}
        }
      }
    }
    return new Reason(
        decide(descriptor, who, target),
        byOwner(descriptor, who, bit) == Verdict.YES,
        descriptor.dacl().isEmpty(),
        List.copyOf(gives),
        stops);
  }

  private static java.util.function.Supplier<Optional<Integer>> constant(int number) {
    return () -> Optional.of(number);
  }
}
