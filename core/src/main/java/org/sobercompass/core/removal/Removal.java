package org.sobercompass.core.removal;

import java.util.List;
import org.sobercompass.core.system.Change;

/**
 * What was found.
 *
 * @param result whether it ends what was to end, and how sure it is that nothing cheaper does
 * @param changes the removals, in a stable order
 */
public record Removal(Result result, List<Change> changes) {

  /** What can be said of it. */
  public enum Result {
    /** No cheaper set of removals ends it. */
    PROVED_LEAST("proved least"),
    /** It ends it; something cheaper may too. */
    BEST_FOUND("best found within the bound"),
    /** No removal that exists ends it: proved. */
    NONE_ENDS_IT("no removal ends it"),
    /** No removal that may be made ends it: some that must stay would have to go. */
    NONE_ALLOWED("no removal ends it that leaves alone what must stay"),
    /** The search gave up: there may be removals that end it. */
    GAVE_UP("not found within the bound; there may be one");

    private final String words;

    Result(String words) {
      this.words = words;
    }

    /** The same in words. */
    public String words() {
      return words;
    }
  }
}
