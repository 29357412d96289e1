package org.sobercompass.core.admin;

import java.util.Optional;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.system.Question;

/** What an account may be able to do: use rights of a system, or administer an object. */
public sealed interface Asked {
  /** Rights of one system at a resource, all together. */
  record Use(SystemView view, Question question) implements Asked {
    /** The right, or the first of several. */
    public int right() {
      return question.allOf()[0];
    }

    /** Whether several rights are asked for together. */
    public boolean isOfSeveral() {
      return question.allOf().length > 1;
    }
  }

  /** An admin action on an object, whatever gives it. */
  record Act(AdminAction action, Powers.Thing object, Optional<DirectoryTrees.Spot> destination)
      implements Asked {}
}
