package org.sobercompass.core.filter;

import java.util.Map;
import java.util.Optional;

/**
 * The attribute types that a directory knows and how each compares. What is not in it is not
 * recognised there. Immutable and thread-safe.
 *
 * @param types by name in lower case, every alias by itself
 */
public record Schema(Map<String, Matching> types) {
  /** Copies. */
  public Schema {
    types = Map.copyOf(types);
  }

  /** How an attribute (lower-case name) compares; empty when the directory does not know it. */
  public Optional<Matching> of(String attribute) {
    return Optional.ofNullable(types.get(attribute));
  }
}
