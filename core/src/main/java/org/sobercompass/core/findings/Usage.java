package org.sobercompass.core.findings;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * When permissions and roles were last used, by application. Frozen and thread-safe.
 *
 * @param records the records of each application, by its id
 */
public record Usage(Map<String, OfSystem> records) {
  /** No records. */
  public static final Usage NONE = new Usage(Map.of());

  /** Copies. */
  public Usage {
    records = Map.copyOf(records);
  }

  /**
   * The records of one application.
   *
   * @param since epoch second from which they are complete
   * @param unknown names in the records that no account bears
   * @param last by account, then by {@code right number} or {@code -1 - role number}, the last use
   */
  public record OfSystem(long since, List<String> unknown, Map<Integer, Map<Integer, Long>> last) {
    /** When an account last used a right. */
    public Optional<Long> right(int account, int right) {
      return Optional.ofNullable(last.getOrDefault(account, Map.of()).get(right));
    }

    /** When an account last used a role, as far as records name roles. */
    public Optional<Long> role(int account, int role) {
      return Optional.ofNullable(last.getOrDefault(account, Map.of()).get(-1 - role));
    }
  }

  /** Collects the records of one application. */
  public static final class Builder {
    private final Map<Integer, Map<Integer, Long>> last = new HashMap<>();

    /** Notes that an account used a right. */
    public void right(int account, int right, long at) {
      last.computeIfAbsent(account, a -> new HashMap<>()).merge(right, at, Math::max);
    }

    /** Notes that an account used a role. */
    public void role(int account, int role, long at) {
      right(account, -1 - role, at);
    }

    /** The records, complete from an epoch second on. */
    public OfSystem build(long since, List<String> unknown) {
      return new OfSystem(since, List.copyOf(unknown), last);
    }
  }

  /** The records of an application, if there are any. */
  public Optional<OfSystem> of(String system) {
    return Optional.ofNullable(records.get(system));
  }
}
