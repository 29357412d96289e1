package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Concerned;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Owners;
import org.sobercompass.report.answers.AdviceWords;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.FindingAnswers;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.report.findings.Said;
import org.sobercompass.report.picture.RouteDrawing;

/**
 * Findings as a page shows them.
 *
 * @param items the open ones
 * @param accepted those that somebody accepted
 * @param told what else is to be said of waivers
 * @param leftOut how many open ones are not in the page
 */
public record FindingList(
    List<Item> items, List<Accepted> accepted, List<String> told, int leftOut) {
  private static final int SUBJECTS = 30;

  /** Copies. */
  public FindingList {
    items = List.copyOf(items);
    accepted = List.copyOf(accepted);
    told = List.copyOf(told);
  }

  /**
   * A finding.
   *
   * @param applications the ids of those it concerns
   * @param owners who answers for them
   */
  public record Item(
      String id,
      String weight,
      String kind,
      List<String> applications,
      List<String> owners,
      String sentence,
      List<String> why,
      List<PageTable.Part> subjects,
      List<String> evidence,
      String advice,
      Ending ending,
      String key,
      String drawing) {}

  /** What ends a finding: removals, how sure it is, what else changes. */
  public record Ending(
      String mend, List<String> removals, String proof, List<String> ends, List<String> gives) {}

  /** A finding that somebody accepted. */
  public record Accepted(
      String id,
      String weight,
      String kind,
      String sentence,
      String by,
      String until,
      String reason,
      String control) {}

  /** Makes the lists of one page. Not thread-safe. */
  static final class Maker {
    private final AnswerContext ask;
    private final Assessment assessment;
    private final Owners owners;
    private final Links links;
    private final Concerned concerned;
    private final Map<String, Set<String>> known = new HashMap<>();
    private final Set<String> inPage = new HashSet<>();

    Maker(AnswerContext ask, Assessment assessment, Owners owners, Links links) {
      this.ask = ask;
      this.assessment = assessment;
      this.owners = owners;
      this.links = links;
      this.concerned = new Concerned(assessment);
    }

    /** The ids of the applications that a finding concerns. */
    Set<String> applications(Finding finding) {
      return known.computeIfAbsent(finding.id(), id -> concerned.systems(finding));
    }

    /** Whether a finding stands in the page. */
    boolean isShown(String id) {
      return inPage.contains(id);
    }

    /** The findings of a page, the first so many in full. */
    FindingList of(Triage sorted, int most) {
      List<Finding> open = sorted.open();
      List<Finding> shown = open.subList(0, Math.min(most, open.size()));
      boolean advised = shown.size() <= FindingAnswers.ADVISED;
      List<Item> items = new ArrayList<>();
      Set<String> met = new HashSet<>();
      for (Finding finding : shown) {
        String id = met.add(finding.id()) ? finding.id() : finding.id() + "-" + met.size();
        items.add(item(id, finding, advised));
        inPage.add(id);
      }
      return new FindingList(
          items,
          accepted(sorted),
          sorted.told().stream().map(line -> new FindingAnswers(ask).named(line)).toList(),
          open.size() - shown.size());
    }

    private Item item(String id, Finding finding, boolean advised) {
      AccessModel model = ask.model();
      List<PageTable.Part> subjects = new ArrayList<>();
      finding.subjects().stream()
          .limit(SUBJECTS)
          .forEach(key -> subjects.add(links.part(ask.name(key))));
      if (finding.subjects().size() > SUBJECTS) {
        subjects.add(
            new PageTable.Part("and " + (finding.subjects().size() - SUBJECTS) + " more", ""));
      }
      Said said = FindingWords.of(finding);
      return new Item(
          id,
          finding.weight().word(),
          finding.kind().id(),
          List.copyOf(applications(finding)),
          owners.of(finding).stream().map(s -> Words.subject(model.facts(), s)).toList(),
          FindingAnswers.capital(said.sentence()),
          said.why(),
          subjects,
          FindingWords.evidence(finding),
          FindingAnswers.capital(said.advice()),
          ending(finding, advised),
          finding.key().text(),
          advised ? new RouteDrawing(model).draw(finding.evidence()) : "");
    }

    private Ending ending(Finding finding, boolean advised) {
      AdviceWords words = new AdviceWords(assessment);
      Advice advice = advised ? Advice.of(assessment, finding) : Advice.NONE;
      return new Ending(
          finding.kind().mend().words(),
          words.changes(advice.changes()),
          words.proof(advice),
          words.endsInBrief(advice),
          words.givesInBrief(advice));
    }

    private static List<Accepted> accepted(Triage sorted) {
      return sorted.waived().stream()
          .map(
              waived ->
                  new Accepted(
                      waived.finding().id(),
                      waived.finding().weight().word(),
                      waived.finding().kind().id(),
                      FindingAnswers.capital(FindingWords.sentence(waived.finding())),
                      waived.waiver().acceptedBy(),
                      waived.waiver().until().toString(),
                      waived.waiver().reason(),
                      waived.waiver().control()))
          .toList();
    }
  }
}
