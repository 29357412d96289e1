package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Problem;
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
    List<String> why = new ArrayList<>(List.of("nobody is asked who they are"));
    Weight weight = Weight.LOW;
    List<Evidence> evidence = new ArrayList<>();
    for (Grant grant : view.grants()) {
      if (grant.subject() == context.facts.implicit(Implicit.EVERYONE)) {
        Weight own = context.weight(view, view.system().roles().get(grant.role()), why);
        weight = own.compareTo(weight) > 0 ? own : weight;
        evidence.add(context.line(view, grant));
      }
    }
    return new Finding(
        FindingKind.NO_SIGN_IN,
        "",
        context.systemKey(view),
        weight,
        why,
        view.system().name()
            + " asks for no sign-in: whoever reaches it can do what its role for"
            + " everyone gives",
        view.id(),
        List.of(context.systemKey(view)),
        evidence,
        "let " + view.system().name() + " ask for a sign-in, or give everyone less",
        List.of());
  }

  private Finding missing(SystemView view, int number, Grant grant) {
    List<String> why = new ArrayList<>(List.of(Words.whoHolds(grant.subject())));
    context.weight(view, view.system().roles().get(grant.role()), why);
    return context.ofGrant(
        FindingKind.UNRESOLVED_SUBJECT,
        view,
        number,
        grant,
        Weight.LOW,
        why,
        "the role "
            + context.roleName(view, grant)
            + " of "
            + view.system().name()
            + " is given to "
            + Problem.quote(grant.subjectText())
            + Words.whoIsMissing(grant.subject()),
        List.of(),
        "withdraw the assignment, or correct the name");
  }

  private Finding person(SystemView view, int number, Grant grant) {
    List<String> why = new ArrayList<>(List.of("it follows the person, not the task"));
    Weight weight = context.weight(view, view.system().roles().get(grant.role()), why);
    boolean high = weight == Weight.HIGH && context.isWide(view.resources(), grant);
    return context.ofGrant(
        FindingKind.DIRECT_ASSIGNMENT,
        view,
        number,
        grant,
        high ? Weight.MEDIUM : Weight.LOW,
        why,
        "given to a person instead of a group: " + context.describe(view, grant),
        List.of(context.facts.key(grant.subject())),
        "give the role to a group of those who do the task, and withdraw this");
  }

  private Finding everyone(SystemView view, int number, Grant grant) {
    List<String> why = new ArrayList<>();
    int reached = grant.activeAt(context.model.asOf().getEpochSecond()) ? reached(view, grant) : 0;
    Weight weight = context.weight(view, view.system().roles().get(grant.role()), why);
    why.add("it reaches " + Words.count(reached, "account", "accounts"));
    return context.ofGrant(
        FindingKind.ASSIGNED_TO_EVERYONE,
        view,
        number,
        grant,
        weight,
        why,
        Words.subject(context.facts, grant.subject())
            + " gets the role "
            + context.roleName(view, grant)
            + " of "
            + view.system().name()
            + " ("
            + Words.count(reached, "account", "accounts")
            + ")",
        List.of(context.facts.key(grant.subject())),
        "give the role to the groups that need it, and withdraw this");
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
