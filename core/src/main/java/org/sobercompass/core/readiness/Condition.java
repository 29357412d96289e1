package org.sobercompass.core.readiness;

/** What must be so before an account can use a system, in the order in which it is met. */
public enum Condition {
  SEEN("the application sees the account", "out of sight"),
  ENROLLED("enrolled", "not enrolled"),
  ACTIVE("the enrolment is active", "enrolled but not active"),
  ENABLED("the account is enabled", "disabled"),
  NOT_EXPIRED("the account has not expired", "expired"),
  NOT_LOCKED("the account is not locked", "locked"),
  PASSWORD("its password can be used", "whose password must be changed first"),
  ADMITTED("the application lets it in", "whom the application keeps out"),
  SIGN_IN("its kind of sign-in is accepted", "with a kind of sign-in that is not accepted"),
  SECOND_FACTOR("a second factor is registered", "without a second factor"),
  PLACE("enrolled in the right place", "enrolled elsewhere"),
  HOST("it may sign in from the host", "not allowed from the host"),
  ROLE("a role is given to it", "without a role that counts"),
  RIGHTS("the role gives a right", "with a role that gives no right");

  private final String words;
  private final String failing;

  Condition(String words, String failing) {
    this.words = words;
    this.failing = failing;
  }

  /** The condition in words. */
  public String words() {
    return words;
  }

  /** An account for which it is not so, in words that follow a number. */
  public String failing() {
    return failing;
  }
}
