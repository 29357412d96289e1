package org.sobercompass.core.problem;

/** A name that nothing has, or that several have; the message says which, and the nearest. */
public final class UnknownNameException extends RuntimeException {
  private static final long serialVersionUID = 1;

  /** For a name. */
  public UnknownNameException(String message) {
    super(message);
  }
}
