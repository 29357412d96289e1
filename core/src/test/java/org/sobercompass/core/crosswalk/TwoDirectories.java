package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.problem.Problems;

/**
 * Two random directories of one crowd, of which it is known who is who: names that several have,
 * numbers that were mistyped or given to somebody else, addresses that many share, people with two
 * accounts, people in one of the two only. The same for the same seed.
 */
final class TwoDirectories {
  private static final String[] GIVEN = {
    "Ada", "Bea", "Cato", "Dag", "Edda", "Finn", "Greta", "Hale", "Ivo", "June", "Kit", "Lotte",
    "Max", "Nora", "Odin", "Pia", "Quin", "Rhea", "Sol", "Tess", "Ulla", "Vera", "Wim", "Zeb"
  };
  private static final String[] LAST = {
    "Birch", "Copse", "Dune", "Elm", "Fern", "Garnet", "Hollis", "Inwood", "Jarrow", "Kestle",
    "Lund", "Marsh", "Nettle", "Oakes", "Pell", "Quill", "Rook", "Sedge", "Thorne", "Umber"
  };
  private static final int PERCENT = 100;

  final Facts facts;
  private final Map<Integer, Integer> person = new HashMap<>();
  private final Random random;
  private final int noise;
  private final int persons;
  private final List<Integer> rowPersons = new ArrayList<>();

  /**
   * Makes them.
   *
   * @param persons how many people
   * @param noise of how many percent of the values something is wrong
   */
  TwoDirectories(long seed, int persons, int noise) {
    this.random = new Random(seed);
    this.noise = noise;
    this.persons = persons;
    FactsBuilder builder =
        new FactsBuilder(
            List.of("employeenumber", "mobile", "mail", "cn", "title"), dn -> dn, new Problems());
    side(builder.source("old"), "old.example");
    side(builder.source("new"), "new.example");
    this.facts = builder.build();
    for (int account = 0; account < facts.accounts(); account++) {
      String dn = facts.dn(account);
      person.put(account, Integer.parseInt(dn.substring(dn.indexOf('=') + 1, dn.indexOf('+'))));
    }
  }

  private boolean chance(int percent) {
    return random.nextInt(PERCENT) < percent;
  }

  private void side(FactsSource source, String domain) {
    for (int p = 0; p < persons; p++) {
      int accounts = chance(10) ? 0 : chance(3) ? 2 : 1;
      for (int a = 0; a < accounts; a++) {
        account(source, p, a, domain);
      }
    }
  }

  private static String name(int p) {
    // Not all different: in a crowd of five hundred several are called the same.
    return GIVEN[(p * 7 + p / 31) % GIVEN.length] + " " + LAST[(p * 3 + p / 17) % LAST.length];
  }

  private void account(FactsSource source, int p, int a, String domain) {
    String name = name(p);
    String dn = "uid=" + p + "+" + a + "," + source.attributes().size() + "," + domain;
    int row =
        source.add(
            new SubjectRow(
                SubjectKind.ACCOUNT,
                dn,
                dn,
                dn,
                name.toLowerCase(Locale.ROOT).replace(' ', '.') + (random.nextInt(3) + a),
                name,
                "",
                0,
                Facts.NEVER));
    rowPersons.add(p);
    value(
        source,
        row,
        "employeenumber",
        String.valueOf(10_000 + p),
        String.valueOf(10_000 + other()));
    value(source, row, "mobile", "+351 555 " + (20_000 + p), "+351 555 " + (20_000 + other()));
    String mail = chance(5) ? "office@" + domain : "p" + p + "@home.example";
    value(source, row, "mail", mail, "p" + other() + "@home.example");
    String[] parts = name.split(" ");
    String written = chance(20) ? parts[1] + ", " + parts[0] : name;
    value(source, row, "cn", written, parts[0] + " " + LAST[random.nextInt(LAST.length)]);
    source.values(row, "title", List.of(p % 2 == 0 ? "Gardener" : "Guide"));
  }

  private int other() {
    return random.nextInt(persons);
  }

  private void value(FactsSource source, int row, String attribute, String right, String wrong) {
    if (chance(noise)) {
      return; // not filled
    }
    String typo = right.substring(0, right.length() - 1) + random.nextInt(10);
    boolean mistyped = chance(noise / 2);
    source.values(row, attribute, List.of(mistyped ? typo : chance(noise / 4) ? wrong : right));
  }

  /** Whether two accounts are one person's. */
  boolean isSame(int one, int other) {
    return person.get(one).equals(person.get(other));
  }

  /** Whether two are one person's, who has one account on each side. */
  boolean isOnly(int one, int other) {
    int[] counts = counts().get(person.get(one));
    return isSame(one, other) && counts[0] == 1 && counts[1] == 1;
  }

  /** How many people have one account on each side. */
  int pairs() {
    return (int) counts().values().stream().filter(c -> c[0] == 1 && c[1] == 1).count();
  }

  private Map<Integer, int[]> counts() {
    Map<Integer, int[]> counts = new HashMap<>();
    for (int account = 0; account < facts.accounts(); account++) {
      counts
          .computeIfAbsent(person.get(account), p -> new int[2])[
          facts.source(account).equals("old") ? 0 : 1]++;
    }
    return counts;
  }

  int[] accounts(String directory) {
    return java.util.stream.IntStream.range(0, facts.accounts())
        .filter(account -> facts.source(account).equals(directory))
        .toArray();
  }
}
