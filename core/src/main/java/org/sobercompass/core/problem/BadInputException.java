package org.sobercompass.core.problem;

import java.util.List;

/** The input is wrong; carries all problems found, so that they can be mended in one go. */
public final class BadInputException extends RuntimeException {
  private static final long serialVersionUID = 1L;
  private static final int NOTICED = 10;

  private final transient List<Problem> problems;
  private final int total;

  /** The kept problems and how many there were in all. */
  public BadInputException(List<Problem> problems, int total) {
    this(problems, total, List.of());
  }

  /**
   * The same.
   *
   * @param noticed what stops nothing by itself, and may be the cause
   */
  public BadInputException(List<Problem> problems, int total, List<Problem> noticed) {
    super(describe(problems, total) + besides(noticed));
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

  private static String besides(List<Problem> noticed) {
    if (noticed.isEmpty()) {
      return "";
    }
    StringBuilder out = new StringBuilder("\nAlso noticed, and perhaps the cause:");
    noticed.stream().limit(NOTICED).forEach(problem -> out.append('\n').append(problem));
    if (noticed.size() > NOTICED) {
      out.append("\n… and ").append(noticed.size() - NOTICED).append(" more");
    }
    return out.toString();
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
