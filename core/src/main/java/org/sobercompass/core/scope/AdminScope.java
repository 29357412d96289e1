package org.sobercompass.core.scope;

import java.util.List;
import org.sobercompass.core.problem.Place;

/**
 * A named set of directory objects: the union of what it includes without the union of what it
 * excepts.
 */
public record AdminScope(
    String id, String name, List<ScopeItem> include, List<ScopeItem> except, Place place) {
  /** Copies. */
  public AdminScope {
    include = List.copyOf(include);
    except = List.copyOf(except);
  }
}
