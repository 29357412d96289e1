package org.sobercompass.core.system.directory;

import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.Who;

/**
 * As whom somebody counts in a directory's lists. Keeps what was decided for equal lists, so that
 * one more object with the same list costs nothing. Not thread-safe.
 */
final class DirectoryWho implements Projected {
  private final DirectoryFacts facts;
  private final Who who;
  private final int[] sure;
  private final int[] perhaps;
  private final Map<Key, Verdict> known = new HashMap<>();

  /**
   * What an answer depends on: the same for equal lists of objects that stand alike to somebody.
   */
  record Key(Requirement need, int descriptor, int kind, Verdict self) {}

  DirectoryWho(Token token, DirectoryFacts facts) {
    this.facts = facts;
    this.who = Who.of(token, facts.trustees());
    this.sure = sorted(token.subjects().sure());
    this.perhaps = sorted(token.subjects().perhaps());
  }

  private static int[] sorted(IntList subjects) {
    int[] all = subjects.toArray();
    Arrays.sort(all);
    return all;
  }

  @Override
  public boolean isEmpty() {
    return who.isEmpty();
  }

  /** Whether he counts in the lists at all. */
  Verdict comes() {
    return who.comes() == 2 ? Verdict.YES : who.comes() == 1 ? Verdict.UNDECIDED : Verdict.NO;
  }

  /** What was decided before. */
  Map<Key, Verdict> known() {
    return known;
  }

  /**
   * Whether he counts as a trustee, seen from an object: the object itself stands for SELF, so that
   * on a group its members are meant ([MS-DTYP] 2.5.3.2, PrincipalSelfSubst).
   */
  Verdict holds(String sid, int object) {
    return sid.equals(WellKnown.SELF) ? self(object) : holds(sid);
  }

  private Verdict holds(String sid) {
    int trustee = facts.trustee(sid);
    return trustee < 0
        ? Verdict.NO
        : who.surely(trustee)
            ? Verdict.YES
            : who.onlyPerhaps(trustee) ? Verdict.UNDECIDED : Verdict.NO;
  }

  /** Whether he is, or is a member of, what an object is. */
  Verdict self(int object) {
    int subject = facts.subject(object);
    if (subject < 0) {
      return holds(facts.tree().sid(object));
    }
    return Arrays.binarySearch(sure, subject) >= 0
        ? Verdict.YES
        : Arrays.binarySearch(perhaps, subject) >= 0 ? Verdict.UNDECIDED : Verdict.NO;
  }
}
