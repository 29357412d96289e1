package org.sobercompass.organization;

import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;

/**
 * An account of an organization, as a value.
 *
 * @param key its stable key
 * @param login what is typed at sign-in
 * @param name the name to show
 */
public record Account(Key key, String login, String name) {
  static Account of(Facts facts, int number) {
    return new Account(facts.key(number), facts.login(number), facts.label(number));
  }

  /**
   * Somebody who can do something.
   *
   * @param account the account
   * @param isSure whether it is known; else it depends on something that was not read
   */
  public record Holder(Account account, boolean isSure) {}
}
