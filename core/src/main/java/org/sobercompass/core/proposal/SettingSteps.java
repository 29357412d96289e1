package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.proposal.Bound.Kind;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Setting;
import org.sobercompass.core.system.Settings;

/** Lays the settings that one proposal writes otherwise over a model. Not thread-safe. */
final class SettingSteps {
  private final AccessModel model;
  private final Map<Integer, List<Setting>> made = new HashMap<>();
  private final Map<Integer, Map<String, Integer>> deleted = new HashMap<>();

  SettingSteps(AccessModel model) {
    this.model = model;
  }

  Optional<Change> setting(
      Step.Setting step,
      SystemView view,
      int number,
      BiFunction<Kind, String, Optional<Change>> none) {
    Optional<Settings> settings = view.system().settings();
    if (settings.isEmpty()) {
      return none.apply(
          Kind.UNKNOWN, "no proposal can change the settings of " + view.system().name());
    }
    Setting setting = new Setting(step.path(), step.is());
    List<Setting> earlier = made.computeIfAbsent(view.number(), n -> new ArrayList<>());
    try {
      String says = settings.get().says(step.path(), earlier);
      if (says.equals(step.is())) {
        return none.apply(
            says.isEmpty() ? Kind.NOT_THERE : Kind.ALREADY,
            setting.where() + (says.isEmpty() ? " is not there" : " says so already"));
      }
      if (!says.equals(step.was())) {
        return none.apply(
            Kind.UNKNOWN,
            setting.where()
                + " says "
                + words(says)
                + " now, and not "
                + words(step.was())
                + " any more");
      }
      List<Setting> all = new ArrayList<>(earlier);
      all.add(setting);
      // Whether it can be read then, and worked out.
      settings.get().with(all).over(view.memberships());
    } catch (IllegalArgumentException | BadInputException e) {
      return none.apply(Kind.UNKNOWN, String.valueOf(e.getMessage()));
    }
    earlier.add(setting);
    if (step.is().isEmpty() && step.path().size() == 2) {
      deleted
          .computeIfAbsent(view.number(), n -> new HashMap<>())
          .put(step.path().get(0) + " " + step.path().get(1), number);
    }
    return Optional.of(new Change.Redefined(view.number(), new Redefinition.SettingText(setting)));
  }

  private static String words(String says) {
    return says.isEmpty() ? "nothing" : says;
  }

  /** Roles and scopes that are deleted while somebody is still given one, or over one. */
  List<Bound.Note> stillGiven(List<Bound.Made> all) {
    List<Bound.Note> notes = new ArrayList<>();
    deleted.forEach(
        (system, what) -> {
          SystemView view = model.view(system);
          Set<Integer> withdrawn = new HashSet<>();
          Map<String, Integer> counted = otherBasis(view);
          for (Bound.Made made : all) {
            if (made.change() instanceof Change.AssignmentRemoved gone && gone.system() == system) {
              withdrawn.add(gone.grant());
            } else if (made.change() instanceof Change.AssignmentAdded added
                && added.system() == system) {
              counted.merge("roles " + role(view, added.role()), 1, Integer::sum);
              scope(view, added).ifPresent(id -> counted.merge("scopes " + id, 1, Integer::sum));
            }
          }
          for (int grant = 0; grant < view.grants().size(); grant++) {
            if (!withdrawn.contains(grant) && !view.grants().get(grant).isWithdrawn()) {
              counted.merge(
                  "roles " + role(view, view.grants().get(grant).role()), 1, Integer::sum);
              scope(view, grant)
                  .ifPresent(scope -> counted.merge("scopes " + scope, 1, Integer::sum));
            }
          }
          what.forEach(
              (name, step) -> {
                int left = counted.getOrDefault(name, 0);
                if (left > 0) {
                  notes.add(new Bound.Note(step, Kind.UNKNOWN, named(left)));
                }
              });
        });
    return notes;
  }

  private static String named(int left) {
    return (left == 1 ? "1 assignment still names it" : left + " assignments still name it")
        + "; withdraw what is given first";
  }

  /** How many assignments name each role in the table that is not in use. */
  private static Map<String, Integer> otherBasis(SystemView view) {
    Map<String, Integer> counted = new HashMap<>();
    for (Basis basis : Basis.values()) {
      if (basis != view.basis() && view.system().hasBothBases()) {
        for (Grant grant : view.system().grants(basis)) {
          counted.merge("roles " + role(view, grant.role()), 1, Integer::sum);
        }
      }
    }
    return counted;
  }

  private static String role(SystemView view, int role) {
    return view.system().roles().get(role).id();
  }

  private static Optional<String> scope(SystemView view, int grant) {
    return view.system() instanceof AdminRoles roles
        ? id(roles, roles.given().get(grant).scope())
        : Optional.empty();
  }

  private static Optional<String> scope(SystemView view, Change.AssignmentAdded added) {
    return view.system() instanceof AdminRoles roles ? id(roles, added.node()) : Optional.empty();
  }

  private static Optional<String> id(AdminRoles roles, int scope) {
    return scope < 0 ? Optional.empty() : Optional.of(roles.defined().get(scope).id());
  }
}
