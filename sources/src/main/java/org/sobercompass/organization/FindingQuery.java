package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.sobercompass.core.audit.Concerned;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.sources.NameResolver;

/**
 * Which findings are asked for. Immutable.
 *
 * @param weight this weight and above
 * @param kinds the kinds; none for all
 * @param application that concern the application with this id
 * @param about that concern the account or group with this name, or come from it
 * @param owner of applications, scopes and groups that the account with this name answers for
 */
public record FindingQuery(
    Weight weight,
    List<FindingKind> kinds,
    Optional<String> application,
    Optional<String> about,
    Optional<String> owner) {
  /** All findings. */
  public static final FindingQuery ALL =
      new FindingQuery(Weight.LOW, List.of(), Optional.empty(), Optional.empty(), Optional.empty());

  /** Copies. */
  public FindingQuery {
    kinds = List.copyOf(kinds);
  }

  /** Those of some findings that are asked for, in their order. */
  public List<Finding> of(Organization organization, List<Finding> findings) {
    Assessment assessment = organization.assessment();
    Optional<String> app = application.map(id -> organization.names().application(id).id());
    Concerned concerned = new Concerned(assessment);
    Optional<List<String>> subjects = about.map(name -> keys(organization, name));
    Optional<List<String>> owners = owner.map(name -> keys(organization, name));
    return findings.stream()
        .filter(f -> f.weight().compareTo(weight) >= 0)
        .filter(f -> kinds.isEmpty() || kinds.contains(f.kind()))
        .filter(f -> app.isEmpty() || concerned.systems(f).contains(app.get()))
        .filter(f -> subjects.isEmpty() || concerns(f, subjects.get()))
        .filter(f -> owners.isEmpty() || isOwned(f, assessment, owners.get()))
        .toList();
  }

  private static boolean concerns(Finding finding, List<String> keys) {
    return keys.contains(finding.cause().text())
        || finding.subjects().stream().anyMatch(key -> keys.contains(key.text()));
  }

  /** The keys of the one account or group with a name. */
  private static List<String> keys(Organization organization, String name) {
    Facts facts = organization.model().facts();
    List<Integer> found = new ArrayList<>();
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP)) {
      found.addAll(NameResolver.find(facts, kind, name));
    }
    if (found.isEmpty()) {
      return List.of(facts.key(organization.names().account(name)).text());
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

  /** The kind of finding with an id. */
  public static FindingKind kind(String text) {
    List<String> known = Arrays.stream(FindingKind.values()).map(FindingKind::id).toList();
    return Arrays.stream(FindingKind.values())
        .filter(k -> k.id().equals(text.toLowerCase(Locale.ROOT)))
        .findFirst()
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "there is no kind of finding "
                        + text
                        + Spelling.nearest(text, known)
                            .map(n -> "; did you mean " + n + "?")
                            .orElse("")
                        + "\nthere are: "
                        + String.join(", ", known)));
  }
}
