package org.sobercompass.cli;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Findings;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.report.answers.FindingAnswers;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** {@code sober findings}. */
@Command(
    name = "findings",
    mixinStandardHelpOptions = true,
    description = "What should not be: excessive, conflicting and broken rights, worst first.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober findings",
      "  sober findings --weight high",
      "  sober findings --kind redundant --detail 1",
      "Exit code 1 when there are any at the asked weight."
    })
final class FindingsCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Option(
      names = "--weight",
      paramLabel = "WEIGHT",
      description = "this weight and above: low, medium or high (default: low)")
  private Weight weight = Weight.LOW;

  @Option(names = "--kind", paramLabel = "KIND", description = "one kind, as listed")
  private @Nullable String kind;

  @Option(
      names = "--detail",
      paramLabel = "NO",
      description = "evidence and advice for one, by its number in the list")
  private int detail;

  @Override
  public Integer call() {
    List<Finding> findings =
        Findings.of(inputs.workspace().judged(inputs.model())).stream()
            .filter(finding -> finding.weight().compareTo(weight) >= 0)
            .filter(finding -> kind == null || finding.kind() == kind(kind))
            .toList();
    FindingAnswers answers = new FindingAnswers(inputs.ask());
    if (detail > 0 && detail <= findings.size()) {
      inputs.print(
          inputs.isTable()
              ? answers.detail(findings.get(detail - 1))
              : answers.full(List.of(findings.get(detail - 1))));
    } else if (detail != 0) {
      throw new UsageException(
          "--detail " + detail + ": there are " + findings.size() + " findings in this list");
    } else {
      inputs.print(inputs.isTable() ? answers.brief(findings) : answers.full(findings));
    }
    return findings.isEmpty() ? Exit.OK : Exit.NO;
  }

  private static FindingKind kind(String text) {
    List<String> known = Arrays.stream(FindingKind.values()).map(FindingKind::id).toList();
    return Arrays.stream(FindingKind.values())
        .filter(k -> k.id().equals(text.toLowerCase(Locale.ROOT)))
        .findFirst()
        .orElseThrow(
            () ->
                new UsageException(
                    "there is no kind of finding "
                        + text
                        + Spelling.nearest(text, known)
                            .map(n -> "; did you mean " + n + "?")
                            .orElse("")
                        + "\nthere are: "
                        + String.join(", ", known)));
  }
}
