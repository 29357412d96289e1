package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.store.IntList;

/** Rights of accounts that are disabled or expired: the account is the cause, once. */
final class AccountFinder {
  private final FindingContext context;

  AccountFinder(FindingContext context) {
    this.context = context;
  }

  void find(Consumer<Finding> out) {
    long asOf = context.model.asOf().getEpochSecond();
    for (int account = 0; account < context.facts.accounts(); account++) {
      boolean disabled = context.facts.is(account, Facts.DISABLED);
      if (disabled || context.facts.expires(account) <= asOf) {
        check(account, disabled, out);
      }
    }
  }

  private void check(int account, boolean disabled, Consumer<Finding> out) {
    int held = 0;
    int strongest = 0;
    IntList systems = new IntList();
    List<Evidence> evidence = new ArrayList<>();
    for (SystemView view : context.model.systems()) {
      List<Holding> holdings = view.admission().isOpen() ? List.of() : personal(view, account);
      if (!holdings.isEmpty()) {
        systems.add(view.number());
        held += holdings.size();
        strongest +=
            (int) holdings.stream().filter(h -> view.rights().isStrongest(h.right())).count();
        if (evidence.size() < FindingContext.SHOWN) {
          context.route(view, account, last(view, holdings)).ifPresent(evidence::add);
        }
      }
    }
    if (held > 0) {
      out.accept(finding(account, disabled, held, strongest, systems.size(), evidence));
    }
  }

  /** What the account holds by more than the role everyone has. */
  private List<Holding> personal(SystemView view, int account) {
    IntList grants = view.decider().grantsOf(context.asker.token(view, account));
    long asOf = context.model.asOf().getEpochSecond();
    for (int i = 0; i < grants.size(); i++) {
      var grant = view.grants().get(grants.get(i));
      if (!grant.declared() && grant.activeAt(asOf)) {
        return context.asker.holdings(view, account);
      }
    }
    return List.of();
  }

  private static int last(SystemView view, List<Holding> holdings) {
    return holdings.stream()
        .map(Holding::right)
        .filter(view.rights()::isStrongest)
        .findFirst()
        .orElse(holdings.get(0).right());
  }

  private Finding finding(
      int account,
      boolean disabled,
      int held,
      int strongest,
      int systems,
      List<Evidence> evidence) {
    String state = disabled ? "disabled" : "expired";
    List<String> why = new ArrayList<>();
    why.add(
        "it holds "
            + FindingContext.count(held, "permission", "permissions")
            + " in "
            + FindingContext.count(systems, "application", "applications"));
    if (strongest > 0) {
      why.add(strongest + " of the strongest kind");
    }
    return new Finding(
        disabled ? FindingKind.RIGHT_OF_DISABLED_ACCOUNT : FindingKind.RIGHT_OF_EXPIRED_ACCOUNT,
        "",
        context.facts.key(account),
        strongest > 0 ? Weight.MEDIUM : Weight.LOW,
        why,
        Words.subject(context.facts, account)
            + " is "
            + state
            + " and still holds "
            + FindingContext.count(held, "permission", "permissions")
            + ", which come back the moment it is "
            + (disabled ? "enabled" : "prolonged"),
        "",
        List.of(context.facts.key(account)),
        evidence,
        "take the account out of the groups and assignments below, or delete it",
        new Aim.Ungiven(account, List.of()));
  }
}
