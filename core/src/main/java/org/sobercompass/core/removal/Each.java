package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.system.Change;

/**
 * Several goals, each of which is to be reached.
 *
 * @param goals the goals
 */
public record Each(List<Goal> goals) implements Goal {
  private static final int MOST = 256;

  /** Copies. */
  public Each {
    goals = List.copyOf(goals);
  }

  @Override
  public Optional<Still> still(AccessModel model, List<Change> made) {
    return goals.stream().flatMap(goal -> goal.still(model, made).stream()).findFirst();
  }

  @Override
  public List<Still> stills(AccessModel model, List<Change> made) {
    List<Still> all = new ArrayList<>();
    for (Goal goal : goals) {
      if (all.size() < MOST) {
        all.addAll(goal.stills(model, made));
      }
    }
    return all;
  }
}
