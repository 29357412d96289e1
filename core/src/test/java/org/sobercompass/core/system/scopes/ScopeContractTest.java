package org.sobercompass.core.system.scopes;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.contract.Sample;
import org.sobercompass.core.contract.SystemContract;
import org.sobercompass.core.delegation.ActionRights;

/** The contract on random admin scopes and roles, some with filters that are undefined. */
class ScopeContractTest extends SystemContract {
  /** What a filter does not decide, and a group that was not read, are each taken both ways. */
  @Override
  protected boolean isExact() {
    return false;
  }

  @Override
  protected Sample sample(long seed) {
    RandomScopes world = new RandomScopes(seed);
    AccessModel model =
        AccessModel.of(
            world.facts,
            List.of(
                ScopeSystem.of(
                    world.facts,
                    new ActionRights(RandomScopes.actions()),
                    world.scopes,
                    world.roles,
                    world.grants,
                    Optional.empty())),
            Instant.ofEpochSecond(RandomScopes.NOW),
            Optional.empty());
    return Sample.of(
        model,
        (account, subjects, right, object) -> world.decide(model.graph(), subjects, right, object));
  }
}
