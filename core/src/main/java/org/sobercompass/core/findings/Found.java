package org.sobercompass.core.findings;

import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.Evidence;

/**
 * What was found, as data: what a finding is about, and what shows it. Each is worked out when it
 * is first asked for, and kept; apart, because routes cost more than the finding itself, and who
 * compares or counts findings needs them of few. Thread-safe.
 */
public final class Found {
  private final AccessModel model;
  private final Supplier<? extends Details> about;
  private final Supplier<List<Evidence>> shown;
  private volatile @Nullable Details details;
  private volatile @Nullable List<Evidence> evidence;

  private Found(
      AccessModel model, Supplier<? extends Details> about, Supplier<List<Evidence>> shown) {
    this.model = model;
    this.about = about;
    this.shown = shown;
  }

  /** What is known already. */
  public static Found of(AccessModel model, Details details, List<? extends Evidence> evidence) {
    List<Evidence> known = List.copyOf(evidence);
    return new Found(model, () -> details, () -> known);
  }

  /**
   * What is worked out when it is asked for.
   *
   * @param model what the numbers in it refer to
   * @param about may be called by any thread, and by several at once; its results are equal
   * @param shown the same for what shows it, for a few of the subjects
   */
  public static Found later(
      AccessModel model, Supplier<? extends Details> about, Supplier<List<Evidence>> shown) {
    return new Found(model, about, shown);
  }

  /** The model in which it was found: what the numbers in the details and evidence refer to. */
  public AccessModel model() {
    return model;
  }

  /** What the finding is about. */
  public Details details() {
    Details known = details;
    if (known == null) {
      known = about.get();
      details = known;
    }
    return known;
  }

  /** What shows it. */
  public List<Evidence> evidence() {
    List<Evidence> known = evidence;
    if (known == null) {
      known = List.copyOf(shown.get());
      evidence = known;
    }
    return known;
  }

  /** The same for who goes through many findings once: it is not kept. */
  public List<Evidence> evidenceOnce() {
    List<Evidence> known = evidence;
    return known == null ? shown.get() : known;
  }

  /** Whether the same was found, whatever the model. */
  @Override
  public boolean equals(Object other) {
    return other instanceof Found found
        && details().equals(found.details())
        && evidence().equals(found.evidence());
  }

  /** Always the same: a finding is told apart by the rest of it, without asking what was found. */
  @Override
  public int hashCode() {
    return 0;
  }

  @Override
  public String toString() {
    return details().toString();
  }
}
