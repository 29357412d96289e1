package org.sobercompass.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.store.TextTable;
import org.sobercompass.core.store.Texts;

/** References keep their order and their spelling, however many wait to be numbered. */
class FactsReferencesTest {
  @ParameterizedTest
  @ValueSource(ints = {0, 3, 8_192, 150_000})
  void allAreThereInTheirOrder(int count) {
    FactsReferences references = new FactsReferences();
    TextTable expected = new TextTable();
    Random random = new Random(count);
    int[] who = new int[count];
    int[] spelled = new int[count];
    for (int i = 0; i < count; i++) {
      String name = "cn=n" + random.nextInt(20_000);
      char prefix = random.nextBoolean() ? 'd' : 'u';
      who[i] = random.nextInt();
      spelled[i] = expected.intern(prefix + name);
      references.add(who[i], Via.of(i % 3), prefix, name.getBytes(StandardCharsets.UTF_8));
    }
    FactsReferences.All all = references.all();
    assertThat(all.from().toArray()).isEqualTo(who);
    assertThat(all.to().toArray()).isEqualTo(spelled);
    Texts texts = all.spellings().freeze();
    assertThat(texts.size()).isEqualTo(expected.size());
    for (int i = 0; i < count; i++) {
      assertThat(all.via().get(i)).isEqualTo(i % 3);
      assertThat(expected.find(texts.get(all.to().get(i)))).isEqualTo(all.to().get(i));
    }
  }
}
