package org.sobercompass.core.problem;

import java.util.List;

/** The input is wrong; carries all problems found, so that they can be mended in one go. */
public final class BadInputException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final transient List<Problem> problems;
  private final int total;

  /** The kept problems and how many there were in all. */
  public BadInputException(List<Problem> problems, int total) {
    super(describe(problems, total));
    this.problems = List.copyOf(problems);
    this.total = total;
  }

  /** One problem. */
  public BadInputException(Problem problem) {
    this(List.of(problem), 1);
  }

  /** The problems, by place. */
  public List<Problem> problems() {
    return problems;
  }

  /** How many there were, kept or not. */
  public int total() {
    return total;
  }

  private static String describe(List<Problem> problems, int total) {
    StringBuilder out = new StringBuilder();
    out.append(total).append(total == 1 ? " problem" : " problems").append(" in the input");
    for (Problem problem : problems) {
      out.append('\n').append(problem);
    }
    if (total > problems.size()) {
      out.append("\n… and ").append(total - problems.size()).append(" more (the first ");
      out.append(problems.size()).append(" are listed)");
    }
    return out.toString();
  }
}
