package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Waiver;
import org.sobercompass.core.key.Key;

/**
 * Findings sorted into open and waived. A waiver covers the subjects it names: with a new one the
 * finding is open again; after its last day it covers nothing.
 *
 * @param open what is not accepted, in the order given
 * @param waived what is, with the waiver
 * @param told what is to be said of waivers: over, covering a part, matching nothing
 */
public record Triage(List<Finding> open, List<Waived> waived, List<String> told) {

  /** A finding and the waiver that covers it. */
  public record Waived(Finding finding, Waiver waiver) {}

  /** Sorts findings by waivers, as of an epoch second. */
  public static Triage of(List<Finding> findings, List<Waiver> waivers, long asOf) {
    Map<String, List<Waiver>> byFinding = new HashMap<>();
    waivers.forEach(
        waiver -> byFinding.computeIfAbsent(waiver.finding(), f -> new ArrayList<>()).add(waiver));
    List<Finding> open = new ArrayList<>();
    List<Waived> waived = new ArrayList<>();
    List<String> told = new ArrayList<>();
    Set<String> met = new HashSet<>();
    for (Finding finding : findings) {
      String key = finding.key().text();
      met.add(key);
      Waived by = null;
      for (Waiver waiver : byFinding.getOrDefault(key, List.of())) {
        String against = against(finding, waiver, asOf);
        if (against.isEmpty()) {
          by = new Waived(finding, waiver);
        } else {
          told.add(waiver.place() + ": " + against);
        }
      }
      if (by == null) {
        open.add(finding);
      } else {
        waived.add(by);
      }
    }
    for (Waiver waiver : waivers) {
      if (!met.contains(waiver.finding())) {
        told.add(
            waiver.place()
                + ": the waiver of "
                + waiver.acceptedBy()
                + " matches no finding any more; take it out");
      }
    }
    return new Triage(List.copyOf(open), List.copyOf(waived), List.copyOf(told));
  }

  /** Why a waiver does not cover a finding; empty when it does. */
  private static String against(Finding finding, Waiver waiver, long asOf) {
    if (asOf >= waiver.ends()) {
      return "the waiver of "
          + waiver.acceptedBy()
          + " ended on "
          + waiver.until()
          + "; the finding is open again";
    }
    List<String> others =
        finding.subjects().stream()
            .map(Key::text)
            .filter(subject -> !waiver.subjects().contains(subject))
            .toList();
    boolean one = finding.subjects().size() <= 1 && waiver.subjects().isEmpty();
    if (others.isEmpty() || one) {
      return "";
    }
    return "the waiver of "
        + waiver.acceptedBy()
        + " does not name "
        + Words.count(others.size(), "subject", "subjects")
        + " of the finding, which is open: "
        + String.join(", ", others.stream().limit(3).toList())
        + (others.size() > 3 ? " and more" : "");
  }
}
