package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.DelegationAnswers;
import org.sobercompass.report.answers.PowerAnswers;
import org.sobercompass.report.answers.ReachAnswers;
import org.sobercompass.report.answers.ScopeAnswers;
import org.sobercompass.sources.workspace.Workspace;

/** What the commands about delegated administration share: the trees, read once, and names. */
final class Administering {
  private final Powers powers;
  private final AnswerContext ask;
  private final DelegationAnswers delegations;

  /**
   * Reads the directories' lists.
   *
   * @param accepted a survey of the same directories when they were accepted, if there is one
   */
  Administering(Inputs inputs, @Nullable Path accepted) {
    powers = inputs.organization().powers();
    ask =
        new AnswerContext(
            inputs.model(),
            inputs.workspace().zone(),
            inputs.organization().problems(),
            powers.gaps());
    Map<String, DirectoryTree> before = new HashMap<>();
    if (accepted != null) {
      Workspace.ofSurvey(accepted, Set.of())
          .readTrees(new Problems())
          .forEach(tree -> before.put(tree.directory(), tree));
    }
    delegations = new DelegationAnswers(ask, powers, before, Sddl::text);
  }

  /** What every answer about delegated administration is given with. */
  AnswerContext ask() {
    return ask;
  }

  Powers powers() {
    return powers;
  }

  DelegationAnswers delegations() {
    return delegations;
  }

  PowerAnswers answers() {
    return new PowerAnswers(ask, powers, delegations, Sddl::text);
  }

  ReachAnswers reach() {
    return new ReachAnswers(ask, powers);
  }

  ScopeAnswers scopes() {
    return new ScopeAnswers(ask, powers.roles());
  }
}
