package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.crosswalk.MatchRule.As;
import org.sobercompass.core.crosswalk.Reason.Degree;

/**
 * Weighs what the rules say of two accounts. Each kind of evidence that agrees leaves only a part
 * of the doubt; of the same kind the strongest counts; a value that several have counts for less;
 * what differs takes a part of the score away. The same for both directions.
 */
final class Weighing {
  private static final double WHOLE = 100;

  /** How much of the doubt goes when a value agrees that nobody else has. */
  private static final double KNOWN = 0.95;

  private static final double ADDRESS = 0.8;
  private static final double NUMBER = 0.7;
  private static final double NAME = 0.6;
  private static final double LOGIN = 0.4;
  private static final double ADDRESS_ELSEWHERE = 0.5;
  private static final double PART_OF_NAME = 0.2;
  private static final double DESCRIPTION = 0.2;

  /** How much of the score is left when values differ. */
  private static final double OTHER_NAME = 0.5;

  private static final double OTHER_NAME_BUT_TWO_NUMBERS = 0.7;
  private static final double OTHER_NUMBER = 0.6;
  private static final double OTHER_TELEPHONE = 0.75;

  private final List<RuleValues> rules;
  private final boolean persons;

  /**
   * @param persons whether the accounts are persons', whose login names say less than a service's
   */
  Weighing(List<RuleValues> rules, boolean persons) {
    this.rules = rules;
    this.persons = persons;
  }

  /**
   * Weighs two accounts, by their places on their sides.
   *
   * @param person why it is known already that they are one person's, where it is
   */
  Candidate weigh(int fromPlace, int toPlace, int to, Optional<String> person) {
    Evidence found = new Evidence();
    person.ifPresent(
        why -> {
          found.reasons.add(new Reason(MatchRule.PERSON, Degree.SAME, why, "", 1));
          found.families.put(MatchRule.PERSON, KNOWN);
          found.known = true;
        });
    for (RuleValues values : rules) {
      reason(values, fromPlace, toPlace).ifPresent(reason -> add(found, values, reason));
    }
    double left = person.isPresent() ? 1 : found.left();
    double doubt = 1;
    for (double strength : found.families.values()) {
      doubt *= 1 - strength;
    }
    boolean against =
        person.isEmpty() && (found.otherName || found.reasons.stream().anyMatch(this::isAgainst));
    int score = (int) Math.round(WHOLE * (1 - doubt) * left);
    return new Candidate(to, score, found.reasons, !against && (found.known || found.isOfTwo()));
  }

  /** What was found for two, while it is weighed. */
  private static final class Evidence {
    final List<Reason> reasons = new ArrayList<>();
    final Map<String, Double> families = new HashMap<>();
    final Set<String> identities = new HashSet<>();
    boolean known;
    boolean named;
    boolean otherName;
    double left = 1;

    /** How much of the score is left for what differs. */
    double left() {
      if (!otherName) {
        return left;
      }
      return left * (identities.size() >= 2 ? OTHER_NAME_BUT_TWO_NUMBERS : OTHER_NAME);
    }

    /**
     * Whether two kinds of evidence agree. Two numbers can both be mistyped, or both have gone to
     * the same successor: with them the names must share a part at least.
     */
    boolean isOfTwo() {
      boolean likeNamed = named || families.containsKey(MatchRule.NAME);
      return identities.size() >= 2 && likeNamed || !identities.isEmpty() && named;
    }
  }

  private void add(Evidence found, RuleValues values, Reason reason) {
    found.reasons.add(reason);
    String family = values.rule.family();
    if (reason.degree() == Degree.DIFFERENT) {
      boolean name = values.rule.as() == As.NAME;
      found.otherName |= name;
      found.left *= name ? 1 : difference(values);
      return;
    }
    found.families.merge(family, strength(values, reason), Math::max);
    found.named |= reason.degree() == Degree.SAME && family.equals(MatchRule.NAME);
    found.known |= values.rule.as() == As.FORMER_ID && reason.held() == 1;
    if (values.identifying && reason.held() == 1) {
      found.identities.add(family);
    }
  }

  /** Telephones change; another one speaks against a pair, and does not make it doubtful. */
  private boolean isAgainst(Reason reason) {
    return reason.degree() == Degree.DIFFERENT
        && rules.stream()
            .filter(values -> values.rule.label().equals(reason.what()))
            .noneMatch(values -> values.rule.family().equals("telephone"));
  }

  private static double difference(RuleValues values) {
    return values.rule.family().equals("telephone") ? OTHER_TELEPHONE : OTHER_NUMBER;
  }

  private double strength(RuleValues values, Reason reason) {
    MatchRule rule = values.rule;
    if (reason.degree() == Degree.PARTLY) {
      return PART_OF_NAME;
    }
    double alone =
        switch (rule.as()) {
          case FORMER_ID -> KNOWN;
          case NAME -> NAME;
          case LOGIN -> persons ? LOGIN : NAME;
          case VALUE -> !rule.domains().isEmpty() ? ADDRESS_ELSEWHERE : value(values);
        };
    return alone / reason.held();
  }

  private static double value(RuleValues values) {
    if (!values.identifying) {
      return DESCRIPTION;
    }
    return values.rule.label().equals("mail") ? ADDRESS : NUMBER;
  }

  private Optional<Reason> reason(RuleValues values, int fromPlace, int toPlace) {
    String what = values.rule.label();
    int shared = values.shared(fromPlace, toPlace);
    if (shared >= 0) {
      return Optional.of(
          new Reason(what, Degree.SAME, values.text(shared), "", values.held(shared)));
    }
    if (!values.bothSay(fromPlace, toPlace)) {
      return Optional.empty();
    }
    String one = values.first(values.from, fromPlace);
    String other = values.first(values.to, toPlace);
    if (values.rule.as() == As.NAME) {
      return Optional.of(names(values, fromPlace, toPlace, what, one, other));
    }
    // Another mail address, or login, is nothing unusual.
    boolean tells =
        values.identifying && values.note.shared() > 0 && !values.rule.label().equals("mail");
    return tells
        ? Optional.of(new Reason(what, Degree.DIFFERENT, one, other, 0))
        : Optional.empty();
  }

  private static Reason names(
      RuleValues values, int fromPlace, int toPlace, String what, String one, String other) {
    Degree degree = Degree.DIFFERENT;
    var a = values.from.values();
    var b = values.to.values();
    for (int i = a.start(fromPlace); i < a.end(fromPlace); i++) {
      for (int j = b.start(toPlace); j < b.end(toPlace); j++) {
        String x = values.text(a.at(i));
        String y = values.text(b.at(j));
        if (PersonName.within(x, y)) {
          return new Reason(
              what,
              Degree.SAME,
              x,
              y,
              Math.max(1, values.held(a.at(i)) + values.held(b.at(j)) - 1));
        }
        degree = PersonName.share(x, y) ? Degree.PARTLY : degree;
      }
    }
    return new Reason(what, degree, one, other, 0);
  }
}
