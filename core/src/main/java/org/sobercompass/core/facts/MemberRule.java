package org.sobercompass.core.facts;

import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.problem.Place;

/**
 * A rule that makes members: all subjects of the directory in a part of the tree that a filter
 * fits. A subject for which the filter is undefined is perhaps a member ({@link Via#UNDEFINED}),
 * and is counted.
 *
 * @param base the canonical DN of the top of that part; empty for everywhere
 * @param scope how far below
 * @param filter who
 * @param place where the rule stands
 */
public record MemberRule(String base, Scope scope, Filter filter, Place place) {
  /** How far below its base a rule looks (RFC 4511 section 4.5.1.2). */
  public enum Scope {
    /** The base itself. */
    BASE,
    /** What is directly below. */
    ONE,
    /** The base and all below. */
    SUB
  }

  boolean covers(String dnForm) {
    if (base.isEmpty()) {
      return true;
    }
    boolean self = dnForm.equals(base);
    boolean below = dnForm.endsWith("," + base);
    return switch (scope) {
      case BASE -> self;
      case SUB -> self || below;
      case ONE -> below && isOneStep(dnForm.substring(0, dnForm.length() - base.length() - 1));
    };
  }

  private static boolean isOneStep(String relative) {
    for (int i = 0; i < relative.length(); i++) {
      if (relative.charAt(i) == '\\') {
        i++;
      } else if (relative.charAt(i) == ',') {
        return false;
      }
    }
    return true;
  }
}
