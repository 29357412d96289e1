package org.sobercompass.cli;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.organization.FindingQuery;
import picocli.CommandLine.Option;

/** Which findings are asked for. */
final class FindingFilter {
  @Option(
      names = "--weight",
      paramLabel = "WEIGHT",
      description = "only findings of this weight and above: low, medium or high (default: low)")
  private Weight weight = Weight.LOW;

  @Option(
      names = "--kind",
      paramLabel = "KIND",
      description = "only findings of this kind; can be repeated")
  private List<String> kinds = List.of();

  @Option(names = "--app", paramLabel = "APP", description = "only findings about this application")
  private @Nullable String application;

  @Option(
      names = "--about",
      paramLabel = "NAME",
      description = "only findings about this account or group, or caused by it")
  private @Nullable String about;

  @Option(
      names = "--owner",
      paramLabel = "NAME",
      description =
          "only findings about applications, scopes and groups that this account or group owns")
  private @Nullable String owner;

  /** What is asked for. */
  FindingQuery query() {
    return new FindingQuery(
        weight,
        kinds.stream().map(FindingQuery::kind).toList(),
        Optional.ofNullable(application),
        Optional.ofNullable(about),
        Optional.ofNullable(owner));
  }
}
