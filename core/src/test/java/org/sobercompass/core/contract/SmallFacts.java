package org.sobercompass.core.contract;

import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Problems;

/** A few accounts in a few groups, and how a system sees them. */
public final class SmallFacts {
  private SmallFacts() {}

  /** Accounts a0, a1, ... in groups g0, g1, ..., each in a third of them. */
  public static Facts of(Random random, int accounts, int groups) {
    FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
    FactsSource source = builder.source("d");
    for (int a = 0; a < accounts; a++) {
      source.name(source.add(row(SubjectKind.ACCOUNT, "a" + a)), Space.LOGIN, "a" + a);
    }
    for (int g = 0; g < groups; g++) {
      int row = source.add(row(SubjectKind.GROUP, "g" + g));
      for (int a = 0; a < accounts; a++) {
        if (random.nextInt(3) == 0) {
          source.refer(row, Via.MEMBER, Space.LOGIN, "a" + a);
        }
      }
    }
    return builder.build();
  }

  private static SubjectRow row(SubjectKind kind, String id) {
    return new SubjectRow(kind, id, id, id, id, id, "", 0, Facts.NEVER);
  }

  /**
   * A sight that sees all.
   *
   * @param certain whether it is known of groups that they are seen; else each is perhaps
   */
  public static Sight sight(boolean certain) {
    Sight all =
        Sight.all("d")
            .with(
                new MembershipProfile(
                    Set.of(Via.MEMBER, Via.IMPLICIT), MembershipProfile.FULL, false));
    return certain
        ? all
        : new Sight(
            "d",
            List.of(),
            true,
            List.of(),
            Optional.empty(),
            List.of(),
            Optional.of(FilterParser.parse("(!(unknown-attribute=3))")),
            Optional.empty(),
            all.profile());
  }
}
