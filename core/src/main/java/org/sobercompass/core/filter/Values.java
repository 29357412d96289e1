package org.sobercompass.core.filter;

import java.util.List;

/** The attribute values of one entry, as a filter sees them. */
public interface Values {
  /** The values of an attribute (lower-case name without options); empty when it has none. */
  List<String> of(String attribute);

  /** Whether the attribute type is known in this directory; if not, items on it are undefined. */
  boolean recognises(String attribute);
}
