package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.report.answers.ListAnswers;
import org.sobercompass.report.data.AnswerTable;

/** Views of resources with access control lists, for {@code sober show}. */
final class ListViews {
  private static final int DEPTH = 4;

  private final Inputs inputs;

  ListViews(Inputs inputs) {
    this.inputs = inputs;
  }

  /**
   * Shows one: {@code tree}, {@code list}, {@code access} or {@code layers}.
   *
   * @param below with {@code access}, also what lies below
   */
  void show(String kind, List<String> names, boolean below) {
    boolean layers = kind.equalsIgnoreCase("layers");
    if (names.isEmpty() || (layers && names.size() < 3)) {
      throw new UsageException(
          layers
              ? "expected a permission, a path and accounts, as in:"
                  + " sober show layers fieldshare:change /vault bostler"
              : "expected an application and a path, as in: sober show "
                  + kind
                  + " fieldshare /glasshouses");
    }
    String application = names.get(0);
    int colon = application.indexOf(':');
    SystemView view =
        inputs.names().application(colon < 0 ? application : application.substring(0, colon));
    int at = names.size() > 1 ? inputs.names().node(view, names.get(1)) : 0;
    List<Integer> accounts = new ArrayList<>();
    for (String name : names.subList(Math.min(2, names.size()), names.size())) {
      accounts.add(inputs.names().account(name));
    }
    ListAnswers answers = new ListAnswers(inputs.ask());
    switch (kind.toLowerCase(Locale.ROOT)) {
      case "tree" -> {
        AnswerTable tree = answers.tree(view, at, inputs.isTable() ? DEPTH : Integer.MAX_VALUE);
        inputs.print(inputs.isTable() ? tree.without("says") : tree);
      }
      case "list" -> inputs.print(answers.list(view, at));
      case "access" -> brief(answers.access(view, at, accounts, below));
      default -> {
        int right = inputs.names().permission(application).right();
        brief(answers.layers(view, right, at, accounts));
      }
    }
  }

  /** People read names; programs read keys. */
  private void brief(AnswerTable sheet) {
    inputs.print(inputs.isTable() ? sheet.without("account") : sheet);
  }
}
