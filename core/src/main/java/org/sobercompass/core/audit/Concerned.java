package org.sobercompass.core.audit;

import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.PowerfulAccounts;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;

/**
 * Which systems a finding concerns: its own, those of its evidence and of its rule, and, where it
 * is about accounts or groups as such, those in which they are given something. Not thread-safe.
 */
public final class Concerned {
  private static final Set<FindingKind> ABOUT_SUBJECTS =
      EnumSet.of(
          FindingKind.DISABLED_ACCOUNT,
          FindingKind.EXPIRED_ACCOUNT,
          FindingKind.LOCKED_ACCOUNT,
          FindingKind.DORMANT_ACCOUNT,
          FindingKind.OTHER_ACCOUNT_ACTIVE,
          FindingKind.UNLINKED_LOCAL_ACCOUNT,
          FindingKind.SERVICE_ACCOUNT_SIGNS_IN,
          FindingKind.SERVICE_ACCOUNT_EXCESS,
          FindingKind.READING_ACCOUNT_WRITES,
          FindingKind.CIRCULAR_NESTING,
          FindingKind.DANGLING_MEMBER,
          FindingKind.DEEP_NESTING);
  private static final Set<FindingKind> ABOUT_POWER =
      EnumSet.of(
          FindingKind.POWERFUL_FROM_ANYWHERE,
          FindingKind.POWERFUL_WITHOUT_SECOND_FACTOR,
          FindingKind.PASSWORD_NEVER_EXPIRES,
          FindingKind.POWER_ONLY_IN_APPLICATION);

  private final FindingContext context;
  private static final BitSet NONE = new BitSet();

  /** By subject the systems that give it something, by itself or as a member. */
  private final Map<Integer, BitSet> known = new HashMap<>();

  /** By context the systems that count memberships alike. */
  private final Map<Integer, BitSet> alike = new HashMap<>();

  private @Nullable Map<Integer, BitSet> named;

  /** One for all systems that count memberships alike. */
  private final Map<Integer, Memberships.Walker> walkers = new HashMap<>();

  private @Nullable PowerfulAccounts powerful;

  /** Of findings in what was judged. */
  public Concerned(Assessment assessment) {
    this.context = new FindingContext(assessment);
  }

  /** The ids of all systems that a finding concerns, in their order. */
  public Set<String> systems(Finding finding) {
    Set<String> ids = new TreeSet<>(Key::compareUtf8);
    add(finding.system(), ids);
    add(finding.cause().source(), ids);
    if (finding.cause().kind() == KeyKind.APPLICATION) {
      add(finding.cause().id(), ids);
    }
    rule(finding.rule(), ids);
    if (finding.kind() != FindingKind.SEPARATION_OF_DUTIES) {
      // A conflict is shown by routes to the sides of its rule: the systems that it names.
      for (Evidence evidence : finding.evidence()) {
        if (evidence.system() >= 0) {
          ids.add(context.model.systems().get(evidence.system()).id());
        }
      }
    }
    if (ABOUT_POWER.contains(finding.kind())) {
      finding.subjects().forEach(key -> powers(key, ids));
    } else if (ABOUT_SUBJECTS.contains(finding.kind())) {
      BitSet found = new BitSet();
      subject(finding.cause(), found);
      for (Key key : finding.subjects()) {
        if (found.cardinality() == context.model.systems().size()) {
          break; // it cannot concern more
        }
        subject(key, found);
      }
      found.stream().forEach(number -> ids.add(context.model.systems().get(number).id()));
    }
    return ids;
  }

  private void add(String id, Set<String> ids) {
    if (context.model.system(id).isPresent()) {
      ids.add(id);
    }
  }

  private void rule(String id, Set<String> ids) {
    for (SeparationRule rule : context.rules.separation()) {
      if (rule.id().equals(id)) {
        rule.systems().forEach(system -> add(system, ids));
      }
    }
  }

  /** The systems over which an account has power. */
  private void powers(Key key, Set<String> ids) {
    if (powerful == null) {
      powerful = new PowerfulAccounts(context);
    }
    for (PowerfulAccounts.Power power : powerful.powers()) {
      for (int account : context.facts.names().find(SubjectKind.ACCOUNT, key.text(), key.text())) {
        if (power.holders().get(account)) {
          int colon = power.id().indexOf(':');
          add(colon < 0 ? power.id() : power.id().substring(0, colon), ids);
        }
      }
    }
  }

  private void subject(Key key, BitSet into) {
    context.facts.find(key).ifPresent(s -> into.or(known.computeIfAbsent(s, this::systems)));
  }

  private SubjectSet counts(SystemView view, int subject) {
    SubjectSet subjects = new SubjectSet();
    walkers
        .computeIfAbsent(view.context(), k -> view.memberships().walker())
        .subjects(subject, subjects);
    return subjects;
  }

  /** The systems in which a subject, or a group it is in, is given something by name. */
  private BitSet systems(int subject) {
    BitSet found = new BitSet();
    Map<Integer, BitSet> byName = byName();
    Set<Integer> asked = new HashSet<>();
    for (SystemView view : context.model.systems()) {
      if (asked.add(view.context())) {
        SubjectSet subjects = counts(view, subject);
        BitSet ofContext = new BitSet();
        for (int i = 0; i < subjects.sure().size(); i++) {
          ofContext.or(byName.getOrDefault(subjects.sure().get(i), NONE));
        }
        ofContext.and(alike.getOrDefault(view.context(), NONE));
        found.or(ofContext);
      }
    }
    return found;
  }

  /** By subject the systems that give it something by name; made once, O(grants). */
  private Map<Integer, BitSet> byName() {
    Map<Integer, BitSet> made = named;
    if (made == null) {
      made = new HashMap<>();
      for (SystemView view : context.model.systems()) {
        BitSet given = named(view);
        for (int s = given.nextSetBit(0); s >= 0; s = given.nextSetBit(s + 1)) {
          made.computeIfAbsent(s, k -> new BitSet()).set(view.number());
        }
        alike.computeIfAbsent(view.context(), k -> new BitSet()).set(view.number());
      }
      named = made;
    }
    return made;
  }

  /** The subjects to which a system gives something by name. */
  private BitSet named(SystemView view) {
    BitSet given = new BitSet();
    if (view.assigned().isEmpty()) {
      // There are many entries, and each has whom it names.
      IntList trustees = view.decider().trustees();
      for (int i = 0; i < trustees.size(); i++) {
        given.set(trustees.get(i));
      }
      for (Implicit group : Implicit.values()) {
        given.clear(context.facts.implicit(group));
      }
      return given;
    }
    long asOf = context.model.asOf().getEpochSecond();
    for (Grant grant : view.grants()) {
      if (FindingContext.isPersonal(context.model, grant, asOf)) {
        given.set(grant.subject());
      }
    }
    return given;
  }
}
