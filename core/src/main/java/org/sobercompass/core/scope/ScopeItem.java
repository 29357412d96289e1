package org.sobercompass.core.scope;

import java.util.List;
import java.util.Optional;
import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.problem.Place;

/** One line of an admin scope. Immutable. */
public sealed interface ScopeItem {
  /** Where it stands. */
  Place place();

  /** It, in words. */
  String words();

  /** All below a canonical DN, and the object of that name itself. */
  record Subtree(String dnForm, Optional<GroupMeaning> groups, Place place, String words)
      implements ScopeItem {}

  /** These accounts, groups and organizational units. */
  record Listed(List<Integer> subjects, Optional<GroupMeaning> groups, Place place, String words)
      implements ScopeItem {
    /** Copies. */
    public Listed {
      subjects = List.copyOf(subjects);
    }
  }

  /** All that a filter fits. */
  record Rule(
      String directory, Filter filter, Optional<GroupMeaning> groups, Place place, String words)
      implements ScopeItem {}

  /** All of another scope. */
  record Other(String scope, Place place, String words) implements ScopeItem {}
}
