package org.sobercompass.core.admin;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.store.IntList;

/**
 * Who makes an admin scope what it is: who can edit a group whose members are in it or excepted,
 * write an attribute by which a rule of it chooses, or move an object to where it counts. What a
 * scope says of another scope is followed. What is not known gives nobody anything. Not
 * thread-safe. O(lines x distinct lists of a directory).
 */
public final class ScopeMakers {
  private static final String MOVE = "move";

  private final Powers powers;
  private final Facts facts;
  private final Administration all;

  /** By these powers. */
  public ScopeMakers(Powers powers) {
    this.powers = powers;
    this.facts = powers.model().facts();
    this.all = powers.roles().administration();
  }

  /**
   * A way to change who is in a scope.
   *
   * @param line the line of the scope that it goes by
   * @param how what is done, as "editing crew, whose members are in it"
   * @param who the accounts that can do it
   */
  public record Making(ScopeItem line, String how, BitSet who) {}

  /** The ways in which some accounts can widen a scope, by its lines. */
  public List<Making> of(int scope, BitSet accounts) {
    List<Making> found = new ArrayList<>();
    if (!accounts.isEmpty()) {
      lines(scope, accounts, found);
    }
    return List.copyOf(found);
  }

  /** A scope that is being gone through. */
  private record Open(int scope, Iterator<ScopeItem> include) {}

  /** The lines of a scope and of all it is made of, each where it is named. */
  private void lines(int scope, BitSet accounts, List<Making> found) {
    Set<Integer> followed = new HashSet<>(Set.of(scope));
    Deque<Open> open = new ArrayDeque<>();
    open.push(new Open(scope, all.scopes().get(scope).include().iterator()));
    while (!open.isEmpty()) {
      Open at = open.element();
      if (!at.include.hasNext()) {
        for (ScopeItem item : all.scopes().get(at.scope).except()) {
          line(scope, at.scope, item, false, accounts, found);
        }
        open.pop();
        continue;
      }
      ScopeItem item = at.include.next();
      line(scope, at.scope, item, true, accounts, found);
      if (item instanceof ScopeItem.Other other) {
        all.scope(other.scope())
            .filter(followed::add)
            .ifPresent(n -> open.push(new Open(n, all.scopes().get(n).include().iterator())));
      }
    }
  }

  private void line(
      int scope, int from, ScopeItem item, boolean included, BitSet accounts, List<Making> found) {
    if (item instanceof ScopeItem.Listed listed
        && listed.groups().map(GroupMeaning::members).orElse(false)) {
      for (int subject : listed.subjects()) {
        if (facts.kind(subject) == SubjectKind.GROUP) {
          editors(item, subject, included, accounts, found);
        }
      }
    } else if (item instanceof ScopeItem.Rule rule) {
      writers(scope, from, rule, included, accounts, found);
    } else if (item instanceof ScopeItem.Subtree subtree && included) {
      movers(scope, from, subtree, accounts, found);
    }
  }

  /** Of the group and of all groups in it. */
  private void editors(
      ScopeItem item, int group, boolean included, BitSet accounts, List<Making> found) {
    Optional<AdminAction> edit = all.action("edit-members");
    IntList groups = new IntList();
    powers.walker().groups(group, groups);
    for (int i = 0; i < groups.size() && edit.isPresent(); i++) {
      BitSet who = who(edit.get(), groups.get(i), Optional.empty(), accounts);
      if (!who.isEmpty()) {
        String name = Words.subject(facts, groups.get(i));
        found.add(
            new Making(
                item,
                "editing " + name + ", whose members are " + (included ? "in it" : "excepted"),
                who));
      }
    }
  }

  private BitSet who(
      AdminAction action, int subject, Optional<DirectoryTrees.Spot> destination, BitSet accounts) {
    Powers.Thing thing = powers.thing(subject);
    BitSet who = new BitSet();
    if (powers.fits(action, thing)) {
      who.or(powers.who(action, thing, destination).yes());
      who.and(accounts);
    }
    return who;
  }

