package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Crowd;

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
  public record Holder(Account account, boolean isSure) {
    /** The accounts of a crowd, in their order. */
    static List<Holder> of(Facts facts, Crowd crowd) {
      List<Holder> all = new ArrayList<>();
      for (int account = 0; account < facts.accounts(); account++) {
        boolean sure = crowd.yes().get(account);
        if (sure || crowd.perhaps().get(account)) {
          all.add(new Holder(Account.of(facts, account), sure));
        }
      }
      return all;
    }
  }
}
