package org.sobercompass.core.access;

import java.util.List;
import java.util.Locale;
import org.sobercompass.core.system.Standing;

/**
 * One effective permission of one account, at a breakpoint: a resource where the outcome differs
 * from the one above it.
 *
 * @param account the account
 * @param system the number of the system in the model
 * @param right the right
 * @param resource the breakpoint
 * @param reach how far it reaches from there
 * @param excluded the tops below it where it ends, ascending
 * @param state whether it can be used
 * @param reasons why not, when it cannot
 */
public record Holding(
    int account,
    int system,
    int right,
    int resource,
    Reach reach,
    List<Integer> excluded,
    Standing.State state,
    List<String> reasons) {

  /** How far a holding reaches. */
  public enum Reach {
    /** This resource and all below it that is not excluded. */
    SUBTREE("and below"),
    /** This resource, and nothing directly below it. */
    RESOURCE("only here");

    private final String words;
    private final String word = name().toLowerCase(Locale.ROOT);

    Reach(String words) {
      this.words = words;
    }

    /** The reach in words. */
    public String words() {
      return words;
    }

    /** The lower-case word. */
    public String word() {
      return word;
    }
  }
}
