package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.core.scope.Scopes;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** An admin scope and whom it is about, as {@code include} and {@code except} take them. */
final class ScopeAndWhom {
  @Parameters(index = "0", paramLabel = "SCOPE", description = "the admin scope")
  String scope = "";

  @Parameters(
      index = "1..*",
      arity = "1..*",
      paramLabel = "WHO",
      description = "accounts by name; \"group NAME\", \"unit NAME\"")
  List<String> whom = new ArrayList<>();

  @Option(
      names = "--groups",
      paramLabel = "MEANING",
      description = "what a group stands for: object, members or both")
  String groups = "";

  /** What brings them in, or keeps them out. */
  Proposal proposal(Inputs inputs, boolean include) {
    if (!groups.isEmpty() && GroupMeaning.of(groups, false).isEmpty()) {
      throw new UsageException(
          "--groups " + groups + "; expected " + String.join(", ", GroupMeaning.WORDS));
    }
    AdminScope of = inputs.names().scope(scope);
    Scopes scopes = inputs.organization().powers().roles().scopes();
    int number = scopes.all().indexOf(of);
    List<Step> steps = new ArrayList<>();
    for (String who : whom) {
      int subject = inputs.names().subject(who);
      if (inputs.model().facts().kind(subject) == SubjectKind.GROUP && groups.isEmpty()) {
        throw new UsageException(
            who + " is a group; expected --groups with object, members or both");
      }
      steps.addAll(inputs.names().inScope(scope, subject, groups, include));
    }
    if (steps.isEmpty()) {
      inputs.err().println(already(inputs, scopes, number, include));
    }
    return new Proposal("", steps);
  }

  /** Why there is nothing to do, of the first of them. */
  private String already(Inputs inputs, Scopes scopes, int number, boolean include) {
    int subject = inputs.names().subject(whom.get(0));
    Optional<String> exception = scopes.excepted(number, subject);
    String name = whom.get(0);
    if (include && exception.isPresent()) {
      return name + " is kept out by another line of the scope: except " + exception.get() + ".";
    }
    return include
        ? name + " is in the scope already: " + String.join(", ", scopes.reasons(number, subject))
        : name
            + (exception.isPresent()
                ? " is excepted from the scope already: " + exception.get()
                : " is not in the scope.");
  }
}
