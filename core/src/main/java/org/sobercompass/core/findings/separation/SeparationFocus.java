package org.sobercompass.core.findings.separation;

import java.util.BitSet;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Focus;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.store.IntList;

/**
 * Whom changes concern through others. A group or unit whose accounts all break a rule is the cause
 * for all of them; where one of its accounts comes, goes or changes, it may begin or cease to be
 * that, and the findings of the others are otherwise. It can only be where all those who do not
 * change break one rule, so most groups are left at their second member.
 */
public final class SeparationFocus {
  private final Focus focus;
  private final AccessModel before;
  private final SeparationBroken broken;

  private SeparationFocus(Assessment before, SeparationTests tests, Focus focus) {
    this.focus = focus;
    this.before = before.model();
    this.broken =
        new SeparationBroken(this.before.asker(), tests, new SeparationSweep(tests, before, false));
  }

  /**
   * The accounts to look at beside those that change; empty where all must be looked at: where acts
   * on somebody count, or what is within reach.
   */
  public static Optional<BitSet> of(Assessment before, Focus focus) {
    SeparationTests tests = new SeparationTests(before);
    if (tests.rules.isEmpty()) {
      return Optional.of(new BitSet());
    }
    return SeparationReach.counts(before.powers()) || !tests.acts.isEmpty()
        ? Optional.empty()
        : Optional.of(new SeparationFocus(before, tests, focus).sharing());
  }

  private BitSet sharing() {
    BitSet shared = (BitSet) focus.subjects().clone();
    shared.or(focus.counted());
    BitSet more = new BitSet();
    Memberships.Walker walker = before.widest().walker();
    shared.stream()
        .filter(this::isOfMany)
        .forEach(
            subject -> {
              IntList members = new IntList();
              walker.accounts(subject, members);
              if (breakTogether(members)) {
                members.setIn(more);
              }
            });
    return more;
  }

  private boolean isOfMany(int subject) {
    SubjectKind kind = before.facts().kind(subject);
    return kind == SubjectKind.GROUP || kind == SubjectKind.UNIT;
  }

  /** Whether all that do not change break one rule; and there are any. */
  private boolean breakTogether(IntList members) {
    BitSet common = null;
    for (int i = 0; i < members.size() && (common == null || !common.isEmpty()); i++) {
      if (!focus.accounts().get(members.get(i))) {
        BitSet rules = broken.rules(members.get(i));
        if (common == null) {
          common = (BitSet) rules.clone();
        } else {
          common.and(rules);
        }
      }
    }
    return common != null && !common.isEmpty();
  }
}
