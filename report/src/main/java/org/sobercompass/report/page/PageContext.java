package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Concerning;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Owners;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.DelegationAnswers;
import org.sobercompass.report.answers.PowerAnswers;

/** What the sections of one page have in common. Not thread-safe. */
final class PageContext {
  /** So many rows of a table stand in a page. */
  static final int ROWS = 1_000;

  /** So many findings stand in a page in full. */
  static final int FINDINGS = 1_000;

  private final AnswerContext ask;
  private final Assessment assessment;
  private final Owners owners;
  private final Triage sorted;
  private final Links links;
  private final FindingList.Maker findings;
  private final Concerning concerning = new Concerning();
  private final Drawings drawings;
  private @Nullable DelegationAnswers delegations;

  PageContext(AnswerContext ask, Assessment assessment, Owners owners, Triage sorted) {
    this.ask = ask;
    this.assessment = assessment;
    this.owners = owners;
    this.sorted = sorted;
    this.drawings = new Drawings(ask.model(), assessment, sorted.open());
    this.links = new Links(ask.model().facts());
    this.findings = new FindingList.Maker(ask, assessment, owners, links);
  }

  /** The sections of a page, and the sentences above them. */
  record Draft(List<String> answers, List<Section> sections) {}

  AnswerContext ask() {
    return ask;
  }

  AccessModel model() {
    return ask.model();
  }

  Facts facts() {
    return ask.model().facts();
  }

  Assessment assessment() {
    return assessment;
  }

  Owners owners() {
    return owners;
  }

  Triage sorted() {
    return sorted;
  }

  Links links() {
    return links;
  }

  FindingList.Maker findings() {
    return findings;
  }

  Concerning concerning() {
    return concerning;
  }

  DelegationAnswers delegations() {
    DelegationAnswers known = delegations;
    if (known == null) {
      known = new DelegationAnswers(ask, assessment.powers(), Map.of(), Sddl::text);
      delegations = known;
    }
    return known;
  }

  Drawings drawings() {
    return drawings;
  }

  PowerAnswers powers() {
    return new PowerAnswers(ask, assessment.powers(), delegations(), Sddl::text);
  }

  /** The findings that fit, open and accepted. */
  Triage only(Predicate<Finding> fits) {
    return new Triage(
        sorted.open().stream().filter(fits).toList(),
        sorted.waived().stream().filter(waived -> fits.test(waived.finding())).toList(),
        List.of());
  }

  /** Each subject of a finding on its own is not told: how many there are of each weight. */
  static String byWeight(List<Finding> open) {
    List<String> parts = new ArrayList<>();
    for (Weight weight : List.of(Weight.HIGH, Weight.MEDIUM, Weight.LOW)) {
      long count = open.stream().filter(f -> f.weight() == weight).count();
      if (count > 0) {
        parts.add(count + " of " + weight.word() + " weight");
      }
    }
    return String.join(", ", parts);
  }
}
