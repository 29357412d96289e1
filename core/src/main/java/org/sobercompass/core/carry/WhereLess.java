package org.sobercompass.core.carry;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Change;

/** Keeps of carried rights those that give the counterpart something it could not do before. */
final class WhereLess {
  private WhereLess() {}

  /** O(rights x what each gives). */
  static Carried of(AccessModel model, Carried all) {
    List<CarriedRight> needed = new ArrayList<>();
    for (CarriedRight right : all.rights()) {
      if (right.there() || gives(model, right)) {
        needed.add(right);
      }
    }
    return new Carried(needed, all.left());
  }

  private static boolean gives(AccessModel model, CarriedRight right) {
    List<Change> changes = new Proposal("", right.target()).on(model).changes();
    return Effects.of(model, changes).gives().stream()
        .anyMatch(effect -> effect.account() == right.to() || isGroup(model, right.to()));
  }

  /** What a group is given, its members are. */
  private static boolean isGroup(AccessModel model, int subject) {
    return subject >= model.facts().accounts();
  }
}
