package org.sobercompass.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.reference.SmallWorld;

/** What finders share. */
class FindingContextTest {
  /** Powers keep what they worked out, and are not thread-safe. */
  @Test
  void eachThreadHasPowersOfItsOwn() {
    Assessment assessment = Assessment.of(new SmallWorld(1).model(), List.of());
    Map<Powers, Set<Thread>> used = new ConcurrentHashMap<>();
    List<Integer> things = IntStream.range(0, 2_000).boxed().toList();
    new FindingContext(assessment)
        .each(
            things,
            own ->
                thing -> {
                  used.computeIfAbsent(own.assessment.powers(), p -> ConcurrentHashMap.newKeySet())
                      .add(Thread.currentThread());
                  return Optional.<Finding>empty();
                },
            found -> {});
    assertThat(used).isNotEmpty().doesNotContainKey(assessment.powers());
    assertThat(used.values()).allMatch(threads -> threads.size() == 1);
  }
}
