package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.sources.NameResolver;

/** Names on the command line: exactly one thing, or a message that helps. */
final class Names {
  private static final int SHOWN = 8;

  private final AccessModel model;
  private final Facts facts;

  /**
   * What is asked for of a system: one permission, or several together.
   *
   * @param right the permission, or the first of them
   * @param together all of them; none where it is one
   */
  record Permission(SystemView view, int right, List<Integer> together) {
    /** The question at a node. */
    Question at(int node) {
      return together.isEmpty()
          ? Question.of(node, right)
          : new Question(node, together.stream().mapToInt(Integer::intValue).toArray());
    }

    /** The same, where only one permission can be asked about. */
    Permission alone() {
      if (!together.isEmpty()) {
        throw new UsageException("this is told of one permission at a time; `can` takes several");
      }
      return this;
    }
  }

  Names(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
  }

  int account(String name) {
    return subject(SubjectKind.ACCOUNT, name);
  }

  int group(String name) {
    return subject(SubjectKind.GROUP, name);
  }

  private int subject(SubjectKind kind, String name) {
    List<Integer> found = NameResolver.find(facts, kind, name);
    if (found.size() == 1) {
      return found.get(0);
    }
    if (found.isEmpty()) {
      throw new UsageException(
          "there is no "
              + kind.words()
              + " "
              + Problem.quote(name)
              + near(name, facts.names().known(kind)));
    }
    String list =
        found.stream()
            .limit(SHOWN)
            .map(s -> "  " + facts.key(s).text() + "  " + facts.dn(s))
            .collect(Collectors.joining("\n"));
    throw new UsageException(
        Problem.quote(name)
            + " fits "
            + found.size()
            + " "
            + kind.words()
            + "s; name one by its DN or id:\n"
            + list
            + (found.size() > SHOWN ? "\n  … and " + (found.size() - SHOWN) + " more" : ""));
  }

  SystemView application(String id) {
    List<String> ids = model.systems().stream().map(SystemView::id).toList();
    return model
        .system(id)
        .orElseThrow(
            () ->
                new UsageException(
                    "there is no application "
                        + Problem.quote(id)
                        + near(id, ids)
                        + "\nthere are: "
                        + String.join(", ", ids)));
  }

  Permission permission(String text) {
    int colon = text.indexOf(':');
    if (colon < 0) {
      throw new UsageException(
          Problem.quote(text)
              + " is no permission; expected application:area:level, as in "
              + example());
    }
    SystemView view = application(text.substring(0, colon));
    String rights = text.substring(colon + 1);
    if (view.rights().find(rights).isPresent() || rights.indexOf('+') < 0) {
      return new Permission(view, right(view, rights), List.of());
    }
    List<Integer> all = new ArrayList<>();
    for (String right : rights.split("\\+", -1)) {
      all.add(right(view, right));
    }
    return new Permission(view, all.get(0), all);
  }

  private static int right(SystemView view, String right) {
    return view.rights()
        .find(right)
        .orElseThrow(
            () ->
                new UsageException(
                    "there is no permission "
                        + Problem.quote(right)
                        + " in "
                        + view.id()
                        + near(right, view.rights().texts())));
  }

  private String example() {
    List<String> texts = new ArrayList<>();
    model.systems().forEach(view -> texts.add(view.id() + ":" + view.rights().text(0)));
    return texts.isEmpty() ? "app:area:view" : texts.get(0);
  }

  /** A node by id; nothing means the top. */
  int node(SystemView view, String id) {
    if (id.isEmpty()) {
      return 0;
    }
    return view.resources()
        .find(id)
        .orElseThrow(
            () ->
                new UsageException(
                    "there is no node "
                        + Problem.quote(id)
                        + " in "
                        + view.id()
                        + near(id, view.resources().ids())));
  }

  int role(SystemView view, String id) {
    List<String> ids = view.system().roles().stream().map(RoleInfo::id).toList();
    return view.system()
        .findRole(id)
        .orElseThrow(
            () ->
                new UsageException(
                    "there is no role "
                        + Problem.quote(id)
                        + " in "
                        + view.id()
                        + near(id, ids)
                        + "\nthere are: "
                        + String.join(", ", ids)));
  }

  private static String near(String name, Iterable<String> known) {
    return Spelling.nearest(name, known).map(found -> "; did you mean " + found + "?").orElse("");
  }
}
