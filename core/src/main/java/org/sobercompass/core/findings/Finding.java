package org.sobercompass.core.findings;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.zip.CRC32;
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
 * @param telling what is said of it
 * @param system the id of the system it concerns, or empty
 * @param subjects the keys of the accounts or subjects concerned, ascending
 * @param aim what is to end, from which the least removals are found
 */
public record Finding(
    FindingKind kind,
    String rule,
    Key cause,
    Weight weight,
    Telling telling,
    String system,
    List<Key> subjects,
    Remedy aim) {

  /** Letters and digits that are not taken for one another, as in i, l and 1. */
  private static final String ALPHABET = "abcdefghjkmnpqrstuvwxyz023456789";

  private static final int LETTERS = 6;

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

  /** One of which it is known what is said. */
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
      Remedy aim) {
    this(
        kind,
        rule,
        cause,
        weight,
        Telling.of(why, sentence, evidence, advice),
        system,
        subjects,
        aim);
  }

  /** What the weight comes from. */
  public List<String> why() {
    return telling.said().why();
  }

  /** What was found, one sentence without a full stop. */
  public String sentence() {
    return telling.said().sentence();
  }

  /** Routes that show it, for a few of the subjects. */
  public List<Evidence> evidence() {
    return telling.evidence();
  }

  /** What to do, one sentence without a full stop. */
  public String advice() {
    return telling.said().advice();
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
    return new Finding(
        kind,
        rule,
        cause,
        other,
        telling.because("the workspace says " + other.word()),
        system,
        subjects,
        aim);
  }

  /**
   * A short name to type, made from the identity: six letters and digits, the same as long as the
   * cause is there. Two findings can have the same by chance; the chance is one in a billion for
   * each pair.
   */
  public String id() {
    CRC32 one = new CRC32();
    byte[] text = key().text().getBytes(StandardCharsets.UTF_8);
    one.update(text);
    long mixed = one.getValue() * 0x9e3779b97f4a7c15L ^ Arrays.hashCode(text) * 0xc2b2ae3d27d4eb4fL;
    mixed ^= mixed >>> 29;
    StringBuilder id = new StringBuilder();
    for (int i = 0; i < LETTERS; i++) {
      id.append(ALPHABET.charAt((int) ((mixed >>> (5 * i)) & 31)));
    }
    return id.toString();
  }

  /** The identity: kind, rule and cause; the same as long as the cause is there. */
  public Key key() {
    String ofRule = rule.isEmpty() ? "" : rule + "/";
    return new Key(KeyKind.FINDING, kind.id(), ofRule + cause.text());
  }

  /** Those of some findings of which there is no other with the same key. */
  public static List<Finding> without(List<Finding> some, List<Finding> others) {
    Set<Key> known = new HashSet<>();
    others.forEach(finding -> known.add(finding.key()));
    return some.stream().filter(finding -> !known.contains(finding.key())).toList();
  }
}
