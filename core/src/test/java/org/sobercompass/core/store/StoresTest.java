package org.sobercompass.core.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Compact stores give back what was put in. */
class StoresTest {
  @Test
  void textsGiveBackEveryTextAlsoAcrossSlabs() {
    Texts.Builder builder = Texts.builder(2);
    List<String> expected = new ArrayList<>();
    String big = "ö".repeat(5 << 20);
    for (String text : List.of("", "a", big, "häuser", big, "", "z", big)) {
      expected.add(text);
      assertThat(builder.add(text)).isEqualTo(expected.size() - 1);
    }
    assertThat(builder.equalsBytes(4, big.getBytes(StandardCharsets.UTF_8))).isTrue();
    assertThat(builder.equalsBytes(4, (big + "x").getBytes(StandardCharsets.UTF_8))).isFalse();
    Texts texts = builder.build();
    assertThat(texts.size()).isEqualTo(expected.size());
    for (int i = 0; i < expected.size(); i++) {
      assertThat(texts.get(i).equals(expected.get(i))).as("text " + i).isTrue();
      assertThat(texts.isEmpty(i)).isEqualTo(expected.get(i).isEmpty());
    }
    Texts again = Texts.ofRaw(texts.rawEnds(), texts.rawSlabs());
    assertThat(again.get(6)).isEqualTo("z");
  }

  @Test
  void manyTextsAtOnceAreNumberedAsOneByOne() {
    TextTable single = new TextTable();
    TextTable batched = new TextTable();
    Random random = new Random(8);
    for (int batch = 0; batch < 40; batch++) {
      byte[][] texts = new byte[500][];
      int[] expected = new int[400];
      for (int i = 0; i < texts.length; i++) {
        texts[i] = ("name" + random.nextInt(6_000)).getBytes(StandardCharsets.UTF_8);
      }
      for (int i = 0; i < expected.length; i++) {
        expected[i] = single.intern(texts[i]);
      }
      int[] numbers = new int[expected.length];
      batched.intern(texts, numbers.length, numbers);
      assertThat(numbers).isEqualTo(expected);
    }
    assertThat(batched.size()).isEqualTo(single.size()).isGreaterThan(5_000);
    assertThat(batched.find("name17")).isEqualTo(single.find("name17"));
    assertThat(batched.find("nobody")).isEqualTo(-1);
  }

  @Test
  void aTableNumbersDistinctTextsInTheOrderOfFirstSight() {
    TextTable table = new TextTable();
    Map<String, Integer> expected = new HashMap<>();
    Random random = new Random(3);
    for (int i = 0; i < 20_000; i++) {
      String text = "t" + random.nextInt(5_000);
      int number = expected.computeIfAbsent(text, t -> expected.size());
      assertThat(table.intern(text)).isEqualTo(number);
    }
    expected.forEach((text, number) -> assertThat(table.find(text)).isEqualTo(number));
    assertThat(table.find("nothing")).isEqualTo(-1);
    assertThat(table.size()).isEqualTo(expected.size());
  }

  @Test
  void rowsKeepTheOrderOfTheInputInsideARow() {
    IntRows rows = IntRows.ofPairs(4, IntList.of(2, 0, 2, 3, 2), IntList.of(9, 8, 7, 6, 9));
    assertThat(rows.row(0)).containsExactly(8);
    assertThat(rows.row(1)).isEmpty();
    assertThat(rows.row(2)).containsExactly(9, 7, 9);
    assertThat(rows.size(3)).isEqualTo(1);
    assertThat(IntRows.empty(3).rows()).isEqualTo(3);
  }

  @Test
  void anIndexFindsAllThatBearANameAlsoWhenHashesCollide() {
    List<String> names = List.of("Aa", "BB", "", "Aa", "C");
    assertThat("Aa".hashCode()).isEqualTo("BB".hashCode());
    NameIndex index = NameIndex.of(names.size(), names::get);
    assertThat(index.candidates("Aa")).containsExactly(0, 1, 3);
    assertThat(index.candidates("C")).containsExactly(4);
    assertThat(index.candidates("")).isEmpty();
    assertThat(index.candidates("D")).isEmpty();
  }

  @Test
  void stampsAreEmptiedAtOnce() {
    Stamps stamps = new Stamps(5);
    assertThat(stamps.add(3)).isTrue();
    assertThat(stamps.add(3)).isFalse();
    stamps.clear();
    assertThat(stamps.contains(3)).isFalse();
    assertThat(stamps.add(3)).isTrue();
  }

  @Test
  void aListGrowsSortsAndShrinks() {
    IntList list = new IntList(1);
    for (int i = 100; i > 0; i--) {
      list.add(i);
    }
    list.sort();
    assertThat(list.get(0)).isEqualTo(1);
    assertThat(list.removeLast()).isEqualTo(100);
    assertThat(list.contains(100)).isFalse();
    assertThat(list.toArray()).hasSize(99);
    list.set(0, 7);
    assertThat(list.get(0)).isEqualTo(7);
    list.clear();
    assertThat(list.isEmpty()).isTrue();
  }
}
