package org.sobercompass.core.findings.accounts;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Entrusted;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.AccountDetails;
import org.sobercompass.core.findings.details.AccountDetails.Idle;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.store.IntList;

/**
 * Rights of accounts that are disabled, expired, locked for good, or that nobody has signed in with
 * for long: the account is the cause, once.
 */
public final class AccountFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.DISABLED_ACCOUNT,
          FindingKind.EXPIRED_ACCOUNT,
          FindingKind.LOCKED_ACCOUNT,
          FindingKind.DORMANT_ACCOUNT);

  private static final long DAY = 86_400;
  private static final long SECONDS_TO_1970 = 11_644_473_600L;
  private static final DateTimeFormatter GENERALIZED =
      DateTimeFormatter.ofPattern("yyyyMMddHHmmss", java.util.Locale.ROOT);

  private final FindingContext context;
  private final Facts facts;
  private final Map<String, Boolean> tellsSignIns = new HashMap<>();
  private @Nullable Entrusted entrusted;

  public AccountFinder(FindingContext context) {
    this.context = context;
    this.facts = context.facts;
  }

  @Override
  public void find(Consumer<Finding> out) {
    long asOf = context.model.asOf().getEpochSecond();
    countSignIns();
    for (int account = 0; account < facts.accounts(); account++) {
      if (facts.is(account, Facts.DISABLED)) {
        check(account, Idle.DISABLED, Optional.empty(), out);
      } else if (facts.expires(account) <= asOf) {
        check(account, Idle.EXPIRED, Optional.empty(), out);
      } else if (facts.arrays().lockedUntil()[account] == Facts.UNTIL_LIFTED) {
        check(account, Idle.LOCKED, Optional.empty(), out);
      } else if (tellsSignIns.getOrDefault(facts.source(account), false)) {
        dormant(account, asOf, out);
      }
    }
  }

  /** A directory tells sign-ins when it does so for at least every second account. */
  private void countSignIns() {
    Map<String, int[]> counts = new HashMap<>();
    for (int account = 0; account < facts.accounts(); account++) {
      int[] count = counts.computeIfAbsent(facts.source(account), s -> new int[2]);
      count[0]++;
      count[1] += lastSignIn(account).isPresent() ? 1 : 0;
    }
    counts.forEach((source, c) -> tellsSignIns.put(source, c[1] > 0 && 2 * c[1] >= c[0]));
  }

  private void dormant(int account, long asOf, Consumer<Finding> out) {
    OptionalLong last = lastSignIn(account);
    long limit = asOf - context.limits.dormantDays() * DAY;
    boolean isNew =
        first(account, List.of("whencreated", "createtimestamp")).orElse(Long.MIN_VALUE) > limit;
    if (last.isEmpty() ? !isNew : last.getAsLong() < limit) {
      Optional<Long> days =
          last.isEmpty() ? Optional.empty() : Optional.of((asOf - last.getAsLong()) / DAY);
      check(account, Idle.DORMANT, days, out);
    }
  }

  private OptionalLong lastSignIn(int account) {
    return first(account, context.rules.signInAttributes());
  }

  /** The latest of some times: 100 ns since 1601 ([MS-ADA1]) or generalized time (RFC 4517). */
  private OptionalLong first(int account, List<String> attributes) {
    long latest = Long.MIN_VALUE;
    for (String attribute : attributes) {
      for (String value : facts.values(account, attribute)) {
        latest = Math.max(latest, time(value.strip()));
      }
    }
    return latest == Long.MIN_VALUE ? OptionalLong.empty() : OptionalLong.of(latest);
  }

  private static long time(String value) {
    try {
      if (value.matches("[0-9]{17,19}")) {
        return Long.parseLong(value) / 10_000_000L - SECONDS_TO_1970;
      }
      return value.matches("[0-9]{14}([.,][0-9]+)?Z")
          ? LocalDateTime.parse(value.substring(0, 14), GENERALIZED).toEpochSecond(ZoneOffset.UTC)
          : Instant.parse(value).getEpochSecond();
    } catch (DateTimeParseException | NumberFormatException e) {
      return Long.MIN_VALUE; // no time in any of the forms: as if it were not there
    }
  }

  private void check(int account, Idle idle, Optional<Long> days, Consumer<Finding> out) {
    int held = 0;
    int strongest = 0;
    IntList systems = new IntList();
    List<Evidence> evidence = new ArrayList<>();
    for (SystemView view : context.model.systems()) {
      List<Holding> holdings =
          view.admission().isOpen() ? List.of() : context.personal(view, account);
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
    List<Evidence> entrusted = entrusted().of(context.assessment.powers(), account);
    if (held > 0 || !entrusted.isEmpty()) {
      entrusted.stream().limit(FindingContext.SHOWN).forEach(evidence::add);
      Weight weight = strongest > 0 || !entrusted.isEmpty() ? Weight.MEDIUM : Weight.LOW;
      AccountDetails.StillHolds details =
          new AccountDetails.StillHolds(
              account, idle, days, held, systems.size(), strongest, entrusted.size());
      out.accept(finding(details, weight, evidence));
    }
  }

  /** What was delegated, looked up when first asked. */
  private Entrusted entrusted() {
    Entrusted known = entrusted;
    if (known == null) {
      known = new Entrusted(context.assessment);
      entrusted = known;
    }
    return known;
  }

  private static int last(SystemView view, List<Holding> holdings) {
    return holdings.stream()
        .map(Holding::right)
        .filter(view.rights()::isStrongest)
        .findFirst()
        .orElse(holdings.get(0).right());
  }

  private Finding finding(
      AccountDetails.StillHolds details, Weight weight, List<Evidence> evidence) {
    FindingKind kind =
        switch (details.idle()) {
          case DISABLED -> FindingKind.DISABLED_ACCOUNT;
          case EXPIRED -> FindingKind.EXPIRED_ACCOUNT;
          case LOCKED -> FindingKind.LOCKED_ACCOUNT;
          case DORMANT -> FindingKind.DORMANT_ACCOUNT;
        };
    Key key = facts.key(details.account());
    return context.finding(
        kind,
        "",
        key,
        weight,
        details,
        evidence,
        "",
        List.of(key),
        new Remedy.Ungiven(List.of(details.account()), List.of()));
  }
}
