package org.sobercompass.report.findings;

import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.BiFunction;

/**
 * What is said of a value by its type. Filled once, then read by any thread.
 *
 * @param <C> what it is named by
 * @param <T> the family of types
 * @param <R> what is said
 */
final class ByType<C, T, R> {
  private final Map<Class<?>, BiFunction<C, T, R>> words = new HashMap<>();

  /** What is said of one type. */
  <S extends T> ByType<C, T, R> on(Class<S> type, BiFunction<C, S, R> says) {
    if (words.put(type, (naming, value) -> says.apply(naming, type.cast(value))) != null) {
      throw new IllegalStateException("two wordings for " + type.getSimpleName());
    }
    return this;
  }

  /** The types of which something is said. */
  Set<Class<?>> types() {
    return Set.copyOf(words.keySet());
  }

  /** What is said of a value. */
  R of(C naming, T value) {
    BiFunction<C, T, R> says = words.get(value.getClass());
    if (says == null) {
      throw new IllegalStateException("there are no words for " + value.getClass().getSimpleName());
    }
    return says.apply(naming, value);
  }
}
