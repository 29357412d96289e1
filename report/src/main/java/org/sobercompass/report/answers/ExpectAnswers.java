package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.expect.Outcome;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.data.AnswerTable;

/** Checked expectations as a sheet. Immutable and thread-safe. */
public final class ExpectAnswers {
  private final AnswerContext ask;

  /** Words for the expectations checked on a model. */
  public ExpectAnswers(AnswerContext ask) {
    this.ask = ask;
  }

  /** All of them, those that do not hold first. */
  public AnswerTable sheet(List<Outcome> outcomes) {
    AnswerTable.Builder sheet =
        ask.begin("expect/1", "answer", "expectation", "name", "what came", "against", "reasons");
    for (Verdict verdict : List.of(Verdict.NO, Verdict.UNDECIDED, Verdict.YES)) {
      for (Outcome outcome : outcomes) {
        if (outcome.verdict() == verdict) {
          sheet.row(
              sign(verdict),
              outcome.expectation().id(),
              outcome.expectation().name(),
              outcome.sentence(),
              outcome.against().stream().map(a -> ask.model().facts().key(a).text()).toList(),
              outcome.lines());
        }
      }
    }
    return ask.finish(sheet.heading(heading(outcomes)));
  }

  /** The same for a terminal: the reasons stand below, one a line. */
  public AnswerTable brief(List<Outcome> outcomes) {
    AnswerTable sheet = sheet(outcomes).without("against").without("reasons");
    for (Outcome outcome : outcomes) {
      for (String line : outcome.lines()) {
        sheet = sheet.withNote(outcome.expectation().id() + ": " + line + ".");
      }
    }
    return sheet;
  }

  private static String sign(Verdict verdict) {
    return switch (verdict) {
      case YES -> "+ holds";
      case NO -> "x fails";
      case UNDECIDED -> "? undecided";
    };
  }

  private static String heading(List<Outcome> outcomes) {
    long holds = outcomes.stream().filter(o -> o.verdict() == Verdict.YES).count();
    long fails = outcomes.stream().filter(o -> o.verdict() == Verdict.NO).count();
    long open = outcomes.size() - holds - fails;
    if (outcomes.isEmpty()) {
      return "No expectations are stated; expectations: in compass.yaml names the file.";
    }
    List<String> parts = new ArrayList<>();
    if (fails > 0) {
      parts.add(fails + (fails == 1 ? " fails" : " fail"));
    }
    if (open > 0) {
      parts.add(open + (open == 1 ? " is undecided" : " are undecided"));
    }
    return parts.isEmpty()
        ? "All " + outcomes.size() + " expectations hold."
        : holds
            + " of "
            + outcomes.size()
            + " expectations hold; "
            + String.join(", ", parts)
            + ".";
  }
}
