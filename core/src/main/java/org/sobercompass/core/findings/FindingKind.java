package org.sobercompass.core.findings;

import java.util.Locale;
import org.sobercompass.core.system.Remark;

/** The kinds of finding; docs/findings explains each on a page. */
public enum FindingKind {
  SEPARATION_OF_DUTIES("one person holds rights that must be kept apart", Mend.REVERSIBLE),
  POTENTIAL_CONFLICT(
      "a person holds one side of what must be kept apart and is close to the other",
      Mend.DECISION),
  CONFLICTING_ROLE(
      "a role contains rights that must be kept apart, although nobody holds it", Mend.DECISION),
  ASSIGNMENT_REMOVES_RIGHTS("an assignment takes away rights that another gives", Mend.DECISION),
  NO_SIGN_IN("an application does not ask for a sign-in", Mend.DECISION),
  ASSIGNED_TO_EVERYONE("a role is assigned to everyone", Mend.REVERSIBLE),
  ASSIGNED_TO_LARGE_GROUP("a role is assigned to a very large group", Mend.DECISION),
  UNSCOPED_ASSIGNMENT(
      "a role is assigned everywhere, while its other assignments are limited to one place",
      Mend.DECISION),
  DIRECT_ASSIGNMENT("a role is assigned to a person instead of a group", Mend.REVERSIBLE),
  REDUNDANT_ASSIGNMENT("an assignment or entry that changes nothing", Mend.REVERSIBLE),
  EXPIRED_ASSIGNMENT("an assignment has expired and is still in place", Mend.REVERSIBLE),
  UNRESOLVED_SUBJECT("a role is assigned to somebody who does not exist", Mend.REVERSIBLE),
  ASSIGNED_TO_EMPTY_GROUP("a role is assigned to an empty group", Mend.REVERSIBLE),
  DISABLED_ACCOUNT("a disabled account still holds rights", Mend.REVERSIBLE),
  EXPIRED_ACCOUNT("an expired account still holds rights", Mend.REVERSIBLE),
  LOCKED_ACCOUNT("a permanently locked account still holds rights", Mend.REVERSIBLE),
  DORMANT_ACCOUNT(
      "an account that has not signed in for a long time, or never, holds rights", Mend.REVERSIBLE),
  OTHER_ACCOUNT_ACTIVE(
      "one account of a person is disabled and another still works", Mend.DECISION),
  UNLINKED_LOCAL_ACCOUNT("a local account belongs to nobody in a directory", Mend.DECISION),
  SERVICE_ACCOUNT_SIGNS_IN("a service account can sign in as a person does", Mend.DECISION),
  SERVICE_ACCOUNT_EXCESS(
      "a service account holds more rights than services are said to need", Mend.REVERSIBLE),
  UNUSED_RIGHTS("rights that nobody has used for a long time", Mend.REVERSIBLE),
  RARELY_USED_ROLE("a role of which its holder uses a small part", Mend.DECISION),
  PEER_OUTLIER("a right that hardly any peer holds", Mend.REVERSIBLE),
  POWER_ONLY_IN_APPLICATION(
      "power over an application, and none over the directory", Mend.DECISION),
  POWER_ONLY_IN_DIRECTORY("power over the directory, and none over the application", Mend.DECISION),
  POWERFUL_FROM_ANYWHERE("a powerful account that may sign in from anywhere", Mend.DECISION),
  POWERFUL_WITHOUT_SECOND_FACTOR("a powerful account without a second factor", Mend.DECISION),
  PASSWORD_NEVER_EXPIRES("the password of a powerful account never expires", Mend.DECISION),
  ESCALATION_PATH("somebody could give themselves a power they do not hold", Mend.DECISION),
  ADMINISTERS_MORE_POWERFUL(
      "an administrator can act on accounts that are more powerful than their own", Mend.DECISION),
  SCOPE_CAN_BE_WIDENED("administrators can edit what defines their own scope", Mend.DECISION),
  INSIDE_OWN_SCOPE("an administrator is inside their own scope", Mend.DECISION),
  DEEP_NESTING("rights come through deeply nested groups", Mend.DECISION),
  CIRCULAR_NESTING("groups contain each other and carry rights", Mend.REVERSIBLE),
  DANGLING_MEMBER(
      "a group that carries rights lists a member that does not exist", Mend.IRREVERSIBLE),
  FORMER_ID("an id kept from a former directory still gives access", Mend.IRREVERSIBLE),
  READING_ACCOUNT_WRITES("an account that is meant to read can do more", Mend.DECISION),
  PASSWORD_IN_CLEAR("a password crosses the network unprotected", Mend.DECISION),
  NO_EMERGENCY_ACCOUNT("nobody can get in when the directory is down", Mend.DECISION),
  EMERGENCY_ACCOUNT_UNTESTED(
      "an emergency account has not been tested for a long time", Mend.DECISION),
  NO_OWNER("nobody is responsible for it", Mend.DECISION),
  OWNER_GONE("its owner is disabled or expired", Mend.DECISION),
  READABLE_BY_EVERYONE("a sensitive place is readable by everyone", Mend.DECISION),
  INTENDED_NOT_ACTUAL("agreed, but not in place", Mend.DECISION),
  ACTUAL_NOT_INTENDED("in place, but not agreed", Mend.REVERSIBLE),
  DIFFERS_FROM_INTENDED("in place, but not as agreed", Mend.DECISION),
  ENTRY_ORDER("whether access is allowed depends on the order of the entries", Mend.DECISION),
  SHARE_AND_FILES_DISAGREE(
      "the list of the share and the list of the files disagree", Mend.REVERSIBLE),
  UNSUPPORTED_INHERITANCE(
      "entries are marked as inherited, and nothing above hands them on", Mend.REVERSIBLE),
  INHERITANCE_NOT_APPLIED("what should be inherited from above did not arrive", Mend.REVERSIBLE),
  BROKEN_INHERITANCE("inheritance is blocked below", Mend.DECISION),
  WRITABLE_BY_EVERYONE("everyone can change it", Mend.REVERSIBLE),
  OWNER_NOT_ADMINISTRATOR("the owner is not one of the administrators", Mend.DECISION),
  UNRESOLVED_TRUSTEE("an entry for somebody who does not exist", Mend.REVERSIBLE),
  DIRECT_ENTRY("an entry for a person instead of a group", Mend.REVERSIBLE),
  MASK_LIMITS_ENTRY("the mask takes away what an entry gives", Mend.DECISION),
  GRANT_WITHOUT_EFFECT("a right on a table without the right to use its schema", Mend.REVERSIBLE),
  PUBLIC_RIGHTS("every role of the database has this right", Mend.REVERSIBLE),
  CAN_SWITCH_ROLE("a member can switch to a stronger role", Mend.REVERSIBLE),
  SUPERUSER_BY_MEMBERSHIP("a member can switch to a superuser", Mend.REVERSIBLE),
  SERVER_FILE_ACCESS("a member can use files or programs of the database server", Mend.REVERSIBLE),
  CAN_CREATE_ROLES("a role can create roles, and so gain other roles", Mend.REVERSIBLE);

  private final String id = name().toLowerCase(Locale.ROOT).replace('_', '-');
  private final String words;
  private final Mend mend;

  FindingKind(String words, Mend mend) {
    this.words = words;
    this.mend = mend;
  }

  /** The kind for what a system remarks on its own facts: that of the same id. */
  public static FindingKind of(Remark.Kind kind) {
    return valueOf(kind.id().toUpperCase(Locale.ROOT).replace('-', '_'));
  }

  /** The id, as printed and filtered by. */
  public String id() {
    return id;
  }

  /** The kind in words. */
  public String words() {
    return words;
  }

  /** What it takes to end one. */
  public Mend mend() {
    return mend;
  }
}
