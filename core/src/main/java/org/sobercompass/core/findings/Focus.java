package org.sobercompass.core.findings;

import java.util.BitSet;
import java.util.HashSet;
import java.util.Set;
import org.sobercompass.core.key.Key;

/**
 * What changes may concern, so that findings about all else are the same before and after, and need
 * not be looked for. A finder may look at more than this, and never at less: what it leaves out
 * must not differ. Its sets are not to be changed.
 *
 * @param accounts whose rights or state may be others; all accounts of a person, where one is
 * @param counted all subjects that these accounts count as, before or after
 * @param subjects to whom something else may be given, or who may have other members
 * @param systems the numbers of the systems in which assignments may be redundant otherwise
 * @param causes causes of which findings come or go, so that all that have them are looked at
 */
public record Focus(
    BitSet accounts, BitSet counted, BitSet subjects, BitSet systems, Set<Key> causes) {

  /** The same with more accounts, and more causes. */
  public Focus with(BitSet more, Set<Key> others) {
    BitSet all = (BitSet) accounts.clone();
    all.or(more);
    Set<Key> both = new HashSet<>(causes);
    both.addAll(others);
    return new Focus(all, counted, subjects, systems, both);
  }
}
