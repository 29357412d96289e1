package org.sobercompass.core.descriptor;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Predicate;
import org.sobercompass.core.system.Verdict;

/**
 * The access check ([MS-DTYP] 2.5.3.2, [MS-ADTS] 5.1.3.3): entry by entry in the order as stored;
 * of each right asked, the first entry that speaks of it decides. Thread-safe; O(entries).
 */
public final class AccessCheck {
  private AccessCheck() {}

  /** Decides for whoever holds the trustees that {@code who} says yes to. */
  public static Verdict decide(Descriptor descriptor, Predicate<String> who, Target target) {
    int asked = DsRights.mapped(target.mask());
    Verdict verdict = Verdict.YES;
    for (int left = asked; left != 0 && verdict != Verdict.NO; left &= left - 1) {
      int bit = Integer.lowestOneBit(left);
      verdict = verdict.and(one(descriptor, who, bit, target.types()));
    }
    return verdict;
  }

  private static Verdict one(
      Descriptor descriptor, Predicate<String> who, int bit, List<UUID> types) {
    if (descriptor.dacl().isEmpty() || byOwner(descriptor, who, bit)) {
      return Verdict.YES;
    }
    boolean mayAllow = false;
    boolean mayDeny = false;
    for (Ace ace : descriptor.entries()) {
      if (speaksOf(ace, who, bit, types)) {
        switch (ace.type().effect()) {
          case ALLOW -> {
            return mayDeny ? Verdict.UNDECIDED : Verdict.YES;
          }
          case DENY -> {
            return mayAllow ? Verdict.UNDECIDED : Verdict.NO;
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

  /** Whether an entry is about this trustee, this right and this part. */
  static boolean speaksOf(Ace ace, Predicate<String> who, int bit, List<UUID> types) {
    if (!ace.countsHere()) {
      return false;
    }
    if (ace.type() == AceType.UNKNOWN) {
      return true;
    }
    boolean part = ace.object().isEmpty() || types.contains(ace.object().get());
    return part && (DsRights.mapped(ace.mask()) & bit) != 0 && who.test(ace.trustee());
  }

  /**
   * The owner reads and changes permissions, unless an entry says what owners may ([MS-DTYP]
   * 2.5.3.2).
   */
  private static boolean byOwner(Descriptor descriptor, Predicate<String> who, int bit) {
    boolean ofOwner = bit == DsRights.READ_CONTROL || bit == DsRights.WRITE_DAC;
    return ofOwner
        && descriptor.owner().filter(who).isPresent()
        && descriptor.entries().stream()
            .noneMatch(ace -> ace.countsHere() && ace.trustee().equals(WellKnown.OWNER_RIGHTS));
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
  public static Reason explain(Descriptor descriptor, Predicate<String> who, Target target) {
    int bit = DsRights.mapped(target.mask());
    List<Integer> gives = new ArrayList<>();
    Optional<Integer> stops = Optional.empty();
    boolean certain = true;
    for (int i = 0; i < descriptor.entries().size() && certain; i++) {
      Ace ace = descriptor.entries().get(i);
      if (speaksOf(ace, who, bit, target.types())) {
        switch (ace.type().effect()) {
          case ALLOW, PERHAPS_ALLOW -> gives.add(i);
          case DENY -> {
            stops = stops.or(constant(i));
            certain = false;
          }
          case PERHAPS_DENY, UNKNOWN -> stops = stops.or(constant(i));
          case NONE -> {}
        }
      }
    }
    return new Reason(
        decide(descriptor, who, target),
        byOwner(descriptor, who, bit),
        descriptor.dacl().isEmpty(),
        List.copyOf(gives),
        stops);
  }

  private static java.util.function.Supplier<Optional<Integer>> constant(int number) {
    return () -> Optional.of(number);
  }
}