  /** An attribute of an account that the line does not bring in yet, or still keeps out. */
  private void writers(
      int scope,
      int from,
      ScopeItem.Rule rule,
      boolean included,
      BitSet accounts,
      List<Making> found) {
    Set<String> attributes = new TreeSet<>();
    rule.filter().collectAttributes(attributes);
    for (DirectoryTree tree : powers.trees().all()) {
      if (tree.directory().equals(rule.directory())) {
        Map<Integer, Integer> outside = outside(scope, from, tree, included, rule);
        for (String attribute : attributes) {
          writers(rule, attribute, tree, outside, accounts, found);
        }
      }
    }
  }

  private void writers(
      ScopeItem.Rule rule,
      String attribute,
      DirectoryTree tree,
      Map<Integer, Integer> outside,
      BitSet accounts,
      List<Making> found) {
    AdminAction write =
        new AdminAction(
            "write=" + attribute,
            "write " + attribute,
            List.of(),
            new Requirement.Attribute(DsRights.WRITE_PROPERTY, attribute),
            0);
    BitSet left = (BitSet) accounts.clone();
    Set<Long> asked = new HashSet<>();
    for (Map.Entry<Integer, Integer> one : outside.entrySet()) {
      long list = (long) tree.descriptorNumber(one.getKey()) << 32 | tree.kind(one.getKey());
      if (!left.isEmpty() && asked.add(list)) {
        BitSet who =
            powers.lists().byList(write, new DirectoryTrees.Spot(tree, one.getKey())).yes();
        who.and(left);
        left.andNot(who);
        if (!who.isEmpty()) {
          String name = Words.subject(facts, one.getValue());
          found.add(new Making(rule, "writing " + attribute + " of " + name, who));
        }
      }
    }
  }

  /** Accounts that a line would let in if it met, or did not meet, them: object and subject. */
  private Map<Integer, Integer> outside(
      int scope, int from, DirectoryTree tree, boolean included, ScopeItem line) {
    Map<Integer, Integer> outside = new TreeMap<>();
    for (int object = 0; object < tree.size(); object++) {
      int subject = powers.trees().subject(tree, object);
      boolean outsider =
          subject >= 0
              && facts.kind(subject) == SubjectKind.ACCOUNT
              && !powers.roles().scopes().contains(scope, subject);
      if (outsider && powers.roles().scopes().isOf(from, line, subject) != included) {
        outside.put(object, subject);
      }
    }
    return outside;
  }

  /** Who can move an account from outside into the subtree. */
  private void movers(
      int scope, int from, ScopeItem.Subtree subtree, BitSet accounts, List<Making> found) {
    Optional<AdminAction> move = all.action(MOVE);
    for (DirectoryTree tree : powers.trees().all()) {
      int top = tree.findForm(subtree.dnForm());
      if (move.isEmpty() || top < 0) {
        continue;
      }
      BitSet left = (BitSet) accounts.clone();
      Set<String> asked = new HashSet<>();
      for (Map.Entry<Integer, Integer> one : outside(scope, from, tree, true, subtree).entrySet()) {
        int object = one.getKey();
        String lists =
            tree.descriptorNumber(object)
                + " "
                + tree.kind(object)
                + " "
                + (tree.parent(object) < 0 ? -1 : tree.descriptorNumber(tree.parent(object)));
        if (!left.isEmpty() && asked.add(lists)) {
          BitSet who =
              who(
                  move.get(),
                  one.getValue(),
                  Optional.of(new DirectoryTrees.Spot(tree, top)),
                  left);
          left.andNot(who);
          if (!who.isEmpty()) {
            String name = Words.subject(facts, one.getValue());
            found.add(new Making(subtree, "moving " + name + " to " + tree.label(top), who));
          }
        }
      }
    }
  }
}
