package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Entry;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.directory.AccountStates;

/** Which attribute of an account says what a step changes of it. */
final class LdapAccounts {
  private static final String WORKSTATIONS = "userWorkstations";

  private final boolean ad;

  LdapAccounts(boolean ad) {
    this.ad = ad;
  }

  /**
   * What a step changes in the entry of an account; empty where nothing says it.
   *
   * @param number the number of a group
   */
  Optional<Difference> of(Step step, Entry account, Function<Key, Optional<String>> number) {
    if (step instanceof Step.Disable disable) {
      return state(account, disable.disabled());
    }
    if (step instanceof Step.Ends ends) {
      return end(account, ends.is());
    }
    if (step instanceof Step.Hosts hosts) {
      return hosts(account, hosts.is());
    }
    return step instanceof Step.Primary primary
        ? primary.is().flatMap(number).filter(n -> !ad).flatMap(n -> primary(account, n))
        : Optional.empty();
  }

  /** Why nothing says it. */
  String why(Step step, String dn) {
    if (!(step instanceof Step.Primary)) {
      return "no attribute of " + dn + " says it";
    }
    return ad
        ? "the server makes who had it as primary group a plain member of the old one, and takes"
            + " the new one's member out; change it with the server's own tools, then collect"
            + " again"
        : "a primary group has a number, gidNumber, and an account one primary group";
  }

  /** A list with commas in one value ([MS-ADA3]), or one value each (RFC 4524). */
  private Optional<Difference> hosts(Entry account, List<String> is) {
    if (ad || account.hasAttribute(WORKSTATIONS)) {
      return one(account, WORKSTATIONS, is.isEmpty() ? List.of() : List.of(String.join(",", is)));
    }
    return one(account, "host", is);
  }

  private static Optional<Difference> primary(Entry account, String number) {
    return one(account, "gidNumber", List.of(number));
  }

  static List<String> values(Entry entry, String attribute) {
    String[] values = entry.getAttributeValues(attribute);
    return values == null ? List.of() : List.of(values);
  }

  /** One attribute with one value, which gives way to another or to none. */
  private static Optional<Difference> one(Entry entry, String attribute, List<String> is) {
    List<String> was = values(entry, attribute);
    return was.equals(is) ? Optional.empty() : Optional.of(new Difference(attribute, was, is));
  }

  private Optional<Difference> state(Entry account, boolean disabled) {
    if (ad) {
      return values(account, AccountStates.CONTROL).stream()
          .findFirst()
          .flatMap(
              was ->
                  one(
                      account,
                      AccountStates.CONTROL,
                      List.of(AccountStates.control(was, disabled))));
    }
    String attribute =
        account.hasAttribute(AccountStates.LOCK) ? AccountStates.LOCK : AccountStates.LOCKED;
    return one(
        account,
        attribute,
        !disabled
            ? List.of()
            : List.of(attribute.equals(AccountStates.LOCK) ? "true" : AccountStates.FOR_GOOD));
  }

  private Optional<Difference> end(Entry account, Optional<Instant> at) {
    String attribute =
        ad
            ? "accountExpires"
            : account.hasObjectClass("shadowAccount") ? "shadowExpire" : "pwdEndTime";
    return AccountStates.written(attribute, at)
        .flatMap(value -> one(account, attribute, value.isEmpty() ? List.of() : List.of(value)));
  }
}
