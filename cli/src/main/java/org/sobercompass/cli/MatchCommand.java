package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.crosswalk.Crosswalk.Doubt;
import org.sobercompass.core.crosswalk.CrosswalkTable;
import org.sobercompass.core.crosswalk.CrosswalkTable.Row;
import org.sobercompass.core.crosswalk.Matched;
import org.sobercompass.core.crosswalk.Ruling;
import org.sobercompass.core.crosswalk.Sureness;
import org.sobercompass.report.answers.CrosswalkAnswers;
import org.sobercompass.report.data.AnswerTable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober match}. */
@Command(
    name = "match",
    mixinStandardHelpOptions = true,
    description = {
      "Finds who of one directory is who of another, with how sure that is, why, and which rights"
          + " would come with it.",
      "With --write the table is kept; somebody looks at it, puts yes or never into the column"
          + " decision, and sober carry takes what was accepted.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober match fernhollow alderfen",
      "  sober match fernhollow alderfen ibrandt rholm",
      "  sober match desks alderfen --by employeeNumber --by name",
      "  sober match fernhollow alderfen --accept certain --as \"Ilse Brandt\"",
      "  sober match fernhollow alderfen --accept rholm=rhea.jarrow --never nfarrow=nils.farrow"
          + " --as \"Ilse Brandt\"",
      "  sober match fernhollow alderfen --make new.ldif",
      "What is certain rests on two kinds of evidence with nothing against it. A value that more"
          + " than five have",
      "is no evidence. Directories, bases, filters and attributes stand in compass.yaml"
          + " (crosswalks)."
    })
final class MatchCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      arity = "0..1",
      paramLabel = "FROM",
      description = "the directory whose accounts are looked for")
  private @Nullable String from;

  @Parameters(
      index = "1",
      arity = "0..1",
      paramLabel = "TO",
      description = "the directory in which they are looked for")
  private @Nullable String to;

  @Parameters(index = "2..*", paramLabel = "ACCOUNT", description = "show only these of FROM")
  private List<String> only = new ArrayList<>();

  @Option(
      names = "--by",
      paramLabel = "ATTRIBUTE",
      description =
          "compare this attribute, or two as in employeeNumber=serialNumber, in place of what"
              + " compass.yaml says; name and login stand for whatever holds them")
  private List<String> by = new ArrayList<>();

  @Option(names = "--write", description = "keep the table in the workspace")
  private boolean write;

  @Option(
      names = "--accept",
      paramLabel = "WHICH",
      description = "accept certain, likely, or a pair as in rholm=rhea.jarrow; keeps the table")
  private List<String> accept = new ArrayList<>();

  @Option(
      names = "--never",
      paramLabel = "PAIR",
      description = "say that two are not the same; keeps the table")
  private List<String> never = new ArrayList<>();

  @Option(names = "--as", paramLabel = "WHO", description = "who says so, for the table")
  private String who = "";

  @Option(
      names = "--make",
      paramLabel = "FILE",
      description =
          "write accounts and groups that have no counterpart into this .ldif file, to be made"
              + " there; compass.yaml says where (crosswalks: new)")
  private @Nullable Path make;

  @Override
  public Integer call() {
    Matching matching = new Matching(inputs, from, to, by);
    Matched matched = matching.crosswalks().match();
    CrosswalkTable table = matching.table(matched);
    for (String which : accept) {
      table = matching.ruled(table, matched, which, Ruling.SAME, who);
    }
    for (String pair : never) {
      table = matching.ruled(table, matched, pair, Ruling.NEVER, who);
    }
    CrosswalkAnswers answers = new CrosswalkAnswers(inputs.judgedAsk());
    AnswerTable whole = answers.table(table, matched);
    print(only.isEmpty() ? whole : answers.table(matching.only(table, only), matched));
    int said = table.ruled() - matching.table(matched).ruled();
    if (!accept.isEmpty() || !never.isEmpty()) {
      inputs.err().println("Decided now: " + said + (said == 1 ? " pair." : " pairs."));
    }
    boolean keep = write || !accept.isEmpty() || !never.isEmpty();
    if (keep) {
      Path written = matching.write(table, whole);
      inputs
          .err()
          .println(
              "Written: "
                  + written
                  + ". Put yes or never into its column decision, or use --accept; then: sober"
                  + " carry "
                  + table.from()
                  + " "
                  + table.to()
                  + ".");
      matching.tellUndeclared();
    } else if (table.rows().stream().anyMatch(MatchCommand::isProposed)) {
      inputs.err().println("Nothing is kept yet: --write keeps the table, --accept decides.");
    }
    if (make != null) {
      matching.making(matched).write(make).forEach(line -> inputs.err().println(line + "."));
    }
    return matched.doubts().stream().anyMatch(Doubt::isWrong) ? Exit.INPUT : Exit.OK;
  }

  private static boolean isProposed(Row row) {
    return row.sure().filter(sure -> sure != Sureness.NONE).isPresent();
  }

  private void print(AnswerTable table) {
    AnswerTable shown = table;
    if (inputs.isTable()) {
      for (String column : CrosswalkAnswers.BESIDE) {
        shown = shown.without(column);
      }
    }
    inputs.print(shown);
  }
}
