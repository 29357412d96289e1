package org.sobercompass.core.findings.separation;

import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import org.sobercompass.core.access.Asker;

/** Which rules single accounts break, usable or not; each is asked once. Not thread-safe. */
final class SeparationBroken {
  private final Asker asker;
  private final SeparationTests tests;
  private final SeparationSweep sweep;
  private final Map<Integer, BitSet> known = new HashMap<>();

  SeparationBroken(Asker asker, SeparationTests tests, SeparationSweep sweep) {
    this.asker = asker;
    this.tests = tests;
    this.sweep = sweep;
  }

  /** The numbers of the rules of which an account holds enough sides; not to be changed. */
  BitSet rules(int account) {
    return known.computeIfAbsent(
        account,
        a -> {
          BitSet rules = new BitSet();
          for (SeparationSweep.Hold hold : sweep.of(asker, a)) {
            rules.set(hold.rule(), tests.enough(hold.rule(), hold.held()));
          }
          return rules;
        });
  }
}
