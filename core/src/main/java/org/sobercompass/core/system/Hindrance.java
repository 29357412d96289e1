package org.sobercompass.core.system;

/** Why an entry or item of a list is not simply carried over to somebody else. */
public enum Hindrance {
  /** Nothing is in the way. */
  NONE,
  /** It stands in a waste bin, from which things are brought back or deleted for good. */
  WASTE_BIN,
  /** It can only be changed by hand. */
  BY_HAND
}
