package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.GrantDetails;
import org.sobercompass.core.findings.details.Strength;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Grant;

/** Single grants: to the missing, to everyone, to a person, redundant; and open applications. */
public final class GrantFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.NO_SIGN_IN,
          FindingKind.ASSIGNED_TO_EVERYONE,
          FindingKind.DIRECT_ASSIGNMENT,
          FindingKind.UNRESOLVED_SUBJECT,
          FindingKind.REDUNDANT_ASSIGNMENT);

  private final FindingContext context;

  private final BitSet services;

  public GrantFinder(FindingContext context) {
    this.context = context;
    this.services = context.services();
  }

  @Override
  public void find(Consumer<Finding> out) {
    RedundantGrants redundant = new RedundantGrants(context);
    for (SystemView view : context.model.systems()) {
      if (view.admission().isOpen()) {
        out.accept(open(view));
      }
      List<Grant> grants = view.assigned();
      redundant.tell(view, out);
      for (int number = 0; number < grants.size(); number++) {
        Grant grant = grants.get(number);
        boolean over = grant.until() <= context.model.asOf().getEpochSecond();
        if (!grant.declared() && grant.on() && !over) {
          check(view, number, grant, out);
        }
      }
    }
  }

  private void check(SystemView view, int number, Grant grant, Consumer<Finding> out) {
    if (grant.subject() < 0) {
      out.accept(missing(view, number, grant));
      return;
    }
    SubjectKind kind = context.facts.kind(grant.subject());
    if (kind == SubjectKind.ACCOUNT && !services.get(grant.subject())) {
      out.accept(person(view, number, grant));
    } else if (kind == SubjectKind.IMPLICIT
        && context.facts.implicitOf(grant.subject()) != Implicit.MEMBERS) {
      out.accept(everyone(view, number, grant));
    }
  }

  private Finding open(SystemView view) {
    Weight weight = Weight.LOW;
    List<Strength> given = new ArrayList<>();
    List<Evidence> evidence = new ArrayList<>();
    for (Grant grant : view.grants()) {
      if (grant.subject() == context.facts.implicit(Implicit.EVERYONE)) {
        Strength strength = context.strength(view, grant);
        Weight own = FindingContext.weight(strength);
        weight = own.compareTo(weight) > 0 ? own : weight;
        given.add(strength);
        evidence.add(FindingContext.assigned(view, grant));
      }
    }
    Key key = context.systemKey(view);
    return context.decision(
        FindingKind.NO_SIGN_IN,
        "",
        key,
        weight,
        new GrantDetails.NoSignIn(view.number(), given),
        evidence,
        view.id(),
        List.of(key));
  }

  private Finding missing(SystemView view, int number, Grant grant) {
    return context.ofGrant(
        FindingKind.UNRESOLVED_SUBJECT,
        view,
        number,
        Weight.LOW,
        new GrantDetails.MissingSubject(view.number(), grant, context.strength(view, grant)),
        List.of());
  }

  private Finding person(SystemView view, int number, Grant grant) {
    Strength strength = context.strength(view, grant);
    boolean high = FindingContext.weight(strength) == Weight.HIGH;
    return context.ofGrant(
        FindingKind.DIRECT_ASSIGNMENT,
        view,
        number,
        high && context.isWide(view.resources(), grant) ? Weight.MEDIUM : Weight.LOW,
        new GrantDetails.ToPerson(view.number(), grant, strength),
        context.subject(grant.subject()));
  }

  private Finding everyone(SystemView view, int number, Grant grant) {
    int reached = grant.activeAt(context.model.asOf().getEpochSecond()) ? reached(view, grant) : 0;
    Strength strength = context.strength(view, grant);
    return context.ofGrant(
        FindingKind.ASSIGNED_TO_EVERYONE,
        view,
        number,
        FindingContext.weight(strength),
        new GrantDetails.ToEveryone(view.number(), grant, strength, reached),
        context.subject(grant.subject()));
  }

  private int reached(SystemView view, Grant grant) {
    for (int right = 0; right < view.rights().size(); right++) {
      if (view.system().roles().get(grant.role()).allows(right)) {
        return new Holders(context.asker).find(view, right, grant.resource(), false).size();
      }
    }
    return 0;
  }
}
