package org.sobercompass.cli;

/** Exit codes; docs/commands.md lists them. */
final class Exit {
  /** Done, or yes. */
  static final int OK = 0;

  /** The answer is no, or there are findings at the asked weight. */
  static final int NO = 1;

  /** The command was mistyped. */
  static final int USAGE = 2;

  /** The input is wrong. */
  static final int INPUT = 3;

  /** A source could not be reached or refused. */
  static final int SOURCE = 4;

  /** A fault of the program itself. */
  static final int FAULT = 5;

  /** Undecided. */
  static final int UNDECIDED = 6;

  private Exit() {}
}
