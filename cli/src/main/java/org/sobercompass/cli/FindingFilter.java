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
      description = "this weight and above: low, medium or high (default: low)")
  private Weight weight = Weight.LOW;

  @Option(names = "--kind", paramLabel = "KIND", description = "one kind, as listed; or several")
  private List<String> kinds = List.of();

  @Option(names = "--app", paramLabel = "APP", description = "that concern one application")
  private @Nullable String application;

  @Option(
      names = "--about",
      paramLabel = "NAME",
      description = "that concern an account or group, or come from it")
  private @Nullable String about;

  @Option(
      names = "--owner",
      paramLabel = "NAME",
      description = "of applications, scopes and groups that somebody answers for")
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
