package org.sobercompass.core.problem;

/** The outside world failed: a source could not be reached, refused, or stopped half-way. */
public final class OutsideException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final transient Problem problem;

  /** What failed, where, and what mends it. */
  public OutsideException(Problem problem) {
    super(problem.toString());
    this.problem = problem;
  }

  /** What failed. */
  public Problem problem() {
    return problem;
  }
}
