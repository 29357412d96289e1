package org.sobercompass.core.findings.accounts;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.admin.ScopeMakers;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.PowerfulAccounts;
import org.sobercompass.core.findings.Reached;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.PowerDetails;
import org.sobercompass.core.findings.details.Who;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.scope.AdminScope;

/**
 * Administration that leads further than meant: powers within reach, administrators over the more
 * powerful, scopes that those set over them can widen, administrators inside their own scope.
 */
public final class ReachFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.ESCALATION_PATH,
          FindingKind.ADMINISTERS_MORE_POWERFUL,
          FindingKind.SCOPE_CAN_BE_WIDENED,
          FindingKind.INSIDE_OWN_SCOPE);

  /** For so many accounts at most removals are worked out: each round follows the power anew. */
  private static final int MOST = 100;

  /** So many scopes are gone through by a thread at a time. */
  private static final int SCOPES = 16;

  private final FindingContext context;
  private final PowerfulAccounts powerful;
  private final Powers powers;
  private final Administration administration;

  public ReachFinder(FindingContext context) {
    this.context = context;
    this.powerful = context.powerful();
    this.powers = context.assessment.powers();
    this.administration = powers.roles().administration();
  }

  @Override
  public void find(Consumer<Finding> out) {
    if (powers.trees().all().isEmpty() && administration.grants().isEmpty()) {
      return;
    }
    for (PowerfulAccounts.Power power : powerful.powers()) {
      power.named().ifPresent(named -> reach(named, out));
    }
    context.<List<Finding>>work(
        administration.scopes().size(),
        SCOPES,
        own -> new ReachFinder(own)::scope,
        found -> found.forEach(out));
  }

  /** One finding for each account that is acted upon at once, and one for all longer ways. */
  private void reach(NamedPower power, Consumer<Finding> out) {
    Reached reached = Reached.of(powers, power);
    reached.direct().forEach((to, who) -> out.accept(over(power, reached.reach(), to, who)));
    if (!reached.longer().isEmpty()) {
      out.accept(within(power, reached.reach(), reached.longer()));
    }
  }

  private static List<Evidence> chains(Reach reach, BitSet who) {
    List<Evidence> evidence = new ArrayList<>();
    who.stream()
        .limit(FindingContext.SHOWN)
        .forEach(account -> evidence.add(new Evidence.Steps(account, reach.chain(account))));
    return evidence;
  }

  private Finding over(NamedPower power, Reach reach, int target, BitSet who) {
    return context.finding(
        FindingKind.ADMINISTERS_MORE_POWERFUL,
        power.id(),
        context.facts.key(target),
        Weight.HIGH,
        new PowerDetails.ActsAs(power.name(), target, Who.of(who)),
        chains(reach, who),
        "",
        context.keys(who),
        who.cardinality() > MOST
            ? Remedy.NONE
            : new Remedy.Untaken(power.id(), power.ofDirectory(), target));
  }

  private Finding within(NamedPower power, Reach reach, BitSet who) {
    return context.finding(
        FindingKind.ESCALATION_PATH,
        "",
        new Key(KeyKind.APPLICATION, "", power.id()),
        power.ofDirectory() ? Weight.HIGH : Weight.MEDIUM,
        new PowerDetails.WithinReach(power.name(), power.id(), Who.of(who)),
        chains(reach, who),
        "",
        context.keys(who),
        who.cardinality() > MOST
            ? Remedy.NONE
            : new Remedy.Unreached(power.id(), power.ofDirectory()));
  }

  private List<Finding> scope(int number) {
    List<Finding> found = new ArrayList<>();
    AdminScope scope = administration.scopes().get(number);
    BitSet over = powers.roles().administrators(number);
    if (over.isEmpty()) {
      return found;
    }
    BitSet inside = (BitSet) over.clone();
    inside.and(powers.roles().scopes().objects(number).bits());
    if (!inside.isEmpty()) {
      found.add(inside(scope, number, inside));
    }
    widened(scope, number, over, found::add);
    return found;
  }

  private Finding inside(AdminScope scope, int number, BitSet inside) {
    List<Evidence> evidence = new ArrayList<>();
    inside.stream()
        .limit(FindingContext.SHOWN)
        .forEach(
            account ->
                powers.roles().scopes().reasons(number, account).stream()
                    .limit(1)
                    .forEach(reason -> evidence.add(new Evidence.InScope(account, reason))));
    return finding(
        FindingKind.INSIDE_OWN_SCOPE,
        scope,
        Weight.MEDIUM,
        new PowerDetails.InsideScope(scope.name(), Who.of(inside)),
        inside,
        evidence,
        new Remedy.Outside(number));
  }

  /** One finding a scope, with a line for each way. */
  private void widened(AdminScope scope, int number, BitSet over, Consumer<Finding> out) {
    List<ScopeMakers.Making> ways = new ScopeMakers(powers).of(number, over);
    if (ways.isEmpty()) {
      return;
    }
    BitSet all = new BitSet();
    List<Evidence> evidence = new ArrayList<>();
    for (ScopeMakers.Making way : ways) {
      all.or(way.who());
      evidence.add(new Evidence.Widening(Who.of(way.who()), way.how()));
    }
    out.accept(
        finding(
            FindingKind.SCOPE_CAN_BE_WIDENED,
            scope,
            Weight.HIGH,
            new PowerDetails.WidensScope(scope.name(), Who.of(all), ways.get(0).how(), ways.size()),
            all,
            evidence,
            Remedy.NONE));
  }

  private Finding finding(
      FindingKind kind,
      AdminScope scope,
      Weight weight,
      PowerDetails details,
      BitSet who,
      List<Evidence> evidence,
      Remedy aim) {
    Key key = new Key(KeyKind.NODE, "scope", scope.id());
    return context.finding(kind, "", key, weight, details, evidence, "", context.keys(who), aim);
  }
}
