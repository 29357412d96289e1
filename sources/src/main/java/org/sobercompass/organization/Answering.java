package org.sobercompass.organization;

import java.util.List;
import java.util.function.Supplier;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.ActRoutes;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Limits;

/**
 * Answers what is asked with names resolved: of permissions and of admin actions alike. Not
 * thread-safe.
 */
final class Answering {
  private final AccessModel model;
  private final Supplier<Powers> powers;

  /** Powers are worked out when an admin action is asked about. */
  Answering(AccessModel model, Supplier<Powers> powers) {
    this.model = model;
    this.powers = powers;
  }

  Can can(int account, Asked asked) {
    if (asked instanceof Asked.Act act) {
      return powers.get().usable(account, act.action(), act.object(), act.destination());
    }
    Asked.Use use = (Asked.Use) asked;
    return model.asker().can(use.view(), account, use.question());
  }

  Crowd holders(Asked asked) {
    if (asked instanceof Asked.Act act) {
      return powers.get().who(act.action(), act.object(), act.destination());
    }
    Asked.Use use = (Asked.Use) asked;
    return new Holders(model.asker()).all(use.view(), use.question());
  }

  List<String> ways(int who, Asked asked) {
    if (asked instanceof Asked.Act act) {
      return new ActRoutes(powers.get()).all(who, act);
    }
    Asked.Use use = (Asked.Use) asked;
    return new RouteFinder(model.asker(), Limits.USUAL)
        .find(use.view(), who, use.right(), use.question().resource()).open().stream()
            .map(route -> Words.route(model, use.view(), route))
            .toList();
  }
}
