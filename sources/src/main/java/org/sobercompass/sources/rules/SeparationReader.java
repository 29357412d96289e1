package org.sobercompass.sources.rules;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.SeparationRule.Where;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Node;

/** Reads separation of duties rules, one by one or from a table of tasks. */
final class SeparationReader {
  private static final List<String> COLUMNS =
      List.of("task", "name", "needs", "not with", "except", "weight");

  private final SideReader sides;
  private final Set<String> ids = new HashSet<>();
  private final List<SeparationRule> all = new ArrayList<>();

  SeparationReader(SideReader sides) {
    this.sides = sides;
  }

  List<SeparationRule> read(Optional<Node> rules, Optional<Node> tables, Folder root) {
    for (Node node : rules.map(Node::items).orElse(List.of())) {
      SeparationRule rule = rule(node);
      if (!ids.add(rule.id())) {
        node.wrong("the rule " + rule.id() + " stands twice", "each rule once");
      }
      all.add(rule);
    }
    for (Node table : tables.map(Node::items).orElse(List.of())) {
      table(table.text(), root);
    }
    return List.copyOf(all);
  }

  private SeparationRule rule(Node node) {
    node.only(Set.of("id", "name", "sides", "at-least", "weight", "where", "per", "except"));
    List<List<Side>> read = sides(node);
    overlaps(read, node.place());
    return rule(node, read, atLeast(node, read.size()));
  }

  private List<List<Side>> sides(Node node) {
    List<List<Side>> read = new ArrayList<>();
    for (Node side : node.get("sides").map(Node::items).orElse(List.of())) {
      if (side.items().isEmpty()) {
        node.wrong(
            "side "
                + (read.size() + 1)
                + " of the rule "
                + node.text("id").orElse("")
                + " has nothing on it, so nobody could break it",
            "permissions, roles or admin actions");
      }
      read.add(
          side.items().stream()
              .flatMap(item -> sides.side(item.text(), item.place()).stream())
              .toList());
    }
    if (read.size() < 2 || read.size() > 60) {
      node.wrong(
          "the rule has " + read.size() + " sides", "2 to 60 sides, each a list of permissions");
    }
    return read;
  }

  private static int atLeast(Node node, int sides) {
    String many = node.text("at-least").orElse(String.valueOf(Math.max(2, sides)));
    int atLeast = many.matches("[0-9]{1,2}") ? Integer.parseInt(many) : 0;
    if (atLeast < 2 || atLeast > Math.max(2, sides)) {
      node.wrong("at-least: " + Problem.quote(many), "a number from 2 to the number of sides");
    }
    return atLeast;
  }

  private SeparationRule rule(Node node, List<List<Side>> read, int atLeast) {
    return new SeparationRule(
        node.need("id"),
        node.text("name").orElse(node.text("id").orElse("")),
        read,
        atLeast,
        where(node),
        perPerson(node),
        node.get("except").map(Node::items).orElse(List.of()).stream()
            .map(item -> sides.subject(item.text(), item.place()))
            .filter(subject -> subject >= 0)
            .toList(),
        node.text("weight").map(w -> sides.weight(w, node.place())).orElse(Weight.HIGH),
        node.place());
  }

  private static Where where(Node node) {
    String word = node.text("where").orElse(Where.ANYWHERE.word());
    for (Where where : Where.values()) {
      if (where.word().equals(word)) {
        return where;
      }
    }
    node.wrong(
        "where: " + Problem.quote(word) + " is not known", "anywhere, overlapping or same-node");
    return Where.ANYWHERE;
  }

  private static boolean perPerson(Node node) {
    String word = node.text("per").orElse("person");
    if (!Set.of("person", "account").contains(word)) {
      node.wrong("per: " + Problem.quote(word) + " is not known", "person or account");
    }
    return !word.equals("account");
  }

