package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Concerned;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.sources.NameResolver;
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

  List<Finding> of(List<Finding> findings, Inputs inputs, Assessment assessment) {
    List<FindingKind> asked = kinds.stream().map(FindingFilter::kind).toList();
    String app = application == null ? "" : inputs.names().application(application).id();
    Concerned concerned = new Concerned(assessment);
    List<String> keys = about == null ? List.of() : keys(inputs, about);
    List<String> owners = owner == null ? List.of() : keys(inputs, owner);
    return findings.stream()
        .filter(f -> f.weight().compareTo(weight) >= 0)
        .filter(f -> asked.isEmpty() || asked.contains(f.kind()))
        .filter(f -> app.isEmpty() || concerned.systems(f).contains(app))
        .filter(f -> about == null || concerns(f, keys))
        .filter(f -> owner == null || isOwned(f, assessment, owners))
        .toList();
  }

  private static boolean concerns(Finding finding, List<String> keys) {
    return keys.contains(finding.cause().text())
        || finding.subjects().stream().anyMatch(key -> keys.contains(key.text()));
  }

  /** The keys of the one account or group with a name. */
  private static List<String> keys(Inputs inputs, String name) {
    Facts facts = inputs.model().facts();
    List<Integer> found = new ArrayList<>();
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP)) {
      found.addAll(NameResolver.find(facts, kind, name));
    }
    if (found.isEmpty()) {
      return List.of(facts.key(inputs.names().account(name)).text());
    }
    return found.stream().map(subject -> facts.key(subject).text()).toList();
  }

  private static boolean isOwned(Finding finding, Assessment assessment, List<String> owners) {
    Facts facts = assessment.model().facts();
    String app =
        finding.cause().kind() == KeyKind.APPLICATION ? finding.cause().id() : finding.system();
    Integer ofApplication = assessment.owned().applications().get(app);
    // An assignment of an admin role ends with its scope.
    String id = finding.cause().id();
    boolean ofRole = finding.cause().source().equals("admin");
    Integer ofScope =
        finding.cause().source().equals("scope") || ofRole
            ? assessment.owned().scopes().get(ofRole ? id.substring(id.lastIndexOf('/') + 1) : id)
            : null;
    for (Integer by : Arrays.asList(ofApplication, ofScope)) {
      if (by != null && owners.contains(facts.key(by).text())) {
        return true;
      }
    }
    return finding.cause().kind() == KeyKind.GROUP && isOwnedGroup(finding, assessment, owners);
  }

  private static boolean isOwnedGroup(Finding finding, Assessment assessment, List<String> owners) {
    Facts facts = assessment.model().facts();
    String key = finding.cause().text();
    for (int group : facts.names().find(SubjectKind.GROUP, key, key)) {
      for (String attribute : assessment.rules().ownerAttributes()) {
        for (String dn : facts.values(group, attribute)) {
          for (int by : NameResolver.find(facts, SubjectKind.ACCOUNT, dn)) {
            if (owners.contains(facts.key(by).text())) {
              return true;
            }
          }
        }
      }
    }
    return false;
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
