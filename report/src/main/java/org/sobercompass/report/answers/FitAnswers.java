package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.RoleFit;
import org.sobercompass.report.data.AnswerTable;

/** How well roles fit, as a sheet. Immutable and thread-safe. */
public final class FitAnswers {
  private final AnswerContext ask;

  /** Words for the roles of a model. */
  public FitAnswers(AnswerContext ask) {
    this.ask = ask;
  }

  /** What does not fit in some applications, what saves most first. */
  public AnswerTable sheet(List<SystemView> views, RoleFit fit, List<String> withUsage) {
    AnswerTable.Builder sheet =
        ask.begin("fit/1", "application", "kind", "what", "better", "saves");
    int count = 0;
    List<String> silent = new ArrayList<>();
    for (SystemView view : views) {
      for (RoleFit.Fit one : fit.of(view)) {
        count++;
        sheet.row(
            view.id(), one.kind(), FindingAnswers.capital(one.what()), one.better(), one.saves());
      }
      if (!withUsage.contains(view.id()) && !view.assigned().isEmpty()) {
        silent.add(view.id());
      }
    }
    if (!silent.isEmpty()) {
      sheet.note(
          "Without records of use (usage: in compass.yaml) nothing is said of what is used in "
              + String.join(", ", silent)
              + ".");
    }
    return ask.about(
        sheet.heading(
            count == 0
                ? "The roles fit those who have them, as far as their use is known."
                : AnswerContext.count(count, "assignment could", "assignments could")
                    + " fit better: by a smaller role, a group, or one role in place of several."),
        views);
  }
}