  /** Who has the one has the other: the rule would find everybody. */
  private void overlaps(List<List<Side>> read, Place place) {
    for (int a = 0; a < read.size(); a++) {
      for (int b = a + 1; b < read.size(); b++) {
        for (Side one : read.get(a)) {
          for (Side other : read.get(b)) {
            if (sides.overlap(one, other)) {
              sides
                  .problems()
                  .error(
                      place,
                      one.equals(other)
                          ? sides.words(one) + " stands on two sides"
                          : "of "
                              + sides.words(one)
                              + " and "
                              + sides.words(other)
                              + ", which stand on two sides, one contains the other",
                      "sides of which one can be held without the other");
              return;
            }
          }
        }
      }
    }
  }

  /** One row of a table. */
  private record Task(
      String name,
      List<Side> needs,
      List<String> apart,
      List<Integer> except,
      Weight weight,
      Place place) {}

  /** Each pair that a table keeps apart is a rule; its id is the ids of both tasks. */
  private void table(String file, Folder root) {
    Map<String, Task> tasks = new LinkedHashMap<>();
    new CsvReader(file, COLUMNS, List.of("task", "needs", "not with"), sides.problems())
        .read(root.resolve(file), row -> row(row, tasks));
    for (Map.Entry<String, Task> task : tasks.entrySet()) {
      for (String other : task.getValue().apart) {
        if (!tasks.containsKey(other)) {
          sides
              .problems()
              .unknown(
                  task.getValue().place,
                  "there is no task " + Problem.quote(other),
                  "a task of this table",
                  other,
                  tasks.keySet());
        } else if (other.equals(task.getKey())) {
          sides
              .problems()
              .error(
                  task.getValue().place,
                  "the task " + other + " is kept apart from itself",
                  "another task of this table");
        } else {
          pair(task.getKey(), other, tasks);
        }
      }
    }
  }

  private void row(CsvReader.Row row, Map<String, Task> tasks) {
    List<Side> needs =
        words(row.get("needs"), ";").stream()
            .flatMap(text -> sides.side(text, row.place()).stream())
            .toList();
    if (words(row.get("needs"), ";").isEmpty()) {
      sides
          .problems()
          .error(
              row.place(),
              "the task " + row.get("task") + " needs nothing, so nobody could do it",
              "permissions, roles or admin actions, apart by semicolons");
    }
    List<Integer> except =
        words(row.get("except"), ";").stream()
            .map(text -> sides.subject(text, row.place()))
            .filter(subject -> subject >= 0)
            .toList();
    String weight = row.get("weight");
    Task task =
        new Task(
            row.get("name").isEmpty() ? row.get("task") : row.get("name"),
            needs,
            words(row.get("not with"), "[; ]"),
            except,
            weight.isEmpty() ? Weight.HIGH : sides.weight(weight, row.place()),
            row.place());
    if (tasks.putIfAbsent(row.get("task"), task) != null) {
      sides
          .problems()
          .error(row.place(), "the task " + row.get("task") + " stands twice", "each task once");
    }
  }

  private static List<String> words(String text, String separator) {
    return Arrays.stream(text.split(separator))
        .map(String::strip)
        .filter(t -> !t.isEmpty())
        .toList();
  }

  private void pair(String a, String b, Map<String, Task> tasks) {
    String first = a.compareTo(b) < 0 ? a : b;
    String second = first.equals(a) ? b : a;
    Task one = tasks.get(first);
    Task other = tasks.get(second);
    if (one == null || other == null || !ids.add(first + "+" + second)) {
      return;
    }
    overlaps(List.of(one.needs, other.needs), one.place);
    List<Integer> except = new ArrayList<>(one.except);
    except.addAll(other.except);
    all.add(
        new SeparationRule(
            first + "+" + second,
            one.name + " and " + other.name,
            List.of(one.needs, other.needs),
            2,
            Where.ANYWHERE,
            true,
            except,
            one.weight.compareTo(other.weight) > 0 ? one.weight : other.weight,
            one.place));
  }
}
