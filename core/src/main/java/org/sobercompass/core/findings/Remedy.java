package org.sobercompass.core.findings;

import java.util.List;
import org.sobercompass.core.system.Change;

/** What has to end for a finding to end. Subjects, systems and rights are numbers of its model. */
public sealed interface Remedy {
  /** Nothing that a removal could end. */
  Remedy NONE = new Decided();

  /** Somebody has to decide, or something is to be added or set otherwise. */
  record Decided() implements Remedy {}

  /** These changes, all of them. */
  record Made(List<Change> changes) implements Remedy {
    /** Copies. */
    public Made {
      changes = List.copyOf(changes);
    }
  }

  /** Nobody of these persons, each with all their accounts, breaks the rule. */
  record Kept(String rule, List<List<Integer>> persons) implements Remedy {}

  /**
   * The accounts are given none of these; without a list nothing at all by name: no assignment, no
   * admin role, no entry.
   */
  record Ungiven(List<Integer> accounts, List<Given> grants) implements Remedy {
    /** A grant of a system. */
    public record Given(int system, int grant) {}
  }

  /** Nobody comes to a power by acting as this account, which holds it. */
  record Untaken(String power, boolean ofDirectory, int target) implements Remedy {}

  /** Nobody comes to a power by longer ways than acting as one who holds it. */
  record Unreached(String power, boolean ofDirectory) implements Remedy {}

  /** Nobody who is set over the scope is in it. */
  record Outside(int scope) implements Remedy {}

  /** None of the accounts holds any of these rights of a system. */
  record Unheld(List<Integer> accounts, int system, List<Integer> rights) implements Remedy {
    /** Copies. */
    public Unheld {
      accounts = List.copyOf(accounts);
      rights = List.copyOf(rights);
    }
  }

  /** These groups do not contain each other. */
  record Uncircled(List<Integer> groups) implements Remedy {}
}
