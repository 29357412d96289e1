package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.sobercompass.core.audit.Concerned;
import org.sobercompass.core.audit.Concerning;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
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
    Optional<Set<String>> subjects = about.map(name -> keys(organization, name));
    Optional<Set<String>> owners = owner.map(name -> keys(organization, name));
    return findings.stream()
        .filter(f -> f.weight().compareTo(weight) >= 0)
        .filter(f -> kinds.isEmpty() || kinds.contains(f.kind()))
        .filter(f -> app.isEmpty() || concerned.systems(f).contains(app.get()))
        .filter(f -> subjects.isEmpty() || Concerning.subjects(f, subjects.get()))
        .filter(f -> owners.isEmpty() || isOwned(organization, f, owners.get()))
        .toList();
  }

  /** The keys of the one account or group with a name. */
  private static Set<String> keys(Organization organization, String name) {
    Facts facts = organization.model().facts();
    List<Integer> found = new ArrayList<>();
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP)) {
      found.addAll(NameResolver.find(facts, kind, name));
    }
    if (found.isEmpty()) {
      return Set.of(facts.key(organization.names().account(name)).text());
    }
    return found.stream().map(subject -> facts.key(subject).text()).collect(Collectors.toSet());
  }

  private static boolean isOwned(Organization organization, Finding finding, Set<String> owners) {
    Facts facts = organization.model().facts();
    return organization.owners().of(finding).stream()
        .anyMatch(owner -> owners.contains(facts.key(owner).text()));
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
                        + Spelling.hint(text, known)
                        + "\nthere are: "
                        + String.join(", ", known)));
  }
}
