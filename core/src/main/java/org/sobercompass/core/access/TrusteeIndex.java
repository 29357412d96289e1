package org.sobercompass.core.access;

import java.util.BitSet;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.membership.SummedBits;
import org.sobercompass.core.store.BlockRows;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.GrantBits;

/**
 * For each subject the systems that name it, for work over all accounts; and, made when first asked
 * for, the grants of all systems as bits summed over groups. Thread-safe.
 */
final class TrusteeIndex {
  /** How many numbers a place has in {@link Sums#places}. */
  static final int PLACE = 4;

  static final Implicit[] ALWAYS = {Implicit.EVERYONE, Implicit.SIGNED_IN, Implicit.MEMBERS};

  final IntRows systems;
  final int contexts;

  /** More words than this are not kept for each thread: 32 MiB. */
  private static final long MOST_WORDS = 1 << 22;

  private final AccessModel model;
  private @Nullable Sums sums;

  TrusteeIndex(AccessModel model) {
    this.model = model;
    IntList subject = new IntList();
    IntList system = new IntList();
    for (SystemView view : model.systems()) {
      IntList trustees = view.decider().trustees();
      for (int i = 0; i < trustees.size(); i++) {
        subject.add(trustees.get(i));
        system.add(view.number());
      }
    }
    systems = IntRows.ofPairs(model.facts().subjects(), subject, system);
    contexts = model.systems().stream().mapToInt(view -> view.context() + 1).max().orElse(0);
  }

  /** Whether a system names an implicit group. */
  boolean namesImplicit(SystemView view) {
    Facts facts = model.facts();
    for (int s = facts.firstGroup() + facts.groups(); s < facts.firstUnit(); s++) {
      if (names(view, s)) {
        return true;
      }
    }
    return false;
  }

  private boolean names(SystemView view, int subject) {
    for (int at = systems.start(subject); at < systems.end(subject); at++) {
      if (systems.at(at) == view.number()) {
        return true;
      }
    }
    return false;
  }

  /** The sums. */
  synchronized Sums sums() {
    if (sums == null) {
      sums = new Sums();
    }
    return sums;
  }

  /** The grants of all systems that have that form, as bits summed over groups. Frozen. */
  final class Sums {
    /** By context; null where it has no sums. */
    final @Nullable SummedBits[] ofContext;

    /** By system; null where it is swept projection by projection. */
    final @Nullable GrantBits[] bits;

    /** The first place of each system, and the number of places as the last. */
    final int[] base;

    /** The first word of each place, and the number of words as the last. */
    final int[] start;

    /**
     * Of each place, side by side: its system, its resource if it is plain or -1, first word,
     * words.
     */
    final int[] places;

    /** The systems that have no sums, ascending. */
    final BitSet others = new BitSet();

    private Sums() {
      int count = model.systems().size();
      ofContext = new SummedBits[contexts];
      bits = new GrantBits[count];
      base = new int[count + 1];
      BitSet[] undecided = new BitSet[contexts];
      long words = 0;
      for (SystemView view : model.systems()) {
        int number = view.number();
        int context = view.context();
        if (undecided[context] == null) {
          undecided[context] = SummedBits.undecided(view.memberships());
        }
        GrantBits own = addsUp(view, undecided[context]) ? fitting(view, words) : null;
        bits[number] = own;
        words += own == null ? 0 : (long) own.places() * own.words();
        base[number + 1] = base[number] + (own == null ? 0 : own.places());
      }
      start = new int[base[count] + 1];
      places = new int[base[count] * PLACE];
      for (SystemView view : model.systems()) {
        place(view.number());
      }
      for (int context = 0; context < contexts; context++) {
        ofContext[context] = sum(context);
      }
      for (SystemView view : model.systems()) {
        if (ofContext[view.context()] == null || bits[view.number()] == null) {
          bits[view.number()] = null;
          others.set(view.number());
        }
      }
    }

    /** The bits of a system that has rights, and not too many for the work space of a thread. */
    private @Nullable GrantBits fitting(SystemView view, long wordsBefore) {
      GrantBits own = view.decider().bits(model.asOf().getEpochSecond()).orElse(null);
      boolean fits =
          own != null
              && own.words() > 0
              && own.words() < BlockRows.WORDS
              && wordsBefore + (long) own.places() * own.words() <= MOST_WORDS;
      return fits ? own : null;
    }

    private void place(int system) {
      GrantBits own = bits[system];
      if (own != null) {
        int[] plain = own.plain();
        for (int place = base[system]; place < base[system + 1]; place++) {
          start[place + 1] = start[place] + own.words();
          places[place * PLACE] = system;
          places[place * PLACE + 1] = plain.length == 0 ? -1 : plain[place - base[system]];
          places[place * PLACE + 2] = start[place];
          places[place * PLACE + 3] = own.words();
        }
      }
    }

    /**
     * Whether what a system says follows from what is sure: nobody comes without signing in,
     * implicit groups are the same for all who come, and no subject is named of which somebody is
     * perhaps one.
     */
    private boolean addsUp(SystemView view, BitSet undecided) {
      Admission admission = view.admission();
      if (admission.isOpen() || admission.namesUnread()) {
        return false;
      }
      int first = undecided.nextSetBit(0);
      boolean anybodyUndecided = first >= 0 && first < model.facts().accounts();
      if ((admission.register().isPresent() || anybodyUndecided) && namesImplicit(view)) {
        return false;
      }
      for (int s = first; s >= 0; s = undecided.nextSetBit(s + 1)) {
        if (names(view, s)) {
          return false;
        }
      }
      return true;
    }

    private @Nullable SummedBits sum(int context) {
      BlockRows own = new BlockRows(model.facts().subjects());
      Optional<SystemView> first = Optional.empty();
      for (int subject = 0; subject < model.facts().subjects(); subject++) {
        for (int at = systems.start(subject); at < systems.end(subject); at++) {
          SystemView view = model.systems().get(systems.at(at));
          GrantBits grants = bits[view.number()];
          if (grants != null && view.context() == context) {
            int from = base[view.number()];
            grants.of(
                subject,
                (place, words) ->
                    own.add(from + place, start[from + place], words, 0, words.length));
            first = Optional.of(view);
          }
        }
        own.endRow();
      }
      return first.flatMap(view -> SummedBits.of(view.memberships(), own, start)).orElse(null);
    }
  }
}
