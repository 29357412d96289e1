package org.sobercompass.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.carry.Carried;
import org.sobercompass.core.carry.Carry;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.carry.LossAndGain;
import org.sobercompass.core.crosswalk.AccountMatcher;
import org.sobercompass.core.crosswalk.Decided;
import org.sobercompass.core.crosswalk.MatchRule;
import org.sobercompass.core.crosswalk.Matches;
import org.sobercompass.core.crosswalk.Nature;
import org.sobercompass.core.crosswalk.Sureness;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Measures carrying over: {@code CarryYardstick match [ACCOUNTS]} matches made-up directories of
 * several shapes; {@code CarryYardstick files [PATHS]} carries the entries of a tree of files;
 * {@code CarryYardstick rights DIR} carries the rights of accounts of a workspace that {@link
 * Generator} wrote to others of it, and works out what each loses and gains.
 */
public final class CarryYardstick {
  private static final int USERS = 2_000;
  private static final int WIDE = 40;

  private CarryYardstick() {}

  /** Runs it. */
  public static void main(String[] args) throws IOException {
    if (args.length > 1 && args[0].equals("rights")) {
      rights(Organization.open(Path.of(args[1])).assessment());
      return;
    }
    int size = args.length > 1 ? Integer.parseInt(args[1]) : 0;
    if (args.length > 0 && args[0].equals("files")) {
      files(size == 0 ? 1_000_000 : size);
    } else {
      match(size == 0 ? 200_000 : size);
    }
  }

  private static double since(long begin) {
    return (System.nanoTime() - begin) / 1e6;
  }

  private static long used() {
    Runtime runtime = Runtime.getRuntime();
    return (runtime.totalMemory() - runtime.freeMemory()) >> 20;
  }

  /** The share of accounts whose values are wrong, and how many people have one name. */
  private static void match(int accounts) {
    for (int namesakes : new int[] {1, 4, 400}) {
      for (int wrong : new int[] {0, 10}) {
        Facts facts = directories(accounts, namesakes, wrong);
        long begin = System.nanoTime();
        Matches found =
            new AccountMatcher(
                    facts,
                    side(facts, "old"),
                    side(facts, "new"),
                    List.of(
                        MatchRule.of("employeenumber"), MatchRule.of("mobile"), MatchRule.of("cn")),
                    account -> Nature.PERSON,
                    List.of(),
                    Decided.NOTHING)
                .match();
        System.out.printf(
            "%,d against %,d, %d of each name, %d %% wrong: %,.0f ms, %,d certain, %,d likely,"
                + " %,d ambiguous, %,d MiB%n",
            accounts,
            accounts,
            namesakes,
            wrong,
            since(begin),
            found.count(Sureness.CERTAIN),
            found.count(Sureness.LIKELY),
            found.count(Sureness.AMBIGUOUS),
            used());
      }
    }
  }

  private static int[] side(Facts facts, String directory) {
    return IntStream.range(0, facts.accounts())
        .filter(account -> facts.source(account).equals(directory))
        .toArray();
  }

  private static Facts directories(int accounts, int namesakes, int wrong) {
    FactsBuilder builder =
        new FactsBuilder(List.of("employeenumber", "mobile", "cn"), dn -> dn, new Problems());
    Random random = new Random(accounts);
    for (String name : List.of("old", "new")) {
      FactsSource source = builder.source(name);
      for (int i = 0; i < accounts; i++) {
        String dn = "uid=" + i + "," + name;
        int row =
            source.add(
                new SubjectRow(SubjectKind.ACCOUNT, dn, dn, dn, "u" + i, "", "", 0, Facts.NEVER));
        int person = i / namesakes;
        String written = name.equals("old") ? "Åda" + person + " Fern" : "FERN, Ada" + person;
        source.values(row, "cn", List.of(written));
        value(source, row, "employeenumber", 100_000 + i, wrong, random, accounts);
        value(source, row, "mobile", 300_000_000 + i, wrong, random, accounts);
      }
    }
    return builder.build();
  }

