package org.sobercompass.organization;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.workspace.Workspace;

/**
 * An organization with what is to be created in it; kept, since it is read again for that. Not
 * thread-safe.
 */
final class Expected {
  private final Organization of;
  private List<Step.Presence> created = List.of();
  private @Nullable Organization with;

  Expected(Organization of) {
    this.of = of;
  }

  /** The organization with these; itself where all of them are there. */
  Organization of(List<Step.Presence> wanted) {
    Facts facts = of.model().facts();
    List<Step.Presence> fresh =
        wanted.stream().filter(one -> facts.find(one.subject()).isEmpty()).toList();
    if (fresh.isEmpty()) {
      return of;
    }
    Organization again = with;
    if (again == null || !created.equals(fresh)) {
      Workspace read = of.workspace().expecting(fresh);
      again =
          new Organization(
              read,
              read.model(of.model().asOf(), of.model().basis()).telling(of.model().progress()));
      with = again;
      created = fresh;
    }
    return again;
  }

  /** A group that is to be created where another one stands, of the same kind. */
  Step.Presence groupLike(String name, int like) {
    Facts facts = of.model().facts();
    String directory = facts.source(like);
    return of.workspace().directories().stream()
        .filter(one -> one.name().equals(directory))
        .findFirst()
        .flatMap(one -> one.kind().groupLike(one.entries(), directory, facts.dn(like), name))
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "groups like "
                        + Problem.quote(facts.label(like))
                        + " are created where they are kept, not by this program"));
  }
}
