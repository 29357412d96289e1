package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Redefinition;

/**
 * The entries that one proposal takes out of the lists of a system and adds to them: one can be
 * added where another stood that was taken out before. Not thread-safe.
 */
final class ListSteps {
  private final SystemView view;
  private final List<Change.OfSystem> taken = new ArrayList<>();
  private final List<Redefinition> added = new ArrayList<>();
  private @Nullable AccessSystem sofar;

  ListSteps(SystemView view) {
    this.view = view;
  }

  /**
   * An entry, or what else a list says, is added or taken out; empty where it is so already.
   *
   * @throws IllegalArgumentException when it cannot stand there
   */
  Optional<Change> item(int resource, Step.ListItem item) {
    OptionalInt grant = view.system().entryOf(resource, item.text());
    boolean there = grant.isPresent() || view.system().hasItem(resource, item.text());
    if (there == item.added()) {
      return Optional.empty();
    }
    return Optional.of(
        grant.isPresent()
            ? take(grant.getAsInt())
            : add(new Redefinition.ListItem(resource, item.text(), item.added())));
  }

  /** An entry is taken out. */
  Change take(int grant) {
    Change.OfSystem change = new Change.AssignmentRemoved(view.number(), grant);
    taken.add(change);
    sofar = null;
    return change;
  }

  /**
   * An entry is added.
   *
   * @throws IllegalArgumentException when it cannot stand there
   */
  Change add(Redefinition how) {
    sofar = sofar().redefined(how);
    added.add(how);
    return new Change.Redefined(view.number(), how);
  }

  private AccessSystem sofar() {
    if (sofar != null) {
      return sofar;
    }
    AccessSystem now =
        taken.isEmpty() ? view.system() : view.system().with(List.copyOf(taken), view.basis());
    for (Redefinition how : added) {
      now = now.redefined(how);
    }
    return now;
  }
}
