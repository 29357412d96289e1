package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Triage.Waived;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.report.data.Prose;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.report.findings.Said;

/** One finding with all there is, as text for a terminal. */
public final class FindingDetail {
  private static final int MOST = 12;

  private final AnswerContext ask;
  private final Finding finding;
  private final Said said;
  private final Advice advice;
  private final AdviceWords words;

  /** Words for one finding of a model. */
  public FindingDetail(AnswerContext ask, Assessment assessment, Finding finding, Advice advice) {
    this.ask = ask;
    this.finding = finding;
    this.said = FindingWords.of(finding);
    this.advice = advice;
    this.words = new AdviceWords(assessment);
  }

  /**
   * All of it.
   *
   * @param seen when it was seen first and last, in words; empty when there are no surveys
   * @param waived the waiver that covers it, if one does
   */
  public String text(String seen, Optional<Waived> waived, Prose out) {
    out.title(FindingAnswers.capital(said.sentence()) + ".");
    out.fact(
        "as of "
            + ask.moment(ask.model().asOf().getEpochSecond())
            + " · "
            + finding.kind().id()
            + (finding.rule().isEmpty() ? "" : " · " + finding.rule())
            + (seen.isEmpty() ? "" : " · " + seen));
    out.section("Why it weighs " + finding.weight().word());
    said.why().forEach(reason -> out.item("- ", reason));
    concerns(out);
    evidence(out);
    advice(out);
    if (waived.isPresent()) {
      accepted(waived.get(), out);
    } else {
      howToAccept(out);
    }
    return out.text();
  }

  private void concerns(Prose out) {
    List<Key> subjects = finding.subjects();
    if (subjects.isEmpty()) {
      return;
    }
    out.section("Concerns " + AnswerContext.count(subjects.size(), "subject", "subjects"));
    String names = subjects.stream().limit(MOST).map(ask::name).collect(Collectors.joining(", "));
    out.item(
        "", names + (subjects.size() > MOST ? " and " + (subjects.size() - MOST) + " more" : ""));
  }

  private void evidence(Prose out) {
    if (finding.evidence().isEmpty()) {
      return;
    }
    out.section("Evidence");
    boolean drawn = false;
    for (Evidence one : finding.evidence()) {
      if (one.route().isPresent()) {
        if (drawn) {
          out.gap();
        }
        SystemView view = ask.model().systems().get(one.system());
        new RouteText(ask.model(), out).draw(view, one.route().get());
        drawn = true;
      } else {
        out.item("- ", FindingWords.evidence(finding, one));
      }
    }
  }

  private void advice(Prose out) {
    out.section("What ends it (" + finding.kind().mend().words() + ")");
    out.item("", FindingAnswers.capital(said.advice()) + ".");
    if (advice.changes().isEmpty()) {
      if (advice.result().filter(r -> r == Removal.Result.NONE_ENDS_IT).isPresent()) {
        out.item("", "No removal of a membership, assignment or entry ends it.");
      } else if (advice.result().filter(r -> r == Removal.Result.NONE_ALLOWED).isPresent()) {
        out.item("", "No removal ends it that leaves alone what must stay (findings: removals).");
      } else if (advice.result().filter(r -> r == Removal.Result.GAVE_UP).isPresent()) {
        out.item("", "The search for removals gave up at its bound; there may be some.");
      }
      return;
    }
    out.section("The least removals (" + words.proof(advice) + ")");
    List<String> changes = words.changes(advice.changes());
    for (int i = 0; i < changes.size(); i++) {
      out.item((i + 1) + ". ", changes.get(i));
    }
    boolean nothing = advice.changesNothing();
    out.section(nothing ? "They change nothing that anybody holds" : "They end");
    some(words.endsInBrief(advice), out);
    List<String> gives = words.givesInBrief(advice);
    if (!gives.isEmpty()) {
      out.section("And they give");
      some(gives, out);
    } else if (!nothing) {
      out.item("", "and give nobody anything.");
    }
  }

  private static void some(List<String> lines, Prose out) {
    lines.stream().limit(MOST).forEach(line -> out.item("- ", line));
    if (lines.size() > MOST) {
      out.item("", "… and " + (lines.size() - MOST) + " more");
    }
  }

  private static void accepted(Waived waived, Prose out) {
    out.section(
        "Accepted by " + waived.waiver().acceptedBy() + " until " + waived.waiver().until());
    out.item("", waived.waiver().reason());
    if (!waived.waiver().control().isEmpty()) {
      out.item("", "instead: " + waived.waiver().control());
    }
  }

  private void howToAccept(Prose out) {
    out.section("To accept it instead, in the file that waivers: names");
    List<String> lines = new ArrayList<>();
    lines.add("  - finding: \"" + finding.key().text() + "\"");
    if (finding.subjects().size() > 1) {
      lines.add(
          "    subjects: ["
              + finding.subjects().stream()
                  .limit(MOST)
                  .map(key -> "\"" + key.text() + "\"")
                  .collect(Collectors.joining(", "))
              + (finding.subjects().size() > MOST ? ", ..." : "")
              + "]");
    }
    int year = ask.model().asOf().atZone(ask.zone()).getYear() + 1;
    lines.add("    accepted-by: WHO");
    lines.add("    reason: WHY");
    lines.add("    until: " + year + "-MM-DD");
    lines.add("    control: WHAT IS DONE INSTEAD");
    lines.forEach(out::exact);
  }
}
