package org.sobercompass.report.findings;

import java.util.List;

/**
 * What is said of a finding.
 *
 * @param why what its weight comes from
 * @param sentence what was found, one sentence without a full stop
 * @param advice what to do, one sentence without a full stop
 */
public record Said(List<String> why, String sentence, String advice) {
  /** Copies. */
  public Said {
    why = List.copyOf(why);
  }
}
