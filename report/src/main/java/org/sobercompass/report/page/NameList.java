package org.sobercompass.report.page;

import java.util.List;

/**
 * Accounts that a page has no room for: a search finds them, and says which command tells more.
 *
 * @param lines a line an account: what it is called and how it signs in
 * @param leftOut how many are not even here
 */
public record NameList(List<String> lines, int leftOut) {
  /** Copies. */
  public NameList {
    lines = List.copyOf(lines);
  }
}
