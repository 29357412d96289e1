package org.sobercompass.sources;

import java.nio.file.Path;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;

/**
 * The registration of one more form of proposals: statements of a system, read as steps. Found by
 * {@link java.util.ServiceLoader}. Thread-safe.
 */
public interface ProposalForm {
  /** The ending of its files, without the point. */
  String ending();

  /** What such a file holds, for people. */
  String words();

  /**
   * Reads a file.
   *
   * @param name how the user names it
   * @param model what the statements would change
   * @param problems takes what cannot be read, all of it at once
   * @param into takes the steps, in order
   */
  void read(Path file, String name, AccessModel model, Problems problems, Consumer<Step> into);
}
