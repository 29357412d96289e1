package org.sobercompass.cli;

/** A name on the command line that fits nothing, or two things. */
final class UsageException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  UsageException(String message) {
    super(message);
  }
}
