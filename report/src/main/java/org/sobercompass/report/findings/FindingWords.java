package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.system.remark.Remarked;

/**
 * What is said of findings. Words are made each time they are asked for; what they are made of is
 * looked up once, see {@link org.sobercompass.core.findings.Found}. Thread-safe.
 */
public final class FindingWords {
  static final ByType<Naming, Details, Said> DETAILS = details();
  static final ByType<Naming, Evidence, String> EVIDENCE = EvidenceWords.all();

  static final ByType<Place, Remarked, RemarkWords.Text> REMARKS = RemarkWords.all();

  private FindingWords() {}

  private static ByType<Naming, Details, Said> details() {
    ByType<Naming, Details, Said> all = new ByType<>();
    AccountWords.add(all);
    AdminGrantWords.add(all);
    DelegationWords.add(all);
    GrantWords.add(all);
    GroupWords.add(all);
    ListWords.add(all);
    PowerWords.add(all);
    SeparationWords.add(all);
    SourceWords.add(all);
    UseWords.add(all);
    return all;
  }

  /** All that is said of a finding, but for what shows it. */
  public static Said of(Finding finding) {
    Said said = DETAILS.of(naming(finding), finding.details());
    if (!finding.isWeighed()) {
      return said;
    }
    List<String> why = new ArrayList<>(said.why());
    why.add("the workspace says " + finding.weight().word());
    return new Said(why, said.sentence(), said.advice());
  }

  /** What was found, one sentence without a full stop. */
  public static String sentence(Finding finding) {
    return of(finding).sentence();
  }

  /** What shows it, one line each. */
  public static List<String> evidence(Finding finding) {
    Naming naming = naming(finding);
    return finding.evidence().stream().map(one -> EVIDENCE.of(naming, one)).toList();
  }

  /** One piece of what shows a finding. */
  public static String evidence(Finding finding, Evidence one) {
    return EVIDENCE.of(naming(finding), one);
  }

  private static Naming naming(Finding finding) {
    return new Naming(finding.found().model(), finding.kind());
  }
}
