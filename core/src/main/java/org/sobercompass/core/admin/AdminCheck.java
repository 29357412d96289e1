package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Need;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Verdict;

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
    if (scopes.objects(number).isEmpty()) {
      warn(scope.place(), "nobody is in the scope " + scope.name(), "lines that bring somebody in");
    }
    if (scopes.undefined(number) > 0) {
      warn(
          scope.place(),
          "a filter of the scope "
              + scope.name()
              + " is undefined for "
              + scopes.undefined(number)
              + " objects, which are left outside",
          "attributes that the directory has, values of their kind");
    }
    widened(number, scope);
  }

  /** An administrator over a scope who can edit a group that makes it can widen her own scope. */
  private void widened(int number, AdminScope scope) {
    BitSet over = administrators(number);
    for (ScopeItem item : scope.include()) {
      if (item instanceof ScopeItem.Rule rule && !over.isEmpty()) {
        writers(number, over, rule);
      }
      if (item instanceof ScopeItem.Listed listed
          && listed.groups().map(GroupMeaning::members).orElse(false)) {
        for (int subject : listed.subjects()) {
          if (facts.kind(subject) == SubjectKind.GROUP) {
            editors(subject, over, scope, item);
          }
        }
      }
    }
  }

  /** An administrator over a scope who can write what its rule asks for, outside of it. */
  private void writers(int number, BitSet over, ScopeItem.Rule rule) {
    Set<String> attributes = new TreeSet<>();
    rule.filter().collectAttributes(attributes);
    for (DirectoryTree tree : powers.tokens().trees()) {
      if (tree.directory().equals(rule.directory())) {
        Map<Integer, Integer> subjects = powers.tokens().subjects(tree);
        over.stream()
            .forEach(
                account ->
                    attributes.forEach(a -> writer(number, account, a, tree, subjects, rule)));
      }
    }
  }

  private void writer(
      int number,
      int account,
      String attribute,
      DirectoryTree tree,
      Map<Integer, Integer> subjects,
      ScopeItem.Rule rule) {
    Need write = new Need.Attribute(DsRights.WRITE_PROPERTY, attribute);
    for (Map.Entry<Integer, Integer> one : new TreeMap<>(subjects).entrySet()) {
      boolean outside = !scopes.contains(number, one.getValue());
      if (outside
          && facts.kind(one.getValue()) == SubjectKind.ACCOUNT
          && powers.check(account, tree).decide(write, one.getKey(), -1) == Verdict.YES) {
        warn(
            rule.place(),
            Words.subject(facts, account)
                + " can widen the scope "
                + all.scopes().get(number).name()
                + ", over which she is set, by writing "
                + attribute
                + " of "
                + Words.subject(facts, one.getValue()),
            "a rule on attributes that those who are set over the scope cannot write");
        return;
      }
    }
  }

  private void editors(int group, BitSet over, AdminScope scope, ScopeItem item) {
    all.action("edit-members")
        .ifPresent(
            action -> {
              BitSet both =
                  (BitSet) powers.who(action, powers.thing(group), Optional.empty()).yes().clone();
              both.and(over);
              if (!both.isEmpty()) {
                warn(
                    item.place(),
                    Words.subject(facts, both.nextSetBit(0))
                        + (both.cardinality() > 1
                            ? " and " + (both.cardinality() - 1) + " more"
                            : "")
                        + " can widen the scope "
                        + scope.name()
                        + ", over which she is set, by editing "
                        + Words.subject(facts, group),
                    "a group that those who are set over the scope cannot edit");
              }
            });
  }

  private BitSet administrators(int scope) {
    BitSet accounts = new BitSet();
    for (AdminGrant grant : all.grants()) {
      if (grant.scope() == scope && grant.subject() >= 0) {
        accounts(grant.subject()).stream().forEach(accounts::set);
      }
    }
    return accounts;
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
    if (holders.isEmpty()) {
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
      holders.and(scopes.objects(grant.scope()));
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
}
