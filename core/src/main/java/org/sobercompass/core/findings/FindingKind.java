package org.sobercompass.core.findings;

import org.sobercompass.core.system.Remark;

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
      "dangling-member", "a group that carries rights lists a member that is not there"),
  LAYERS_DISAGREE(Remark.Kind.LAYERS_DISAGREE),
  CLAIM_WITHOUT_SUPPORT(Remark.Kind.CLAIM_WITHOUT_SUPPORT),
  MISSED_CHANGE(Remark.Kind.MISSED_CHANGE),
  BROKEN_INHERITANCE(Remark.Kind.BROKEN_INHERITANCE),
  WRITABLE_BY_EVERYONE(Remark.Kind.WRITABLE_BY_EVERYONE),
  OWNER_OUTSIDE(Remark.Kind.OWNER_OUTSIDE),
  ENTRY_OF_MISSING(Remark.Kind.ENTRY_OF_MISSING),
  MASK_HIDES(Remark.Kind.MASK_HIDES),
  NO_WAY_TO_IT(Remark.Kind.NO_WAY_TO_IT),
  PUBLIC_RIGHTS(Remark.Kind.PUBLIC_RIGHTS),
  MAY_SWITCH(Remark.Kind.MAY_SWITCH),
  SUPERUSER_BY_MEMBERSHIP(Remark.Kind.SUPERUSER_BY_MEMBERSHIP);

  private final String id;
  private final String words;

  FindingKind(String id, String words) {
    this.id = id;
    this.words = words;
  }

  FindingKind(Remark.Kind kind) {
    this(kind.id(), kind.words());
  }

  /** The kind for what a system remarks on its own facts. */
  static FindingKind of(Remark.Kind kind) {
    return valueOf(kind.name());
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
