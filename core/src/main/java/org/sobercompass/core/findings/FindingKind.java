package org.sobercompass.core.findings;

/** The kinds of finding; docs/findings.md explains each. */
public enum FindingKind {
  DUTIES_NOT_SEPARATED(
      "duties-not-separated", "one account holds what no one should hold together"),
  NO_SIGN_IN("no-sign-in", "an application asks for no sign-in"),
  GIVEN_TO_EVERYONE("given-to-everyone", "a role is given to everyone"),
  RIGHT_OF_DISABLED_ACCOUNT("right-of-disabled-account", "a disabled account still holds rights"),
  RIGHT_OF_EXPIRED_ACCOUNT("right-of-expired-account", "an expired account still holds rights"),
  GIVEN_TO_MISSING("given-to-missing", "a role is given to somebody who does not exist"),
  GIVEN_TO_PERSON("given-to-person", "a role is given to a person instead of a group"),
  REDUNDANT("redundant", "a grant changes nothing"),
  INTENDED_NOT_ACTUAL("intended-not-actual", "agreed, but not there"),
  ACTUAL_NOT_INTENDED("actual-not-intended", "there, but not agreed"),
  DIFFERS_FROM_INTENDED("differs-from-intended", "there, but not as agreed"),
  CIRCLE_OF_GROUPS("circle-of-groups", "groups contain each other and carry rights"),
  DANGLING_MEMBER(
      "dangling-member", "a group that carries rights lists a member that is not there");

  private final String id;
  private final String words;

  FindingKind(String id, String words) {
    this.id = id;
    this.words = words;
  }

  /** The id, as printed and filtered by. */
  public String id() {
    return id;
  }

  /** The kind in words. */
  public String words() {
    return words;
  }
}
