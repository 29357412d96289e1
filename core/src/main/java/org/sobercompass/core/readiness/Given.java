package org.sobercompass.core.readiness;

import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;

/** Whether somebody meant an account to have something in a system, whether it counts or not. */
public final class Given {
  private Given() {}

  /**
   * Whether a grant that holds names the account, or a group that it is in by the widest
   * memberships: also where the system does not see it.
   */
  public static boolean something(Asker asker, SystemView view, int account) {
    if (!asker.projected(view, account).isEmpty()) {
      return true;
    }
    SubjectSet wide = new SubjectSet();
    asker.model().widest().walker().subjects(account, wide);
    IntList trustees = view.decider().trustees();
    for (int i = 0; i < trustees.size(); i++) {
      if (wide.sure().contains(trustees.get(i))) {
        return true;
      }
    }
    return false;
  }
}
