package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.Scopes;
import org.sobercompass.core.store.IntList;

/** Looks for admin scopes and roles that cannot be meant as they stand. Not thread-safe. */
public final class AdminCheck {
  private final Powers powers;
  private final AdminModel roles;
  private final Administration all;
  private final Scopes scopes;
  private final Facts facts;
  private final List<Problem> problems = new ArrayList<>();

  /** Over powers. */
  public AdminCheck(Powers powers) {
    this.powers = powers;
    this.roles = powers.roles();
    this.all = roles.administration();
    this.scopes = roles.scopes();
    this.facts = powers.model().facts();
  }

  /** Everything found, scopes before what is given over them. */
  public List<Problem> run() {
    problems.addAll(scopes.problems());
    for (int scope = 0; scope < all.scopes().size(); scope++) {
      scope(scope);
    }
    for (AdminGrant grant : all.grants()) {
      if (grant.activeAt(powers.model().asOf().getEpochSecond())) {
        grant(grant);
      }
    }
    return List.copyOf(problems);
  }

  private void warn(Place place, String what, String expected) {
    problems.add(Problem.warning(place, what, expected));
  }

  private void scope(int number) {
    AdminScope scope = all.scopes().get(number);
    if (scopes.objects(number).isEmpty() && scopes.undefined(number) == 0) {
      warn(scope.place(), "nobody is in the scope " + scope.name(), "lines that bring somebody in");
    }
    if (scopes.undefined(number) > 0) {
      warn(
          scope.place(),
          "a filter of the scope "
              + scope.name()
              + " is undefined for "
              + scopes.undefined(number)
              + (scopes.undefined(number) == 1
                  ? " object, which is perhaps in it"
                  : " objects, which are perhaps in it"),
          "attributes that the directory has, values of their kind");
    }
    widened(number, scope);
  }

  /** An administrator over a scope who can change what makes it. */
  private void widened(int number, AdminScope scope) {
    for (ScopeMakers.Making making :
        new ScopeMakers(powers).of(number, roles.administrators(number))) {
      BitSet who = making.who();
      warn(
          making.line().place(),
          Words.subject(facts, who.nextSetBit(0))
              + (who.cardinality() > 1 ? " and " + (who.cardinality() - 1) + " more" : "")
              + " can widen the scope "
              + scope.name()
              + ", over which she is set, by "
              + making.how(),
          "a line that those who are set over the scope cannot bend");
    }
  }

  private BitSet accounts(int subject) {
    IntList reached = new IntList();
    powers.model().widest().walker().accounts(subject, reached);
    BitSet accounts = new BitSet();
    for (int i = 0; i < reached.size(); i++) {
      accounts.set(reached.get(i));
    }
    return accounts;
  }

  private void grant(AdminGrant grant) {
    AdminRole role = all.roles().get(grant.role());
    if (!role.limitable() && grant.scope() >= 0) {
      warn(
          grant.place(),
          "the admin role "
              + role.name()
              + " may not be limited to a scope, and is given over "
              + all.scopes().get(grant.scope()).name(),
          "everything, or a role that may be limited");
    }
    if (grant.subject() < 0) {
      return;
    }
    BitSet holders = accounts(grant.subject());
    boolean group = facts.kind(grant.subject()) == SubjectKind.GROUP;
    boolean anybody = group && powers.model().widest().walker().hasAccount(grant.subject());
    if (holders.isEmpty() && !anybody) {
      warn(
          grant.place(),
          "the admin role "
              + role.name()
              + " is given to "
              + grant.subjectText()
              + ", and nobody is in it",
          "a group with somebody in it");
    }
    if (grant.scope() >= 0) {
      inside(grant, role, holders);
    }
  }

  /** An administrator who is in the scope that the role is given over. */
  private void inside(AdminGrant grant, AdminRole role, BitSet holders) {
    holders.and(scopes.objects(grant.scope()).bits());
    if (!holders.isEmpty()) {
      warn(
          grant.place(),
          Words.subject(facts, holders.nextSetBit(0))
              + " is in the scope "
              + all.scopes().get(grant.scope()).name()
              + " over which she is set as "
              + role.name(),
          "an exception in the scope, or another administrator");
    }
  }
}
