package org.sobercompass.bench;

import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.zip.CRC32C;
import org.sobercompass.core.access.Progress;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.report.findings.Said;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Times all findings of a generated workspace, stage by stage, and separation of duties alone in
 * all its forms beside a sweep: {@code FindingsYardstick DIR [TRIES [all]]}.
 */
public final class FindingsYardstick {
  private FindingsYardstick() {}

  /** Runs it; with {@code all} without separation of duties apart. */
  public static void main(String[] args) {
    int tries = args.length > 1 ? Integer.parseInt(args[1]) : 3;
    long begin = System.nanoTime();
    Workspace workspace = Workspace.open(Path.of(args[0]));
    Stages stages = new Stages();
    Assessment assessment = workspace.assessment(workspace.model().telling(stages));
    System.out.printf(Locale.ROOT, "opened in %.1f s%n", (System.nanoTime() - begin) / 1e9);
    if (args.length < 3) {
      separation(assessment, tries);
    }
    stages.seconds.clear();
    List<Finding> found =
        Yardstick.timed(
            "all findings with their evidence",
            tries,
            () -> {
              List<Finding> all = Findings.of(assessment);
              Findings.lookUp(assessment.model(), all);
              stages.begin("");
              return all;
            });
    stages.tell(tries);
    Map<FindingKind, Integer> counts = new EnumMap<>(FindingKind.class);
    found.forEach(finding -> counts.merge(finding.kind(), 1, Integer::sum));
    System.out.printf(Locale.ROOT, "%,d findings: %s%n", found.size(), counts);
    System.out.printf("digest of all they say: %s%n", digest(found));
    System.out.printf(Locale.ROOT, "at most %,d MiB of heap in use%n", peak() >> 20);
  }

  /** The same for the same findings, word for word, in the same order. */
  private static String digest(List<Finding> findings) {
    CRC32C digest = new CRC32C();
    for (Finding finding : findings) {
      Said said = FindingWords.of(finding);
      List<String> texts = new ArrayList<>(said.why());
      texts.addAll(List.of(finding.key().text(), said.sentence(), said.advice(), finding.system()));
      texts.add(finding.weight().word());
      finding.subjects().forEach(key -> texts.add(key.text()));
      texts.addAll(FindingWords.evidence(finding));
      texts.forEach(text -> digest.update((text + "\n").getBytes(StandardCharsets.UTF_8)));
    }
    return Long.toHexString(digest.getValue());
  }

  private static long peak() {
    return ManagementFactory.getMemoryPoolMXBeans().stream()
        .filter(pool -> pool.getType() == MemoryType.HEAP)
        .map(MemoryPoolMXBean::getPeakUsage)
        .mapToLong(usage -> usage.getUsed())
        .sum();
  }

  /** The rules of the workspace near and far, per account and per person, beside a sweep. */
  static void separation(Assessment assessment, int tries) {
    for (SeparationRule.Where where : SeparationRule.Where.values()) {
      for (boolean perPerson : new boolean[] {false, true}) {
        List<SeparationRule> rules =
            assessment.rules().separation().stream().map(r -> r.held(where, perPerson)).toList();
        Assessment asked = assessment.by(FindingRules.of(rules));
        Yardstick.timed(
            "(beside it) swept and counted by the deciders",
            tries,
            () -> Yardstick.sweep(assessment.model(), 2));
        Map<String, Integer> counts =
            Yardstick.timed(
                "separation of duties "
                    + where.word()
                    + (perPerson ? ", per person" : ", per account"),
                tries,
                () -> Findings.conflicts(asked));
        int sum = counts.values().stream().mapToInt(Integer::intValue).sum();
        System.out.println("  " + sum + " conflicts with " + counts.size() + " rules");
      }
    }
  }

  /** How long each stage took. */
  private static final class Stages implements Progress {
    private final Map<String, Double> seconds = new LinkedHashMap<>();
    private String stage = "";
    private long since;

    @Override
    public void begin(String next) {
      long now = System.nanoTime();
      if (!stage.isEmpty()) {
        seconds.merge(stage, (now - since) / 1e9, Double::sum);
      }
      stage = next;
      since = now;
    }

    @Override
    public void at(int done, int all) {
      // Only the time of whole stages is asked.
    }

    private void tell(int tries) {
      seconds.forEach(
          (what, time) -> System.out.printf(Locale.ROOT, "  %-56s %8.2f s%n", what, time / tries));
    }
  }
}
