package org.sobercompass.core.findings;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.zip.CRC32;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.Evidence;
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
 * @param isWeighed whether the workspace sets that weight for the kind
 * @param found what it is about and what shows it, as data; the words are made by those who tell it
 * @param system the id of the system it concerns, or empty
 * @param subjects the keys of the accounts or subjects concerned, ascending
 * @param aim what is to end, from which the least removals are found
 */
public record Finding(
    FindingKind kind,
    String rule,
    Key cause,
    Weight weight,
    boolean isWeighed,
    Found found,
    String system,
    List<Key> subjects,
    Remedy aim) {

  /** Letters and digits that are not taken for one another, as in i, l and 1. */
  private static final String ALPHABET = "abcdefghjkmnpqrstuvwxyz023456789";

  private static final int LETTERS = 6;

  /** One with the weight that was found. */
  public Finding(
      FindingKind kind,
      String rule,
      Key cause,
      Weight weight,
      Found found,
      String system,
      List<Key> subjects,
      Remedy aim) {
    this(kind, rule, cause, weight, false, found, system, subjects, aim);
  }

  /** What it is about. */
  public Details details() {
    return found.details();
  }

  /** Routes and other things that show it, for a few of the subjects. */
  public List<Evidence> evidence() {
    return found.evidence();
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

  /** The same with a weight that the workspace sets for its kind. */
  public Finding weighing(Weight other) {
    return new Finding(kind, rule, cause, other, true, found, system, subjects, aim);
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
