package org.sobercompass.sources.workspace;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.MemberRule;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.FilterSyntaxException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.text.Node;

/**
 * Groups that the workspace makes by rule, for applications that do so themselves: {@code groups:}
 * in {@code compass.yaml}. Each is a group of its directory with the id {@code rule/NAME}.
 */
final class RuleGroups {
  static final RuleGroups NONE = new RuleGroups(List.of());

  private final List<Group> groups;

  private record Group(String id, String name, String directory, MemberRule rule, String written) {}

  private RuleGroups(List<Group> groups) {
    this.groups = groups;
  }

  static RuleGroups read(
      Optional<Node> node, List<DirectorySettings> directories, Problems problems) {
    List<Group> groups = new ArrayList<>();
    List<String> names = directories.stream().map(DirectorySettings::name).toList();
    for (Map.Entry<String, Node> entry : node.map(Node::entries).orElse(Map.of()).entrySet()) {
      one(entry.getKey(), entry.getValue(), names, problems).ifPresent(groups::add);
    }
    return groups.isEmpty() ? NONE : new RuleGroups(List.copyOf(groups));
  }

  private static Optional<Group> one(
      String id, Node node, List<String> directories, Problems problems) {
    node.only(Set.of("directory", "name", "base", "members"));
    String directory =
        node.text("directory").orElse(directories.isEmpty() ? "" : directories.get(0));
    if (!directories.contains(directory)) {
      problems.unknown(
          node.place(),
          "there is no directory " + Problem.quote(directory),
          "one of " + String.join(", ", directories),
          directory,
          directories);
    }
    if (node.text("directory").isEmpty() && directories.size() > 1) {
      node.wrong("the group does not say whose accounts it is about", "directory: and its name");
    }
    String base = node.text("base").orElse("");
    if (!base.isEmpty() && !DnForm.isDn(base)) {
      node.wrong(Problem.quote(base) + " is no DN", "a DN like ou=people,dc=example,dc=org");
    }
    String written = node.need("members");
    try {
      MemberRule rule =
          new MemberRule(
              base.isEmpty() ? "" : DnForm.of(base),
              MemberRule.Scope.SUB,
              FilterParser.parse(written),
              node.place());
      String name = node.text("name").orElse(id);
      return Optional.of(new Group(id, name, directory, rule, base + " " + written));
    } catch (FilterSyntaxException e) {
      node.get("members")
          .orElse(node)
          .wrong(
              "the filter " + Problem.quote(written) + " is wrong at its column " + e.column(),
              e.expected());
      return Optional.empty();
    }
  }

  void add(FactsBuilder builder) {
    for (Group group : groups) {
      FactsSource source = builder.source(group.directory);
      String id = "rule/" + group.id;
      int row =
          source.add(
              new SubjectRow(
                  SubjectKind.GROUP, id, id, "?" + id, group.id, group.name, "", 0, Facts.NEVER));
      source.rule(row, group.rule);
    }
  }

  /** All that changes what they are, as one text. */
  String settings() {
    StringBuilder all = new StringBuilder();
    for (Group group : groups) {
      all.append(String.join("\n", group.id, group.name, group.directory, group.written, ""));
    }
    return all.toString();
  }
}
