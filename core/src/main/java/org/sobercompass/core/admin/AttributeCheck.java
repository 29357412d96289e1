package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.ScopeItem;

/**
 * Tells which attributes of filters, of applications and admin scopes, were compared by guess,
 * since their directory has no schema and they are not of the usual types. Rules of groups tell it
 * where they are read. Tells which attributes of scopes, and others that a rule names, no entry
 * has; those of applications are told with their readiness.
 */
public final class AttributeCheck {
  private AttributeCheck() {}

  /**
   * Tells an attribute that no account and no group has a value of, which is mostly a misspelt one.
   *
   * @param directory the only one that is looked at, or empty for all
   * @param attribute as it was typed; it must have been asked for when the facts were read
   * @return the problem, with the nearest attribute that is filled or usual; empty when some entry
   *     has a value. O(accounts and groups).
   */
  public static Optional<Problem> unfilled(
      Place place, Facts facts, Optional<String> directory, String attribute) {
    String name = attribute.toLowerCase(Locale.ROOT);
    for (int subject = 0; subject < facts.subjects(); subject++) {
      boolean looked = directory.isEmpty() || directory.get().equals(facts.source(subject));
      if (looked && !facts.values(subject, name).isEmpty()) {
        return Optional.empty();
      }
    }
    return Optional.of(
        Problem.warning(
                place,
                "no entry"
                    + directory.map(d -> " of " + d).orElse("")
                    + " has the attribute "
                    + Problem.quote(attribute),
                "an attribute that is filled; what asks for this one finds nobody")
            .near(facts.names().nearestAttribute(name)));
  }

  /** What there is to tell, once for each place. */
  public static List<Problem> run(AccessModel model, Administration administration) {
    List<Problem> found = new ArrayList<>();
    for (SystemView view : model.systems()) {
      Sight sight = view.system().sight();
      Set<String> asked = new LinkedHashSet<>();
      sight.accountFilter().ifPresent(filter -> filter.collectAttributes(asked));
      sight.groupFilter().ifPresent(filter -> filter.collectAttributes(asked));
      tell(model, Place.of(view.id()), sight.directory(), asked, false, found);
    }
    for (AdminScope scope : administration.scopes()) {
      List<ScopeItem> items = new ArrayList<>(scope.include());
      items.addAll(scope.except());
      for (ScopeItem item : items) {
        if (item instanceof ScopeItem.Rule rule) {
          Set<String> asked = new LinkedHashSet<>();
          rule.filter().collectAttributes(asked);
          tell(model, rule.place(), rule.directory(), asked, true, found);
        }
      }
    }
    return List.copyOf(found);
  }

  private static void tell(
      AccessModel model,
      Place place,
      String directory,
      Set<String> asked,
      boolean isScope,
      List<Problem> found) {
    Facts facts = model.facts();
    boolean guesses = !facts.arrays().schemas().containsKey(directory);
    for (String attribute : asked) {
      boolean unusual = guesses && !Syntax.isKnown(attribute);
      boolean unknown = unusual || facts.matching(directory, attribute).isEmpty();
      Optional<Problem> unfilled =
          isScope && unknown
              ? unfilled(place, facts, Optional.of(directory), attribute)
              : Optional.empty();
      if (unfilled.isPresent()) {
        found.add(unfilled.get());
      } else if (unusual) {
        found.add(Syntax.guessed(place, directory, attribute));
      }
    }
  }
}
