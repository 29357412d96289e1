package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.findings.Finding.Evidence;

/**
 * What is said of a finding. It is worked out when it is first asked for, and kept: words and the
 * routes that show it apart, because routes cost more than the finding itself, and who compares or
 * counts findings needs them of few. Thread-safe.
 */
public final class Telling {
  private final Supplier<Said> words;
  private final Supplier<List<Evidence>> routes;
  private volatile @Nullable Said said;
  private volatile @Nullable List<Evidence> evidence;

  private Telling(Supplier<Said> words, Supplier<List<Evidence>> routes) {
    this.words = words;
    this.routes = routes;
  }

  /**
   * What is said.
   *
   * @param why what the weight comes from
   * @param sentence what was found, one sentence
   * @param advice what to do, one sentence
   */
  public record Said(List<String> why, String sentence, String advice) {
    /** Copies. */
    public Said {
      why = List.copyOf(why);
    }
  }

  /** What is known already. */
  public static Telling of(
      List<String> why, String sentence, List<Evidence> evidence, String advice) {
    Said known = new Said(why, sentence, advice);
    List<Evidence> shown = List.copyOf(evidence);
    return new Telling(() -> known, () -> shown);
  }

  /**
   * What is worked out when it is asked for.
   *
   * @param words may be called by any thread, and by several at once; its results are equal
   * @param routes the same for what shows it, for a few of the subjects
   */
  public static Telling later(Supplier<Said> words, Supplier<List<Evidence>> routes) {
    return new Telling(words, routes);
  }

  /** What is said. */
  public Said said() {
    Said known = said;
    if (known == null) {
      known = words.get();
      said = known;
    }
    return known;
  }

  /** What shows it. */
  public List<Evidence> evidence() {
    List<Evidence> known = evidence;
    if (known == null) {
      known = List.copyOf(routes.get());
      evidence = known;
    }
    return known;
  }

  /** The same for who goes through many findings once: it is not kept. */
  public List<Evidence> evidenceOnce() {
    List<Evidence> known = evidence;
    return known == null ? routes.get() : known;
  }

  /** The same with one more reason for its weight. */
  Telling because(String reason) {
    return later(
        () -> {
          Said known = said();
          List<String> why = new ArrayList<>(known.why());
          why.add(reason);
          return new Said(why, known.sentence(), known.advice());
        },
        this::evidence);
  }

  /** Whether the same is said and shown. */
  @Override
  public boolean equals(Object other) {
    return other instanceof Telling telling
        && said().equals(telling.said())
        && evidence().equals(telling.evidence());
  }

  /** Always the same: a finding is told apart by the rest of it, without asking what is said. */
  @Override
  public int hashCode() {
    return 0;
  }

  @Override
  public String toString() {
    return said().sentence();
  }
}
