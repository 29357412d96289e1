package org.sobercompass.core.amendment;

import java.util.List;

/**
 * What came of carrying out, or of taking back.
 *
 * @param asked how many records were asked for
 * @param made how many were made now
 * @param before how many needed nothing, since they were made, or taken back, earlier
 * @param wasSo how many needed nothing, since the system stood so already by somebody else's doing
 * @param failed those that could not be made, with why
 * @param stopped why it stopped before the end, or empty
 */
public record Work(
    int asked, int made, int before, int wasSo, List<Failure> failed, String stopped) {
  /** Copies. */
  public Work {
    failed = List.copyOf(failed);
  }

  /** A record that could not be made. */
  public record Failure(AmendmentRecord record, String why) {}

  /** Whether all that was asked for is as it should be. */
  public boolean isWhole() {
    return made + before + wasSo == asked;
  }

  /** How many were not tried. */
  public int left() {
    return asked - made - before - wasSo - failed.size();
  }
}
