package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.report.answers.AccountAnswers;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/** The demo gives what ANSWERS.md says, which was written before the evaluator ran. */
class AnswerKeyTest {
  @TempDir static Path demo;
  private static Workspace workspace;
  private static AnswerContext ask;

  /** What is in these has a key of its own, {@link ListKeyTest}. */
  private static final List<String> OF_LISTS =
      List.of("Field-notes share", "Fernhollow file host", "Field-book database");

  private static final String READER =
      "Seedbook accessions:view W,Seedbook accessions/loans:view W,Seedbook"
          + " accessions/provenance:view W,Seedbook labels:view W";
  private static final String PANEL =
      "Climate panel heating:view everywhere,Climate panel vents:adjust everywhere,Climate panel"
          + " misting:adjust everywhere";
  private static final String NOTES_READER =
      "Field notes notes:view everywhere,Field notes photos:view everywhere";

  @BeforeAll
  static void readTheDemo() {
    DemoFiles.write(demo);
    workspace = Workspace.open(demo);
    ask = new AnswerContext(workspace.model(), workspace.zone(), workspace.problems());
  }

  private static String keeper(String where) {
    return List.of("accessions:edit", "accessions/loans:edit", "labels:edit", "labels:print")
        .stream()
        .map(right -> "Seedbook " + right + " " + where)
        .collect(Collectors.joining(","));
  }

  private static TreeSet<String> set(String... parts) {
    TreeSet<String> all = new TreeSet<>();
    for (String part : parts) {
      all.addAll(Arrays.asList(part.split(",")));
    }
    return all;
  }

  private static String reader(String where) {
    return READER.replace(" W", " " + where);
  }

  private static TreeSet<String> held(String login, String sign) {
    List<Integer> found = NameResolver.find(workspace.facts(), SubjectKind.ACCOUNT, login);
    assertThat(found).hasSize(1);
    TreeSet<String> held = new TreeSet<>();
    for (List<Object> row : new AccountAnswers(ask).brief(found.get(0)).rows()) {
      if (OF_LISTS.contains(String.valueOf(row.get(0)))) {
        continue;
      }
      boolean panel = row.get(0).equals("Climate panel");
      assertThat(row.get(3)).as(login + " " + row).isEqualTo(panel ? "+ usable" : sign);
      held.add(row.get(0) + " " + row.get(1) + " " + row.get(2));
    }
    return held;
  }

  private static final String ROUNDS = "Rounds rounds:plan arboretum,Rounds tools:view arboretum";
  private static final String DOOR = "Doors door:open everywhere except vault," + ROUNDS;

  private static final Map<String, TreeSet<String>> USABLE =
      Map.ofEntries(
          Map.entry(
              "ilse.brandt",
              set(
                  reader("everywhere"),
                  "Orders orders:raise everywhere",
                  "Orders suppliers:view everywhere",
                  "Orders payments:sign everywhere",
                  DOOR,
                  NOTES_READER,
                  PANEL)),
          Map.entry(
              "joss.merrin",
              set(
                  reader("everywhere"),
                  "Orders orders:view everywhere",
                  "Orders suppliers:view everywhere",
                  DOOR,
                  PANEL)),
          Map.entry(
              "edda.voss",
              set(
                  reader("everywhere"),
                  "Orders orders:raise office",
                  "Orders suppliers:view office",
                  "Orders payments:sign office",
                  DOOR,
                  NOTES_READER,
                  PANEL)),
          Map.entry(
              "maren.holt",
              set(
                  reader("everywhere"),
                  "Orders orders:view everywhere",
                  "Orders payments:view everywhere",
                  "Orders suppliers:view everywhere",
                  DOOR,
                  "Doors door:hold everywhere except vault",
                  NOTES_READER,
                  PANEL)),
          Map.entry(
              "tova.quill",
              set(
                  reader("everywhere"),
                  "Seedbook exports:approve everywhere",
                  "Permits permits:issue vault",
                  "Permits inspections:view vault",
                  "Doors door:open everywhere",
                  ROUNDS,
                  "Doors door:hold cold-room",
                  NOTES_READER,
                  PANEL)),
          Map.entry(
              "bram.ostler",
              set(
                  reader("everywhere"),
                  "Seedbook exports:approve everywhere",
                  "Permits permits:issue vault",
                  "Permits inspections:view vault",
                  "Doors door:open everywhere except cold-room",
                  ROUNDS,
                  NOTES_READER,
                  PANEL)),
          Map.entry(
              "nils.farrow",
              set(
                  reader("everywhere"),
                  keeper("alpine-house"),
                  DOOR,
                  "Field notes notes:write everywhere",
                  "Field notes photos:write everywhere",
                  PANEL)),
          Map.entry(
              "wren.calloway",
              set(
                  reader("everywhere"),
                  keeper("herbarium").replace("loans:edit", "loans:approve"),
                  DOOR,
                  "Field notes notes:write everywhere",
                  "Field notes photos:write everywhere",
                  PANEL)),
          Map.entry(
              "ada.fenwick",
              set(reader("glasshouses"), "Doors door:open glass", NOTES_READER, PANEL)),
          Map.entry("lio.harrow", set(reader("everywhere"), DOOR, NOTES_READER, PANEL)),
          Map.entry(
              "sunniva.dale",
              set(
                  registrar(),
                  DOOR,
                  "Field notes notes:moderate everywhere",
                  "Field notes photos:moderate everywhere",
                  PANEL)),
          Map.entry("svc-labels", set(NOTES_READER, PANEL)),
          Map.entry(
              "dsorrel",
              set(
                  "Member ledger members:edit everywhere",
                  "Member ledger fees:edit everywhere",
                  PANEL)),
          Map.entry("hpine", set("Member ledger members:edit everywhere", PANEL)));

  private static String registrar() {
    return List.of("accessions", "accessions/loans", "accessions/provenance", "labels", "exports")
        .stream()
        .map(
            area ->
                "Seedbook " + area + ":approve everywhere,Seedbook " + area + ":print everywhere")
        .collect(Collectors.joining(","));
  }

  @Test
  void everyUsableAccountOfTheKeyHoldsExactlyWhatItSays() {
    USABLE.forEach(
        (login, expected) -> {
          TreeSet<String> held = held(login, "+ usable");
          // A keeper sees at its node what a reader sees everywhere; only what goes beyond is in
          // the key.
          held.removeIf(
              line ->
                  line.contains("Seedbook")
                      && !expected.contains(line)
                      && isCovered(line, expected));
          assertThat(held).as(login).isEqualTo(expected);
        });
  }

  /** A view that holds everywhere but where a higher level begins is said as an exception. */
  private static boolean isCovered(String line, TreeSet<String> expected) {
    String everywhere = line.replaceAll(" except .*", "");
    return line.contains(":view ") && expected.contains(everywhere);
  }

  @Test
  void theDisabledAccountHoldsButCannotUse() {
    assertThat(held("oskar.lund", "x blocked"))
        .isEqualTo(
            set(
                reader("everywhere"),
                keeper("vault"),
                "Doors door:open everywhere",
                ROUNDS,
                "Doors door:hold cold-room",
                NOTES_READER,
                PANEL));
  }

  @Test
  void theExpiredAccountHoldsButCannotUse() {
    assertThat(held("petra.vance", "x blocked"))
        .isEqualTo(
            set(
                keeper("glasshouses"),
                "Seedbook accessions/provenance:view glasshouses",
                "Permits permits:view everywhere",
                "Permits inspections:view everywhere",
                NOTES_READER,
                PANEL));
  }
}
