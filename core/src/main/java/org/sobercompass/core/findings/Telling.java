package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.findings.Finding.Evidence;

/**
 * What is said of a finding. It is worked out when it is first asked for, because routes cost more
 * than the finding itself, and who compares or counts findings needs them of few. Thread-safe.
 */
public final class Telling {
  private final Supplier<Said> maker;
  private volatile @Nullable Said said;

  private Telling(Supplier<Said> maker) {
    this.maker = maker;
  }

  /**
   * What is said.
   *
   * @param why what the weight comes from
   * @param sentence what was found, one sentence
   * @param evidence routes that show it, for a few of the subjects
   * @param advice what to do, one sentence
   */
  public record Said(List<String> why, String sentence, List<Evidence> evidence, String advice) {
    /** Copies. */
    public Said {
      why = List.copyOf(why);
      evidence = List.copyOf(evidence);
    }
  }

  /** What is known already. */
  public static Telling of(
      List<String> why, String sentence, List<Evidence> evidence, String advice) {
    Said known = new Said(why, sentence, evidence, advice);
    Telling telling = new Telling(() -> known);
    telling.said = known;
    return telling;
  }

  /**
   * What is worked out when it is asked for.
   *
   * @param maker may be called by any thread, and by several at once; its results are equal
   */
  public static Telling later(Supplier<Said> maker) {
    return new Telling(maker);
  }

  /** What is said; worked out by the first who asks. */
  public Said said() {
    Said known = said;
    if (known == null) {
      known = maker.get();
      said = known;
    }
    return known;
  }

  /** The same with one more reason for its weight. */
  Telling because(String reason) {
    return later(
        () -> {
          Said known = said();
          List<String> why = new ArrayList<>(known.why());
          why.add(reason);
          return new Said(why, known.sentence(), known.evidence(), known.advice());
        });
  }

  /** Whether the same is said. */
  @Override
  public boolean equals(Object other) {
    return other instanceof Telling telling && said().equals(telling.said());
  }

  @Override
  public int hashCode() {
    return Objects.hash(said());
  }

  @Override
  public String toString() {
    return said().sentence();
  }
}
