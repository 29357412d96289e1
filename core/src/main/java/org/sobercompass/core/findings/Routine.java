package org.sobercompass.core.findings;

import java.util.Set;
import org.sobercompass.core.key.Key;

/**
 * Changes that come again and again, and need no word of their own. Immutable.
 *
 * @param groups the keys of groups whose members change
 * @param applications the ids of applications in which permissions come and go
 * @param accounts what may happen to accounts: new, gone, renamed, moved
 */
public record Routine(Set<Key> groups, Set<String> applications, Set<String> accounts) {
  /** Nothing is routine. */
  public static final Routine NONE = new Routine(Set.of(), Set.of(), Set.of());

  /** What may happen to accounts. */
  public static final Set<String> OF_ACCOUNTS = Set.of("new", "gone", "renamed", "moved");

  /** Copies. */
  public Routine {
    groups = Set.copyOf(groups);
    applications = Set.copyOf(applications);
    accounts = Set.copyOf(accounts);
  }
}
