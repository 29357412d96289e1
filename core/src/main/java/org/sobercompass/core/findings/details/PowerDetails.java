package org.sobercompass.core.findings.details;

import java.util.List;

/** About powerful accounts, powers within reach, and those who administer a scope. */
public sealed interface PowerDetails extends Details {
  /**
   * The password of a powerful account never expires.
   *
   * @param powers what it can, in words of the powers
   */
  record PasswordNeverExpires(int account, List<String> powers) implements PowerDetails {}

  /** An administrator of an application that registers second factors has none. */
  record NoSecondFactor(int account, int system, List<String> powers) implements PowerDetails {}

  /** Accounts with a power that may sign in from anywhere. */
  record FromAnywhere(String power, Who who) implements PowerDetails {}

  /** Accounts with power over an application and none over a directory. */
  record OnlyInApplication(String power, Who who) implements PowerDetails {}

  /** Accounts with power over a directory and none over the application. */
  record OnlyInDirectory(String power, Who who) implements PowerDetails {}

  /**
   * Accounts that can act as a more powerful one.
   *
   * @param power what that one can
   */
  record ActsAs(String power, int target, Who who) implements PowerDetails {}

  /**
   * Accounts that could come to a power.
   *
   * @param id the power as it is asked for
   */
  record WithinReach(String power, String id, Who who) implements PowerDetails {}

  /** Administrators of a scope that are inside it. */
  record InsideScope(String scope, Who who) implements PowerDetails {}

  /**
   * Administrators of a scope that can widen it.
   *
   * @param how the first way
   * @param ways how many ways there are
   */
  record WidensScope(String scope, Who who, String how, int ways) implements PowerDetails {}
}
