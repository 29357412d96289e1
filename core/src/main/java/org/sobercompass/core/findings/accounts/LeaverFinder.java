package org.sobercompass.core.findings.accounts;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.AccountDetails;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.system.AccountStanding;
import org.sobercompass.core.system.Standing;

/**
 * Accounts that outlive their person: one of a person's accounts is switched off or over and
 * another still works; a local account that belongs to nobody in a directory.
 */
public final class LeaverFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(FindingKind.OTHER_ACCOUNT_ACTIVE, FindingKind.UNLINKED_LOCAL_ACCOUNT);

  private final FindingContext context;
  private final Facts facts;
  private final Persons persons;

  /** Logins of emergency accounts, which belong to nobody on purpose. */
  private final Set<String> emergency = new HashSet<>();

  private final boolean hasDirectory;

  public LeaverFinder(FindingContext context) {
    this.context = context;
    this.facts = context.facts;
    this.persons = context.assessment.persons();
    for (SystemView view : context.model.systems()) {
      view.admission()
          .terms()
          .emergency()
          .forEach(e -> emergency.add(e.account().toLowerCase(Locale.ROOT)));
    }
    hasDirectory =
        IntStream.range(0, facts.accounts())
            .anyMatch(account -> !context.assessment.local().contains(facts.source(account)));
  }

  @Override
  public void find(Consumer<Finding> out) {
    long asOf = context.model.asOf().getEpochSecond();
    for (int account = 0; account < facts.accounts(); account++) {
      Standing standing = AccountStanding.of(facts, account, asOf);
      if (standing.state() != Standing.State.USABLE) {
        continue;
      }
      List<Integer> person = persons.accounts(account);
      for (int other : person) {
        if (other != account && isOver(other, asOf)) {
          works(account, other, out);
          break;
        }
      }
      boolean local = context.assessment.local().contains(facts.source(account));
      if (local && isOfNobody(account, person)) {
        out.accept(ofNobody(account));
      }
    }
  }

  private boolean isOver(int account, long asOf) {
    return facts.is(account, Facts.DISABLED) || facts.expires(account) <= asOf;
  }

  private boolean isOfNobody(int account, List<Integer> person) {
    return hasDirectory
        && !isOfSystem(account)
        && !emergency.contains(facts.login(account).toLowerCase(Locale.ROOT))
        && !facts.is(account, Facts.SERVICE)
        && !facts.is(account, Facts.RESOURCE)
        && person.stream().allMatch(a -> context.assessment.local().contains(facts.source(a)));
  }

  /** Whether a host made the account for itself: a user number below that of people. */
  private boolean isOfSystem(int account) {
    return facts.values(account, "uidnumber").stream()
        .anyMatch(number -> number.matches("[0-9]{1,3}"));
  }

  private void works(int account, int other, Consumer<Finding> out) {
    List<Evidence> evidence = new ArrayList<>();
    int held = 0;
    boolean strong = false;
    for (SystemView view : context.model.systems()) {
      if (view.admission().isOpen()) {
        continue;
      }
      List<Holding> holdings = context.personal(view, account);
      held += holdings.size();
      for (Holding holding : holdings) {
        strong |= view.rights().isStrongest(holding.right());
      }
      if (!holdings.isEmpty() && evidence.size() < FindingContext.SHOWN) {
        evidence.addAll(shown(view, account, holdings.get(0)));
      }
    }
    if (held == 0) {
      return;
    }
    out.accept(
        context.decision(
            FindingKind.OTHER_ACCOUNT_ACTIVE,
            "",
            facts.key(account),
            strong ? Weight.HIGH : Weight.MEDIUM,
            new AccountDetails.OtherWorks(account, other, facts.is(other, Facts.DISABLED), held),
            evidence,
            "",
            List.of(facts.key(account))));
  }

  /**
   * One way in an application; of lists, in which every account has something, that it is named.
   */
  private List<Evidence> shown(SystemView view, int account, Holding holding) {
    return view.assigned().isEmpty()
        ? List.of(new Evidence.NamedInLists(view.number(), account))
        : context.route(view, account, holding.right()).stream().toList();
  }

  private Finding ofNobody(int account) {
    return context.decision(
        FindingKind.UNLINKED_LOCAL_ACCOUNT,
        "",
        facts.key(account),
        Weight.MEDIUM,
        new AccountDetails.OfNobody(account),
        List.of(),
        "",
        List.of(facts.key(account)));
  }
}
