package org.sobercompass.core.audit;

import java.util.BitSet;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.store.IntList;

/** Who has an admin role by an assignment, and over what. */
final class RoleReach {
  private RoleReach() {}

  /** The accounts that an assignment of an admin role counts for now; none where there is none. */
  static BitSet accounts(Powers powers, int number) {
    BitSet accounts = new BitSet();
    if (number >= powers.roles().administration().grants().size()) {
      return accounts;
    }
    AdminGrant grant = powers.roles().administration().grants().get(number);
    if (grant.subject() >= 0 && grant.activeAt(powers.model().asOf().getEpochSecond())) {
      IntList found = new IntList();
      powers.model().widest().walker().accounts(grant.subject(), found);
      found.setIn(accounts);
    }
    return accounts;
  }

  /** The subjects that it is over. */
  static BitSet over(Powers powers, int number) {
    BitSet all = new BitSet();
    if (number >= powers.roles().administration().grants().size()) {
      return all;
    }
    AdminGrant grant = powers.roles().administration().grants().get(number);
    if (grant.scope() == AdminGrant.EVERYTHING) {
      all.set(0, powers.model().facts().subjects());
    } else {
      powers.roles().scopes().objects(grant.scope()).setIn(all);
    }
    return all;
  }
}
