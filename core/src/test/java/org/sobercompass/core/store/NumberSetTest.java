package org.sobercompass.core.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.BitSet;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Sets with few and with many numbers answer like bits. */
class NumberSetTest {
  @Test
  void whatIsInThemIsWhatTheBitsSay() {
    Random random = new Random(5);
    for (int round = 0; round < 300; round++) {
      BitSet one = bits(random);
      BitSet two = bits(random);
      NumberSet first = NumberSet.of(one);
      NumberSet second = NumberSet.of(two);
      assertThat(first.bits()).isEqualTo(one);
      assertThat(first.size()).isEqualTo(one.cardinality());
      assertThat(first.isEmpty()).isEqualTo(one.isEmpty());
      assertThat(first.equals(second)).isEqualTo(one.equals(two));
      assertThat(first).isEqualTo(NumberSet.of(one)).hasSameHashCodeAs(NumberSet.of(one));
      for (int number = 0; number < 2_100; number += 7) {
        assertThat(first.contains(number)).isEqualTo(one.get(number));
      }
      BitSet both = (BitSet) one.clone();
      both.and(two);
      assertThat(first.common(second)).isEqualTo(both.cardinality());
    }
  }

  private static BitSet bits(Random random) {
    BitSet bits = new BitSet();
    int size = random.nextBoolean() ? random.nextInt(4) : random.nextInt(1_500);
    for (int i = 0; i < size; i++) {
      bits.set(random.nextInt(2_000));
    }
    return bits;
  }
}
