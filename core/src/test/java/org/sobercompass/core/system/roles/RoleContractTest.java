package org.sobercompass.core.system.roles;

import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.contract.Sample;
import org.sobercompass.core.contract.SystemContract;
import org.sobercompass.core.reference.Naive;
import org.sobercompass.core.reference.SmallWorld;

/** The contract on random applications: three ways of combining, windows, registers, sights. */
class RoleContractTest extends SystemContract {
  @Override
  protected int samples() {
    return 1000;
  }

  /** UnpickTest holds the price, by which groups that carry much cost more. */
  @Override
  protected boolean isPricedSimply() {
    return false;
  }

  @Override
  protected Sample sample(long seed) {
    SmallWorld world = new SmallWorld(seed);
    AccessModel model = world.model();
    Naive naive = new Naive(world);
    return new Sample(
        model,
        (account, right, resource) ->
            naive.decide(account, model.systems().get(0).rights().text(right), resource));
  }
}
