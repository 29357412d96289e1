package org.sobercompass.organization;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.sources.workspace.Surveys;
import org.sobercompass.sources.workspace.Workspace;

/** When findings were seen first and last, over the surveys of a workspace. */
public final class FindingHistory {
  private FindingHistory() {}

  /** The keys of all findings of a survey, by the mapping and the rules it was taken with. */
  public static Set<String> keys(Path survey) {
    Set<String> keys = new HashSet<>();
    keys(Workspace.ofSurvey(survey, Set.of()), keys);
    return keys;
  }

  private static Instant keys(Workspace workspace, Set<String> keys) {
    Instant at = workspace.usualTime();
    for (Finding finding :
        Findings.of(workspace.assessment(workspace.model(at, java.util.Optional.empty())))) {
      keys.add(finding.key().text());
    }
    return at;
  }

  /**
   * For each finding the day it was first and last seen: in the surveys, and now.
   *
   * @param day a moment as a day
   */
  public static Map<String, List<String>> of(
      Path root,
      List<Finding> now,
      Instant asOf,
      java.util.function.Function<Instant, String> day) {
    Map<String, List<Instant>> seen = new HashMap<>();
    for (Path survey : Surveys.all(root)) {
      Set<String> keys = new HashSet<>();
      Instant at = keys(Workspace.ofSurvey(survey, Set.of()), keys);
      keys.forEach(key -> seen.computeIfAbsent(key, k -> new ArrayList<>()).add(at));
    }
    now.forEach(
        finding -> seen.computeIfAbsent(finding.key().text(), k -> new ArrayList<>()).add(asOf));
    Map<String, List<String>> days = new HashMap<>();
    seen.forEach(
        (key, times) -> {
          Instant first = times.stream().min(Instant::compareTo).orElseThrow();
          Instant last = times.stream().max(Instant::compareTo).orElseThrow();
          days.put(key, List.of(day.apply(first), day.apply(last)));
        });
    return days;
  }
}