  private static void value(
      FactsSource source,
      int row,
      String attribute,
      int right,
      int wrong,
      Random random,
      int accounts) {
    boolean spoilt = random.nextInt(100) < wrong;
    source.values(
        row,
        attribute,
        spoilt && random.nextBoolean()
            ? List.of()
            : List.of("+" + (spoilt ? right + random.nextInt(accounts) : right)));
  }

  private static void files(int paths) throws IOException {
    for (int named : new int[] {1, 3}) {
      Path folder = Files.createTempDirectory("sober-carry");
      host(folder.resolve("old.getent"), "o", 2_000);
      host(folder.resolve("new.getent"), "n", 200_000);
      tree(folder.resolve("tree.getfacl"), paths, named);
      Files.writeString(
          folder.resolve("store.yaml"),
          "kind: posix-files\nid: store\nlists: tree.getfacl\n"
              + "sight: {directory: old, also: [new]}\n");
      Files.writeString(
          folder.resolve("compass.yaml"),
          "directories:\n  old: {kind: host, file: old.getent}\n"
              + "  new: {kind: host, file: new.getent}\napplications: [store.yaml]\n");
      AccessModel model = Workspace.open(folder).model();
      Map<Integer, Integer> counterparts = new LinkedHashMap<>();
      for (int i = 0; i < USERS; i++) {
        counterparts.put(number(model, "o" + i), number(model, "n" + i));
      }
      for (How how : List.of(How.BESIDE, How.INSTEAD)) {
        long begin = System.nanoTime();
        Carried carried = new Carry(model, counterparts, CarryPlan.USUAL.by(how)).make();
        double millis = since(begin);
        System.out.printf(
            "%,d paths, %d named entries each, %s: %,d rights in %,.0f ms, %,d steps, %,d MiB%n",
            paths,
            named,
            how.word(),
            carried.rights().size(),
            millis,
            carried.proposal("").steps().size(),
            used());
      }
    }
  }

  private static void rights(Assessment assessment) {
    AccessModel model = assessment.model();
    for (int pairs : new int[] {100, 1_000}) {
      Random random = new Random(pairs);
      Map<Integer, Integer> counterparts = new LinkedHashMap<>();
      int half = model.facts().accounts() / 2;
      while (counterparts.size() < pairs) {
        counterparts.put(random.nextInt(half), half + random.nextInt(half));
      }
      long begin = System.nanoTime();
      Carried carried = new Carry(model, counterparts, CarryPlan.USUAL).make();
      double proposed = since(begin);
      begin = System.nanoTime();
      LossAndGain result =
          LossAndGain.of(assessment, counterparts, carried.proposal("").on(model).changes());
      System.out.printf(
          "%,d pairs: %,d rights proposed in %,.0f ms; what each loses and gains in %,.0f ms,"
              + " %,d rights looked at, %,d others, %,d MiB%n",
          pairs,
          carried.rights().size(),
          proposed,
          since(begin),
          result.persons().stream().mapToInt(person -> person.cells().size()).sum(),
          result.others().gives().size() + result.others().ends().size(),
          used());
    }
  }

  private static int number(AccessModel model, String login) {
    return model.facts().names().find(SubjectKind.ACCOUNT, login, login).get(0);
  }

  private static void host(Path file, String letter, int first) throws IOException {
    StringBuilder out = new StringBuilder("root:x:0:0::/:/\n");
    for (int i = 0; i < USERS; i++) {
      out.append(letter).append(i).append(":x:").append(first + i).append(":100::/:/bin/sh\n");
    }
    Files.writeString(file, out.append("root:x:0:\nusers:x:100:\n").toString());
  }

  private static void tree(Path file, int paths, int named) throws IOException {
    Random random = new Random(7);
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      for (int p = 0; p < paths; p++) {
        StringBuilder path = new StringBuilder();
        for (int at = p; at > 0; at = (at - 1) / WIDE) {
          path.insert(0, "/d" + at);
        }
        out.write("# file: " + (p == 0 ? "/" : path) + "\n# owner: o" + random.nextInt(USERS));
        out.write("\n# group: users\nuser::rwx\n");
        int first = random.nextInt(USERS);
        for (int n = 0; n < named; n++) {
          out.write("user:o" + (first + n * 7) % USERS + ":r-x\n");
        }
        out.write("group::r-x\nmask::r-x\nother::---\n\n");
      }
    }
  }
}
