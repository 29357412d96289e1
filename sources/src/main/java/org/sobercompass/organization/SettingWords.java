package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Settings;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.text.YamlText;

/**
 * Settings of applications and of the admin roles, by the names that people use: what an
 * application sees of a directory, how it lets people sign in, roles, rules of scopes.
 */
public final class SettingWords {
  private final Names names;

  SettingWords(Names names) {
    this.names = names;
  }

  /**
   * A setting that is written otherwise.
   *
   * @param where the application, or {@code admin}, then the keys from the top of its file, joined
   *     by colons: {@code seedbook:sight:nesting}
   * @param value what is to stand there, as YAML in one line; empty to take it out
   */
  public Step.Setting setting(String where, String value) {
    List<String> path = Arrays.asList(where.split(":", -1));
    if (path.size() < 2) {
      throw new UnknownNameException(
          Problem.quote(where) + " names no setting; expected an application, a colon and a key");
    }
    return setting(path.get(0), path.subList(1, path.size()), inOneLine(value));
  }

  /** The same by its keys, of what is YAML in one line already. */
  Step.Setting setting(String system, List<String> path, String is) {
    return step(names.withRoles(system), path, is);
  }

  /** As it is compared with what stands in a file. */
  private static String inOneLine(String value) {
    Problems problems = new Problems();
    return value.isEmpty()
        ? ""
        : YamlReader.parse(value, "the value", problems)
            .map(Node::inOneLine)
            .orElseThrow(
                () ->
                    new UnknownNameException(
                        Problem.quote(value)
                            + " is no YAML; expected a value, [a, list] or {a: map}"));
  }

  /**
   * A role that starts as a copy of another one, with differences.
   *
   * @param role the id of the new role
   * @param from the role it derives from
   * @param allows what it allows otherwise, by area: a level and actions
   */
  public Step.Setting deriving(
      String application, String role, String from, Map<String, List<String>> allows) {
    SystemView view = names.withRoles(application);
    if (view.system().findRole(role).isPresent()) {
      throw new UnknownNameException("there is a role " + Problem.quote(role) + " already");
    }
    String base = view.system().roles().get(names.role(view, from)).id();
    String differences =
        allows.entrySet().stream()
            .map(e -> YamlText.quoted(e.getKey()) + ": " + words(e.getValue()))
            .collect(Collectors.joining(", ", "{", "}"));
    return step(
        view,
        List.of("roles", role),
        "{derives: "
            + YamlText.quoted(base)
            + (allows.isEmpty() ? "" : ", allows: " + differences)
            + "}");
  }

  /** What a role denies in an area: a level and actions; nothing to deny nothing there. */
  public Step.Setting denying(String application, String role, String area, List<String> words) {
    return step(
        names.withRoles(application),
        List.of("roles", role, "denies", area),
        words.isEmpty() ? "" : words(words));
  }

  /** That a role is deleted, after it is withdrawn from all who have it. */
  public List<Step> deleting(String application, String role) {
    SystemView view = names.withRoles(application);
    int number = names.role(view, role);
    List<Change> withdrawn = new ArrayList<>();
    for (int grant = 0; grant < view.grants().size(); grant++) {
      Grant given = view.grants().get(grant);
      if (given.role() == number && !given.declared()) {
        withdrawn.add(new Change.AssignmentRemoved(view.number(), grant));
      }
    }
    List<Step> steps = new ArrayList<>(Proposal.of("", names.modelOf(view), withdrawn).steps());
    String id = view.system().roles().get(number).id();
    steps.add(step(view, List.of("roles", id), ""));
    return steps;
  }

  private static String words(List<String> words) {
    return words.size() == 1
        ? YamlText.quoted(words.get(0))
        : words.stream().map(YamlText::quoted).collect(Collectors.joining(", ", "[", "]"));
  }

  private static Step.Setting step(SystemView view, List<String> path, String is) {
    Settings settings =
        view.system()
            .settings()
            .orElseThrow(
                () ->
                    new UnknownNameException(
                        "no proposal can change the settings of " + view.system().name()));
    try {
      return new Step.Setting(view.id(), path, settings.says(path, List.of()), is);
    } catch (IllegalArgumentException e) {
      throw new UnknownNameException(String.valueOf(e.getMessage()));
    }
  }
}
