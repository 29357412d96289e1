package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.ScopeItem;

/**
 * Tells which attributes were compared by guess: those of filters of applications and admin scopes
 * whose directory has no schema, where they are not of the usual types. Rules of groups tell it
 * where they are read.
 */
public final class GuessCheck {
  private GuessCheck() {}

  /** The guesses, once for each place. */
  public static List<Problem> run(AccessModel model, Administration administration) {
    List<Problem> found = new ArrayList<>();
    for (SystemView view : model.systems()) {
      Sight sight = view.system().sight();
      Set<String> asked = new LinkedHashSet<>();
      sight.accountFilter().ifPresent(filter -> filter.collectAttributes(asked));
      sight.groupFilter().ifPresent(filter -> filter.collectAttributes(asked));
      tell(model, Place.of(view.id()), sight.directory(), asked, found);
    }
    for (AdminScope scope : administration.scopes()) {
      List<ScopeItem> items = new ArrayList<>(scope.include());
      items.addAll(scope.except());
      for (ScopeItem item : items) {
        if (item instanceof ScopeItem.Rule rule) {
          Set<String> asked = new LinkedHashSet<>();
          rule.filter().collectAttributes(asked);
          tell(model, rule.place(), rule.directory(), asked, found);
        }
      }
    }
    return List.copyOf(found);
  }

  private static void tell(
      AccessModel model, Place place, String directory, Set<String> asked, List<Problem> found) {
    if (!model.facts().arrays().schemas().containsKey(directory)) {
      asked.stream()
          .filter(attribute -> !Syntax.isKnown(attribute))
          .forEach(attribute -> found.add(Syntax.guessed(place, directory, attribute)));
    }
  }
}
