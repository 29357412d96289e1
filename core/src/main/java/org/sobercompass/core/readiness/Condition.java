package org.sobercompass.core.readiness;

/** What must be so before an account can use a system, in the order in which it is met. */
public enum Condition {
  SEEN("the application sees the account"),
  ENROLLED("enrolled"),
  ACTIVE("the enrolment is active"),
  ENABLED("the account is enabled"),
  NOT_EXPIRED("the account has not expired"),
  NOT_LOCKED("the account is not locked"),
  PASSWORD("its password can be used"),
  SIGN_IN("its kind of sign-in is accepted"),
  SECOND_FACTOR("a second factor is registered"),
  PLACE("enrolled in the right place"),
  HOST("it may sign in from the host"),
  ROLE("a role is given to it"),
  RIGHTS("the role gives it something");

  private final String words;

  Condition(String words) {
    this.words = words;
  }

  /** The condition in words. */
  public String words() {
    return words;
  }
}
