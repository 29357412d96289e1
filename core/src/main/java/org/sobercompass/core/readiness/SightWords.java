package org.sobercompass.core.readiness;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.membership.Visibility;

/** Says why a sight does not see a subject. */
public final class SightWords {
  private SightWords() {}

  /** The first reason why {@code subject}, an account or a group, is not surely seen. */
  public static String unseen(Facts facts, Sight sight, int subject) {
    boolean account = facts.kind(subject) == SubjectKind.ACCOUNT;
    if (!sight.covers(facts.source(subject))) {
      return "it is in " + facts.source(subject) + ", the application sees " + sight.directory();
    }
    if (!sight.on()) {
      return "the connection to " + sight.directory() + " is switched off";
    }
    if (account && sight.isByRoles()) {
      return "no role that may log in has its name";
    }
    List<String> bases = account ? sight.accountBases() : sight.groupBases();
    String form = facts.arrays().dnForm().get(subject);
    boolean inBase =
        bases.isEmpty()
            || bases.stream().anyMatch(base -> form.equals(base) || form.endsWith("," + base));
    if (!inBase) {
      return "outside the bases " + String.join(" | ", bases);
    }
    if (account
        && sight.loginAttribute().filter(a -> facts.values(subject, a).isEmpty()).isPresent()) {
      return "it has no " + sight.loginAttribute().orElse("");
    }
    Optional<Filter> filter = account ? sight.accountFilter() : sight.groupFilter();
    Truth truth =
        filter.map(f -> f.test(new Visibility.SubjectValues(facts, subject))).orElse(Truth.TRUE);
    return switch (truth) {
      case FALSE -> "the filter leaves it out" + classes(facts, filter.orElseThrow(), subject);
      case UNDEFINED -> "it is not known whether the filter fits it";
      case TRUE -> "the application does not look at it";
    };
  }

  /** Of which classes it is, where the filter asks for one: mostly another than was thought. */
  private static String classes(Facts facts, Filter filter, int subject) {
    Set<String> asked = new TreeSet<>();
    filter.collectAttributes(asked);
    List<String> classes = facts.values(subject, "objectclass");
    boolean told = asked.contains("objectclass") && !classes.isEmpty();
    return told ? ", as its classes are " + String.join(", ", new TreeSet<>(classes)) : "";
  }
}
