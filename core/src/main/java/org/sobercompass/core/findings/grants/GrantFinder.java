package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.Redundancy;
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
import org.sobercompass.core.key.Key;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Change;
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

  /** Tells what one assignment makes redundant from that assignment being redundant itself. */
  private static final String COVERED = "covered";

  private final BitSet services;
  private final Map<Integer, Memberships.Walker> walkers = new HashMap<>();
  private final Map<Integer, Map<Integer, BitSet>> above = new HashMap<>();

  public GrantFinder(FindingContext context) {
    this.context = context;
    this.services = context.services();
  }

  @Override
  public void find(Consumer<Finding> out) {
    List<BitSet> redundant = Redundancy.everywhere(context.model);
    for (SystemView view : context.model.systems()) {
      if (view.admission().isOpen()) {
        out.accept(open(view));
      }
      List<Grant> grants = view.assigned();
      redundant(view, redundant.get(view.number()), out);
      for (int number = 0; number < grants.size(); number++) {
        Grant grant = grants.get(number);
        boolean over = grant.until() <= context.model.asOf().getEpochSecond();
        if (!grant.declared() && grant.on() && !over) {
          check(view, number, grant, out);
        }
      }
    }
  }

  /**
   * Redundant assignments by what makes them so: all that one other covers are one finding. What
   * covers others is needed once they are withdrawn, so nothing else is said of it.
   */
  private void redundant(SystemView view, BitSet redundant, Consumer<Finding> out) {
    Map<Integer, List<Integer>> byCover = new TreeMap<>();
    for (int g = redundant.nextSetBit(0); g >= 0; g = redundant.nextSetBit(g + 1)) {
      Grant grant = view.grants().get(g);
      boolean over = grant.until() <= context.model.asOf().getEpochSecond();
      if (!grant.declared() && grant.on() && !over && grant.subject() >= 0) {
        byCover.computeIfAbsent(widest(view, g), c -> new ArrayList<>()).add(g);
      }
    }
    byCover.forEach(
        (cover, each) -> {
          boolean alone = each.size() == 1;
          each.removeIf(g -> g.equals(cover) && !alone);
          if (alone) {
            int only = each.get(0);
            out.accept(redundant(view, only, view.grants().get(only)));
          } else {
            out.accept(covered(view, cover, each));
          }
        });
  }

  /** The assignment that covers one, and that no other covers; itself where there is none. */
  private int widest(SystemView view, int number) {
    int at = number;
    for (int steps = 0; steps < view.grants().size() && view.decider().isMonotone(); steps++) {
      int next = cover(view, at);
      if (next < 0) {
        return at;
      }
      at = next;
    }
    return at;
  }

  /** An assignment that by itself gives all that another gives; of two alike the first. */
  private int cover(SystemView view, int number) {
    Grant grant = view.grants().get(number);
    for (int other = 0; other < view.grants().size(); other++) {
      Grant by = view.grants().get(other);
      boolean covers = other != number && covers(view, by, grant);
      if (covers && (other < number || !covers(view, grant, by))) {
        return other;
      }
    }
    return -1;
  }

  private boolean covers(SystemView view, Grant by, Grant grant) {
    boolean here =
        by.resource() == grant.resource()
            ? by.descends() || !grant.descends()
            : by.descends() && view.resources().covers(by.resource(), grant.resource());
    boolean live =
        by.on() && by.subject() >= 0 && by.from() <= grant.from() && by.until() >= grant.until();
    if (!here || !live) {
      return false;
    }
    for (int right = 0; right < view.rights().size(); right++) {
      if (view.system().roles().get(grant.role()).allows(right)
          && !view.system().roles().get(by.role()).allows(right)) {
        return false;
      }
    }
    return reaches(view, by.subject(), grant.subject());
  }

  /** Whether whoever counts as the one subject counts as the other. */
  private boolean reaches(SystemView view, int wide, int narrow) {
    if (wide == narrow) {
      return true;
    }
    if (context.facts.kind(wide) == SubjectKind.IMPLICIT) {
      return context.facts.implicitOf(wide) != Implicit.MEMBERS;
    }
    SubjectKind kind = context.facts.kind(narrow);
    if (kind != SubjectKind.GROUP && kind != SubjectKind.ACCOUNT) {
      return false;
    }
    return above
        .computeIfAbsent(view.context(), c -> new HashMap<>())
        .computeIfAbsent(narrow, subject -> above(view, subject))
        .get(wide);
  }

  /** What a subject surely counts as in a system. */
  private BitSet above(SystemView view, int subject) {
    SubjectSet found = new SubjectSet();
    walkers
        .computeIfAbsent(view.context(), c -> view.memberships().walker())
        .subjects(subject, found);
    BitSet all = new BitSet();
    for (int i = 0; i < found.sure().size(); i++) {
      all.set(found.sure().get(i));
    }
    return all;
  }

  private Finding covered(SystemView view, int cover, List<Integer> each) {
    List<Evidence> evidence = new ArrayList<>();
    List<Change> changes = new ArrayList<>();
    List<Key> subjects = new ArrayList<>();
    evidence.add(context.line(view, view.grants().get(cover)));
    for (int number : each) {
      Grant grant = view.grants().get(number);
      changes.addAll(context.removal(view, number));
      if (evidence.size() <= FindingContext.SHOWN) {
        evidence.add(context.line(view, grant));
      }
      subjects.add(context.facts.key(grant.subject()));
    }
    return new Finding(
        FindingKind.REDUNDANT_ASSIGNMENT,
        COVERED,
        context.grantKey(view, view.grants().get(cover)),
        Weight.LOW,
        List.of("without them nobody would hold less, or more, at any time left in their windows"),
        FindingContext.count(each.size(), "assignment changes", "assignments change")
            + " nothing, since another gives the same: "
            + context.describe(view, view.grants().get(cover)),
        view.id(),
        subjects.stream().distinct().sorted().toList(),
        evidence,
        "withdraw them",
        changes);
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
    List<String> why = new ArrayList<>(List.of(FindingContext.whoHolds(grant.subject())));
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
            + FindingContext.whoIsMissing(grant.subject()),
        List.of(),
        "withdraw the assignment, or correct the name");
  }

  private Finding redundant(SystemView view, int number, Grant grant) {
    return context.ofGrant(
        FindingKind.REDUNDANT_ASSIGNMENT,
        view,
        number,
        grant,
        Weight.LOW,
        List.of("without it nobody would hold less, or more, at any time left in its window"),
        "the assignment of "
            + context.describe(view, grant)
            + " changes nothing: others give the same",
        List.of(context.facts.key(grant.subject())),
        "withdraw it, and look again: of two that cover each other only one may go");
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
    why.add("it reaches " + FindingContext.count(reached, "account", "accounts"));
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
            + FindingContext.count(reached, "account", "accounts")
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
