package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.sources.text.Window;

/**
 * What gives somebody something in a system, by the names that people use: a role where a system
 * has roles; where it has lists, the entries that give rights, or admin actions.
 */
public final class Mapping {
  private final Names names;
  private final AccessModel model;
  private final Supplier<AccessModel> delegating;

  Mapping(Names names, AccessModel model, Supplier<AccessModel> delegating) {
    this.names = names;
    this.model = model;
    this.delegating = delegating;
  }

  /**
   * The system of lists with an id, or of the lists of a directory with that name; empty for
   * whatever has roles.
   */
  public Optional<SystemView> lists(String id) {
    Optional<SystemView> application = model.system(id);
    return application.isPresent()
        ? application.filter(view -> view.system().isOfLists())
        : delegating.get().delegated().stream()
            .filter(view -> view.system() instanceof DirectoryLists)
            .filter(view -> view.id().equals(id) || view.id().equals("directory " + id))
            .findFirst();
  }

  /**
   * What gives somebody something.
   *
   * @param system an application; {@code admin}; or a directory, for its lists
   * @param what a role; of lists rights or admin actions, several joined by {@code +}
   * @param who as {@link Names#subject} takes it
   * @param where a node, a scope or an object
   * @param below whether also below
   * @param window when it counts; entries of lists count always
   */
  public List<Step> giving(
      String system, String what, String who, String where, boolean below, Window window) {
    Optional<SystemView> view = lists(system);
    if (view.isEmpty()) {
      return List.of(new Step.Assign(names.assignment(system, what, who, where, below, window)));
    }
    if (window.from().isPresent() || window.until().isPresent()) {
      throw new UnknownNameException(
          "entries of lists have no first or last day, and "
              + view.get().system().name()
              + " has lists");
    }
    ListWish wish = wish(view.get(), what, who, where, below);
    return steps(view.get(), wish, true);
  }

  /** What takes rights from somebody that entries of lists at a place give. */
  public List<Step> taking(SystemView lists, String what, String who, String where) {
    return steps(lists, wish(lists, what, who, where, true), false);
  }

  private static List<Step> steps(SystemView view, ListWish wish, boolean gives) {
    List<ListWish.Edit> edits;
    try {
      edits = gives ? view.system().giving(wish) : view.system().taking(wish);
    } catch (IllegalArgumentException e) {
      throw new UnknownNameException(String.valueOf(e.getMessage()));
    }
    List<Step> steps = new ArrayList<>();
    for (ListWish.Edit edit : edits) {
      String at = view.resources().id(edit.resource());
      steps.add(new Step.ListItem(view.id(), at, edit.text(), edit.added()));
    }
    return steps;
  }

  private ListWish wish(SystemView view, String what, String who, String where, boolean below) {
    int subject = names.subject(who);
    if (where.isEmpty()) {
      throw new UnknownNameException(
          "it is not said in whose list; expected a node of " + view.system().name());
    }
    List<String> words = Arrays.asList(what.split("[+]", -1));
    if (!(view.system() instanceof DirectoryLists lists)) {
      List<Integer> rights = words.stream().map(word -> Names.right(view, word)).toList();
      return new ListWish(subject, names.node(view, where), rights, below);
    }
    ActNames acts = names.acts();
    ActionRights actions = (ActionRights) view.rights();
    List<Integer> rights = words.stream().map(acts::action).map(actions::number).toList();
    DirectoryTrees.Spot spot = acts.spot(where);
    if (!spot.tree().directory().equals(lists.tree().directory())) {
      throw new UnknownNameException(
          spot.tree().dn(spot.object()) + " is not in " + lists.tree().directory());
    }
    return new ListWish(subject, spot.object(), rights, below);
  }
}
