package org.sobercompass.report.answers;

import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.Routes;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.carry.LossAndGain.Cell;
import org.sobercompass.core.carry.LossAndGain.Outcome;
import org.sobercompass.core.carry.LossAndGain.Person;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.Limits;

/** What gives what comes out more or less when rights are carried over. Not thread-safe. */
final class CarryCauses {
  private final AccessModel before;
  private final AccessModel after;
  private final Facts facts;

  CarryCauses(AccessModel before, AccessModel after) {
    this.before = before;
    this.after = after;
    this.facts = before.facts();
  }

  /** Why, in few words; -f csv has the whole route of each right. */
  String inFewWords(Person person, Cell cell) {
    if (cell.outcome() == Outcome.MORE) {
      return through(after, cell, person.to());
    }
    if (cell.after() > 0) {
      return whole(person, cell);
    }
    return person.from().stream()
        .map(from -> through(before, cell, from))
        .filter(words -> !words.isEmpty())
        .findFirst()
        .map(words -> "the old account has it " + words)
        .orElse("");
  }

  /** Through which group or by what an account has a right. */
  private String through(AccessModel model, Cell cell, int account) {
    SystemView view = model.view(cell.system());
    Routes routes =
        new RouteFinder(model.asker(), Limits.USUAL)
            .find(view, account, cell.right(), cell.resource());
    if (routes.open().isEmpty()) {
      return "";
    }
    Route route = routes.open().get(0);
    List<Integer> subjects = route.subjects();
    if (view.system().isOfLists() && view.grants().get(route.grant()).declared()) {
      return subjects.size() > 1 ? "as everybody has it" : "as the owner";
    }
    return subjects.size() > 1
        ? "through " + Words.subject(facts, subjects.get(subjects.size() - 1))
        : "by itself";
  }

  /** What gives a right that is more, and what gave one that is less. */
  String whole(Person person, Cell cell) {
    if (cell.outcome() == Outcome.EQUAL) {
      return "";
    }
    if (cell.outcome() == Outcome.MORE) {
      return route(after, cell, person.to());
    }
    if (cell.after() > 0) {
      return String.join(
          "; ", after.asker().standing(after.view(cell.system()), person.to()).reasons());
    }
    return person.from().stream()
        .map(from -> route(before, cell, from))
        .filter(words -> !words.isEmpty())
        .findFirst()
        .map(words -> "the old account has it by " + words)
        .orElse("");
  }

  private static String route(AccessModel model, Cell cell, int account) {
    SystemView view = model.view(cell.system());
    Routes routes =
        new RouteFinder(model.asker(), Limits.USUAL)
            .find(view, account, cell.right(), cell.resource());
    return routes.open().isEmpty() ? "" : Words.route(model, view, routes.open().get(0));
  }
}
