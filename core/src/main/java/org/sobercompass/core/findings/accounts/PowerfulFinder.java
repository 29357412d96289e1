package org.sobercompass.core.findings.accounts;

import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.PowerfulAccounts;
import org.sobercompass.core.findings.PowerfulAccounts.Power;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.PowerDetails;
import org.sobercompass.core.findings.details.Who;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.HostLimits;

/**
 * Powerful accounts that sign in too easily, and power that is on one side only: over an
 * application and not over the directory, or the other way.
 */
public final class PowerfulFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.POWER_ONLY_IN_APPLICATION,
          FindingKind.POWER_ONLY_IN_DIRECTORY,
          FindingKind.POWERFUL_FROM_ANYWHERE,
          FindingKind.POWERFUL_WITHOUT_SECOND_FACTOR,
          FindingKind.PASSWORD_NEVER_EXPIRES);

  private static final int NEVER_ENDS = 0x10000;
  private static final int NO_LIMIT = 99_999;

  private final FindingContext context;
  private final Facts facts;
  private final PowerfulAccounts powerful;

  public PowerfulFinder(FindingContext context) {
    this.context = context;
    this.facts = context.facts;
    this.powerful = context.powerful();
  }

  @Override
  public void find(Consumer<Finding> out) {
    powerful.all().stream()
        .filter(account -> !facts.is(account, Facts.DISABLED))
        .forEach(
            account -> {
              password(account, out);
              for (SystemView view : context.model.systems()) {
                secondFactor(view, account, out);
              }
            });
    for (Power power : powerful.powers()) {
      if (context.rules.fromAnywhere().contains(power.id())) {
        anywhere(power, out);
      }
      if (context.rules.bothSides().contains(power.id())) {
        sides(power, out);
      }
    }
  }

  private void password(int account, Consumer<Finding> out) {
    if (neverEnds(account)) {
      List<String> can = powerful.of(account);
      out.accept(
          of(
              FindingKind.PASSWORD_NEVER_EXPIRES,
              account,
              can,
              new PowerDetails.PasswordNeverExpires(account, can)));
    }
  }

  /** {@code userAccountControl} ([MS-ADTS] 2.2.16), {@code shadowMax} (RFC 2307). */
  private boolean neverEnds(int account) {
    for (String value : facts.values(account, "useraccountcontrol")) {
      if (value.matches("[0-9]{1,10}") && (Long.parseLong(value) & NEVER_ENDS) != 0) {
        return true;
      }
    }
    for (String value : facts.values(account, "shadowmax")) {
      if (value.matches("-1|[0-9]{1,9}")
          && (value.equals("-1") || Integer.parseInt(value) >= NO_LIMIT)) {
        return true;
      }
    }
    return false;
  }

  /** Told only where the application keeps second factors at all, of those who administer it. */
  private void secondFactor(SystemView view, int account, Consumer<Finding> out) {
    boolean administers =
        powerful.powers().stream()
            .anyMatch(p -> p.id().equals(view.id()) && p.holders().get(account));
    boolean keeps =
        view.admission().register().orElse(List.of()).stream().anyMatch(Enrolment::secondFactor);
    if (!administers || !keeps) {
      return;
    }
    List<Enrolment> lines = view.admission().lines(context.asker.subjects(view, account).sure());
    if (lines.stream().noneMatch(Enrolment::secondFactor)) {
      List<String> can = powerful.of(account);
      out.accept(
          of(
              FindingKind.POWERFUL_WITHOUT_SECOND_FACTOR,
              account,
              can,
              new PowerDetails.NoSecondFactor(account, view.number(), can)));
    }
  }

  private Finding of(FindingKind kind, int account, List<String> can, PowerDetails details) {
    return context.decision(
        kind,
        "",
        facts.key(account),
        Weight.MEDIUM,
        details,
        can.stream().map(Evidence.CanDo::new).toList(),
        "",
        List.of(facts.key(account)));
  }

  private void anywhere(Power power, Consumer<Finding> out) {
    BitSet free = new BitSet();
    power.holders().stream()
        .filter(account -> !facts.is(account, Facts.DISABLED))
        .filter(account -> HostLimits.of(facts, account).stream().allMatch("*"::equals))
        .forEach(free::set);
    if (!free.isEmpty()) {
      out.accept(
          power(
              FindingKind.POWERFUL_FROM_ANYWHERE,
              power,
              free,
              new PowerDetails.FromAnywhere(power.name(), Who.of(free)),
              free.stream().limit(FindingContext.LISTED).mapToObj(Evidence.NoHosts::new).toList()));
    }
  }

  /** Who administers an application without power over a directory, and the other way. */
  private void sides(Power application, Consumer<Finding> out) {
    BitSet directory = new BitSet();
    for (Power power : powerful.powers()) {
      if (power.ofDirectory()) {
        directory.or(power.holders());
      }
    }
    BitSet only = withoutPerson(application.holders(), directory);
    if (!only.isEmpty()) {
      out.accept(
          power(
              FindingKind.POWER_ONLY_IN_APPLICATION,
              application,
              only,
              new PowerDetails.OnlyInApplication(application.name(), Who.of(only)),
              List.of()));
    }
    BitSet other = withoutPerson(directory, application.holders());
    if (!other.isEmpty()) {
      out.accept(
          power(
              FindingKind.POWER_ONLY_IN_DIRECTORY,
              application,
              other,
              new PowerDetails.OnlyInDirectory(application.name(), Who.of(other)),
              List.of()));
    }
  }

  /** Those of one set whose person has no account in another. */
  private BitSet withoutPerson(BitSet these, BitSet those) {
    BitSet left = new BitSet();
    these.stream()
        .filter(
            account ->
                context.assessment.persons().accounts(account).stream().noneMatch(those::get))
        .forEach(left::set);
    return left;
  }

  private Finding power(
      FindingKind kind,
      Power power,
      BitSet accounts,
      PowerDetails details,
      List<? extends Evidence> evidence) {
    return context.decision(
        kind,
        "",
        new Key(KeyKind.APPLICATION, "", power.id()),
        Weight.LOW,
        details,
        evidence,
        "",
        context.keys(accounts));
  }
}
