package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.sources.text.Moments;

/** Proposals of the state of accounts themselves, by the names that were typed. */
final class AccountProposals {
  private final Inputs inputs;
  private final String what;
  private final List<String> names;

  AccountProposals(Inputs inputs, String what, List<String> names) {
    this.inputs = inputs;
    this.what = what;
    this.names = names;
  }

  Proposal switched(boolean off) {
    if (names.isEmpty()) {
      throw new UsageException(what + " takes names of accounts");
    }
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < names.size(); i++) {
      steps.add(
          new Step.Disable(inputs.model().facts().key(inputs.names().account(names.get(i))), off));
    }
    return new Proposal("", steps);
  }

  Proposal expiring() {
    if (names.size() < 2) {
      throw new UsageException("expire takes a day, or never, and names of accounts");
    }
    long at = Facts.NEVER;
    if (!names.get(0).equals("never")) {
      at =
          Moments.end(names.get(0), inputs.workspace().zone())
              .orElseThrow(
                  () ->
                      new UsageException(
                          names.get(0)
                              + " is no date; expected "
                              + Moments.EXPECTED
                              + ", or never"))
              .getEpochSecond();
    }
    List<Step> steps = new ArrayList<>();
    for (int i = 1; i < names.size(); i++) {
      steps.add(Step.Ends.of(inputs.model().facts(), inputs.names().account(names.get(i)), at));
    }
    return new Proposal("", steps);
  }

  /** From which hosts one account may sign in. */
  Proposal hosts() {
    if (names.isEmpty()) {
      throw new UsageException("hosts takes an account, and the hosts, or none for all");
    }
    Facts facts = inputs.model().facts();
    int account = inputs.names().account(names.get(0));
    List<String> is =
        names.subList(1, names.size()).stream().map(h -> h.toLowerCase(Locale.ROOT)).toList();
    return new Proposal(
        "", List.of(new Step.Hosts(facts.key(account), HostLimits.of(facts, account), is)));
  }

  Proposal primaryGroup() {
    if (names.size() < 2) {
      throw new UsageException("primary-group takes a group, and names of accounts");
    }
    AccessModel model = inputs.model();
    int group = inputs.names().group(names.get(0));
    List<Step> steps = new ArrayList<>();
    names.subList(1, names.size()).stream()
        .map(inputs.names()::account)
        .forEach(account -> steps.add(Step.Primary.of(model, account, group)));
    return new Proposal("", steps);
  }
}
