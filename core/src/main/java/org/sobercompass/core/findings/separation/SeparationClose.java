package org.sobercompass.core.findings.separation;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.findings.Side.Act;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Side.RoleHeld;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.SeparationDetails;
import org.sobercompass.core.findings.details.SeparationDetails.Missing;
import org.sobercompass.core.findings.separation.SeparationSweep.Hold;
import org.sobercompass.core.system.Standing;

/** Conflicts that are not there yet: one side usable, another blocked, not known, within reach. */
final class SeparationClose {
  private final FindingContext context;
  private final SeparationTests tests;
  private final SeparationReach reach;

  /** A person who holds some sides and is close to enough of them. */
  record Close(int rule, List<Hold> person, long usable, long held, long within) {}

  SeparationClose(FindingContext context, SeparationTests tests, SeparationReach reach) {
    this.context = context;
    this.tests = tests;
    this.reach = reach;
  }

  void tell(List<Close> all, Consumer<Finding> out) {
    all.forEach(close -> out.accept(finding(close)));
  }

  private Finding finding(Close close) {
    SeparationRule rule = tests.rules.get(close.rule);
    SeparationEvidence words = new SeparationEvidence(context, tests);
    int account = close.person.get(0).account();
    List<Evidence> evidence = new ArrayList<>();
    List<Missing> missing = new ArrayList<>();
    for (int side = 0; side < rule.sides().size(); side++) {
      boolean usable = (close.usable >>> side & 1) != 0;
      boolean held = (close.held >>> side & 1) != 0;
      for (Hold hold : close.person) {
        if (held) {
          first(words, rule, side, hold.account()).ifPresent(evidence::add);
        }
        if (!usable && held) {
          blocked(rule, side, hold.account()).ifPresent(missing::add);
        } else if (!held) {
          reach
              .chain(close.rule, side, hold.account())
              .ifPresent(
                  steps -> {
                    missing.add(new Missing.WithinReach());
                    evidence.add(new Evidence.StepsToSide(steps));
                  });
        }
      }
    }
    return context.decision(
        FindingKind.POTENTIAL_CONFLICT,
        rule.id(),
        context.facts.key(account),
        FindingContext.reduced(rule.weight()),
        new SeparationDetails.Close(
            SeparationEvidence.rule(rule), account, missing.stream().distinct().toList()),
        evidence,
        "",
        context.keys(close.person.stream().map(Hold::account).toList()));
  }

  private Optional<Evidence> first(
      SeparationEvidence words, SeparationRule rule, int side, int who) {
    for (Side item : rule.sides().get(side)) {
      Optional<Evidence> found = words.evidence(item, who);
      if (found.isPresent()) {
        return found;
      }
    }
    return Optional.empty();
  }

  /** Why a side that is held cannot be used. */
  private Optional<Missing> blocked(SeparationRule rule, int side, int account) {
    for (Side item : rule.sides().get(side)) {
      if (item instanceof Act act
          && tests.acts.stream().anyMatch(of -> of.asks(act, tests.rules) && of.may(account))) {
        return Optional.of(new Missing.ActUnknown(act.action()));
      }
      String system =
          item instanceof Permission p ? p.system() : item instanceof RoleHeld h ? h.system() : "";
      Optional<SystemView> view = context.model.system(system);
      if (view.isPresent()) {
        Standing standing = context.asker.standing(view.get(), account);
        int number = view.get().number();
        return Optional.of(
            standing.state() == Standing.State.USABLE
                ? new Missing.HoldingUnknown(number)
                : new Missing.Blocked(number, standing));
      }
    }
    return Optional.empty();
  }
}
