package org.sobercompass.core.findings.accounts;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.AccountDetails;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Standing;

/** Service accounts that can sign in as a person does, or hold more than their kind. */
public final class ServiceFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(FindingKind.SERVICE_ACCOUNT_SIGNS_IN, FindingKind.SERVICE_ACCOUNT_EXCESS);

  private static final Set<String> NO_SHELLS = Set.of("nologin", "false", "sync", "halt", "");

  private final FindingContext context;
  private final BitSet services;

  public ServiceFinder(FindingContext context) {
    this.context = context;
    this.services = context.services();
  }

  @Override
  public void find(Consumer<Finding> out) {
    services.stream()
        .filter(account -> !context.facts.is(account, Facts.DISABLED))
        .forEach(
            account -> {
              shell(account, out);
              for (SystemView view : context.model.systems()) {
                if (!view.admission().isOpen() && !view.assigned().isEmpty()) {
                  holds(view, account, out);
                }
              }
            });
  }

  private void shell(int account, Consumer<Finding> out) {
    List<String> shells = context.facts.values(account, "loginshell");
    String shell = shells.isEmpty() ? "" : shells.get(0);
    String name = shell.substring(shell.lastIndexOf('/') + 1).toLowerCase(Locale.ROOT);
    if (!NO_SHELLS.contains(name)) {
      out.accept(
          context.decision(
              FindingKind.SERVICE_ACCOUNT_SIGNS_IN,
              "",
              context.facts.key(account),
              Weight.MEDIUM,
              new AccountDetails.ServiceSignsIn(account, shell),
              List.of(new Evidence.Shell(shell)),
              "",
              List.of(context.facts.key(account))));
    }
  }

  /** The strongest rights that it is given by name and that nobody said services may hold. */
  private Set<Integer> given(SystemView view, int account) {
    IntList grants = view.decider().grantsOf(context.asker.token(view, account));
    long asOf = context.model.asOf().getEpochSecond();
    Set<Integer> given = new TreeSet<>();
    for (int i = 0; i < grants.size(); i++) {
      Grant grant = view.grants().get(grants.get(i));
      if (FindingContext.isPersonal(context.model, grant, asOf)) {
        for (int right = 0; right < view.rights().size(); right++) {
          if (view.system().roles().get(grant.role()).allows(right)
              && view.rights().isStrongest(right)
              && !isAllowed(view, right)) {
            given.add(right);
          }
        }
      }
    }
    return given;
  }

  private void holds(SystemView view, int account, Consumer<Finding> out) {
    Set<Integer> given = given(view, account);
    List<Integer> held = new ArrayList<>();
    for (Holding holding :
        given.isEmpty() ? List.<Holding>of() : context.asker.holdings(view, account)) {
      if (given.contains(holding.right())
          && holding.state() != Standing.State.BLOCKED
          && !held.contains(holding.right())) {
        held.add(holding.right());
      }
    }
    if (!held.isEmpty()) {
      List<Evidence> evidence = new ArrayList<>();
      held.stream()
          .limit(FindingContext.SHOWN)
          .forEach(right -> context.route(view, account, right).ifPresent(evidence::add));
      out.accept(
          context.finding(
              FindingKind.SERVICE_ACCOUNT_EXCESS,
              view.id(),
              context.facts.key(account),
              Weight.MEDIUM,
              new AccountDetails.ServiceExcess(account, view.number(), List.copyOf(held)),
              evidence,
              view.id(),
              List.of(context.facts.key(account)),
              new Remedy.Unheld(List.of(account), view.number(), held)));
    }
  }

  private boolean isAllowed(SystemView view, int right) {
    for (Permission allowed : context.rules.ofServices()) {
      if (allowed.system().equals(view.id())
          && (allowed.right() == right
              || view.rights().contains(allowed.right()).contains(right))) {
        return true;
      }
    }
    return false;
  }
}
