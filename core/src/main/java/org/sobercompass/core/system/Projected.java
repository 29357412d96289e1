package org.sobercompass.core.system;

/** What a decider keeps of a token. Equal projections have equal answers. Immutable. */
public interface Projected {
  /** Whether nothing at all is granted, now or perhaps. */
  boolean isEmpty();
}
