package org.sobercompass.core.findings;

import java.util.Locale;
import org.sobercompass.core.system.Remark;

/** The kinds of finding; docs/findings explains each on a page. */
public enum FindingKind {
  DUTIES_NOT_SEPARATED("somebody holds what no one should hold together", Mend.REVERSIBLE),
  DUTIES_MAY_MEET(
      "somebody holds one side of what must be kept apart, and the other is close", Mend.DECISION),
  ROLE_AGAINST_RULE(
      "a role has by itself what must be kept apart, though nobody holds it", Mend.DECISION),
  GRANT_TAKES_AWAY("an assignment takes away what another gives", Mend.DECISION),
  NO_SIGN_IN("an application asks for no sign-in", Mend.DECISION),
  GIVEN_TO_EVERYONE("a role is given to everyone", Mend.REVERSIBLE),
  GIVEN_TO_BROAD_GROUP("a role is given to a group with very many in it", Mend.DECISION),
  GIVEN_EVERYWHERE("a role is given everywhere that others are given at one place", Mend.DECISION),
  GIVEN_TO_PERSON("a role is given to a person instead of a group", Mend.REVERSIBLE),
  REDUNDANT("a grant changes nothing", Mend.REVERSIBLE),
  ASSIGNMENT_OVER("an assignment whose time is over still stands there", Mend.REVERSIBLE),
  GIVEN_TO_MISSING("a role is given to somebody who does not exist", Mend.REVERSIBLE),
  GIVEN_TO_EMPTY_GROUP("a role is given to a group with nobody in it", Mend.REVERSIBLE),
  RIGHT_OF_DISABLED_ACCOUNT("a disabled account still holds rights", Mend.REVERSIBLE),
  RIGHT_OF_EXPIRED_ACCOUNT("an expired account still holds rights", Mend.REVERSIBLE),
  RIGHT_OF_LOCKED_ACCOUNT("an account that is locked for good still holds rights", Mend.REVERSIBLE),
  RIGHT_OF_SLEEPING_ACCOUNT(
      "an account that never or long has not signed in holds rights", Mend.REVERSIBLE),
  OTHER_ACCOUNT_WORKS(
      "an account of a person is switched off, and another still works", Mend.DECISION),
  LOCAL_ACCOUNT_OF_NOBODY("a local account belongs to nobody in a directory", Mend.DECISION),
  SERVICE_SIGNS_IN("a service account can sign in as a person does", Mend.DECISION),
  SERVICE_HOLDS_MORE("a service account holds more than its kind", Mend.REVERSIBLE),
  UNUSED("rights that nobody has used for long", Mend.REVERSIBLE),
  ROLE_HARDLY_USED("a role of which its holder uses a small part", Mend.DECISION),
  UNLIKE_PEERS("a right that hardly any peer holds", Mend.REVERSIBLE),
  POWER_ONLY_IN_APPLICATION(
      "power over an application, and none over the directory", Mend.DECISION),
  POWER_ONLY_IN_DIRECTORY("power over the directory, and none over the application", Mend.DECISION),
  POWERFUL_FROM_ANYWHERE("a powerful account that may sign in from anywhere", Mend.DECISION),
  POWERFUL_WITHOUT_SECOND_FACTOR("a powerful account without a second factor", Mend.DECISION),
  PASSWORD_NEVER_ENDS("a powerful account whose password never ends", Mend.DECISION),
  POWER_WITHIN_REACH("somebody could give a power to himself", Mend.DECISION),
  OVER_THE_MORE_POWERFUL(
      "an administrator over accounts more powerful than himself", Mend.DECISION),
  SCOPE_CAN_BE_WIDENED("an administrator can edit what makes her own scope", Mend.DECISION),
  INSIDE_OWN_SCOPE("an administrator is inside her own scope", Mend.DECISION),
  DEEP_NESTING("rights through groups in groups in groups", Mend.DECISION),
  CIRCLE_OF_GROUPS("groups contain each other and carry rights", Mend.REVERSIBLE),
  DANGLING_MEMBER(
      "a group that carries rights lists a member that is not there", Mend.IRREVERSIBLE),
  EARLIER_ID_OPENS("an id kept from an earlier directory still opens doors", Mend.IRREVERSIBLE),
  READING_ACCOUNT_WRITES("an account that is there to read can do more", Mend.DECISION),
  PASSWORD_IN_CLEAR("a password crosses the wire unprotected", Mend.DECISION),
  NO_EMERGENCY_ACCOUNT("nobody gets in when the directory is down", Mend.DECISION),
  EMERGENCY_UNTRIED("an emergency account was not tried for long", Mend.DECISION),
  NO_OWNER("nobody answers for it", Mend.DECISION),
  OWNER_GONE("whoever answers for it is disabled or expired", Mend.DECISION),
  READABLE_BY_EVERYONE("a sensitive place is readable by everyone", Mend.DECISION),
  INTENDED_NOT_ACTUAL("agreed, but not there", Mend.DECISION),
  ACTUAL_NOT_INTENDED("there, but not agreed", Mend.REVERSIBLE),
  DIFFERS_FROM_INTENDED("there, but not as agreed", Mend.DECISION),
  ORDER_MATTERS("what is allowed and denied hangs on the order", Mend.DECISION),
  LAYERS_DISAGREE("share list and file list disagree", Mend.REVERSIBLE),
  CLAIM_WITHOUT_SUPPORT("entries claim to be inherited and are not", Mend.REVERSIBLE),
  MISSED_CHANGE("what is handed on from above did not arrive", Mend.REVERSIBLE),
  BROKEN_INHERITANCE("inheritance is stopped below", Mend.DECISION),
  WRITABLE_BY_EVERYONE("everyone can change it", Mend.REVERSIBLE),
  OWNER_OUTSIDE("the owner is none of the administrators", Mend.DECISION),
  ENTRY_OF_MISSING("an entry for somebody who does not exist", Mend.REVERSIBLE),
  ENTRY_FOR_PERSON("an entry for a person instead of a group", Mend.REVERSIBLE),
  MASK_HIDES("the mask takes away what an entry says", Mend.DECISION),
  NO_WAY_TO_IT("a right on a table without the way to it", Mend.REVERSIBLE),
  PUBLIC_RIGHTS("every role of the database has it", Mend.REVERSIBLE),
  MAY_SWITCH("a member may switch to a stronger role", Mend.REVERSIBLE),
  SUPERUSER_BY_MEMBERSHIP("a member may switch to a superuser", Mend.REVERSIBLE),
  SERVER_FILES("a member reaches files or programs of the database's server", Mend.REVERSIBLE),
  CREATES_ROLES("a role may create roles, and so come to others", Mend.REVERSIBLE);

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
