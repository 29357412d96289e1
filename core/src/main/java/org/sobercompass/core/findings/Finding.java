package org.sobercompass.core.findings;

import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.system.Change;

/**
 * One finding.
 *
 * @param kind what kind
 * @param rule the rule it breaks, or empty
 * @param cause the most general cause: a role, else a group, else an entry, else an account
 * @param weight how much it matters
 * @param why what the weight comes from
 * @param sentence what was found, one sentence
 * @param system the id of the system it concerns, or empty
 * @param subjects the keys of the accounts or subjects concerned, ascending
 * @param evidence routes that show it, for a few of the subjects
 * @param advice what to do, one sentence
 * @param aim what is to end, from which the least removals are found
 */
public record Finding(
    FindingKind kind,
    String rule,
    Key cause,
    Weight weight,
    List<String> why,
    String sentence,
    String system,
    List<Key> subjects,
    List<Evidence> evidence,
    String advice,
    Remedy aim) {

  /** One that ends with these changes, if there are any. */
  public Finding(
      FindingKind kind,
      String rule,
      Key cause,
      Weight weight,
      List<String> why,
      String sentence,
      String system,
      List<Key> subjects,
      List<Evidence> evidence,
      String advice,
      List<Change> changes) {
    this(
        kind,
        rule,
        cause,
        weight,
        why,
        sentence,
        system,
        subjects,
        evidence,
        advice,
        changes.isEmpty() ? Remedy.NONE : new Remedy.Made(changes));
  }

  /** The changes that end it, where the finding itself says which; see {@link Advice}. */
  public List<Change> changes() {
    return aim instanceof Remedy.Made made ? made.changes() : List.of();
  }

  /** Worst first, then by kind, then by identity. */
  public static final Comparator<Finding> WORST_FIRST =
      Comparator.comparing(Finding::weight)
          .reversed()
          .thenComparing(Finding::kind)
          .thenComparing(finding -> finding.key().text(), Key::compareUtf8);

  /**
   * A route that shows a finding, or a line about what stands where.
   *
   * @param system the number of the system
   * @param route the route, if there is one
   * @param text the same in words
   */
  public record Evidence(int system, Optional<Route> route, String text) {
    /** A line without a route. */
    public static Evidence of(String text) {
      return new Evidence(-1, Optional.empty(), text);
    }
  }

  /** The same with a weight that the workspace sets for its kind. */
  public Finding weighing(Weight other) {
    List<String> reasons = new java.util.ArrayList<>(why);
    reasons.add("the workspace says " + other.word());
    return new Finding(
        kind, rule, cause, other, reasons, sentence, system, subjects, evidence, advice, aim);
  }

  /** The identity: kind, rule and cause; the same as long as the cause is there. */
  public Key key() {
    String ofRule = rule.isEmpty() ? "" : rule + "/";
    return new Key(KeyKind.FINDING, kind.id(), ofRule + cause.text());
  }
}
