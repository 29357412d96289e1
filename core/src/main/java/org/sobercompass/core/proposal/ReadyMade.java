package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Drift;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Step.Assignment;

/**
 * Proposals that are needed again and again: somebody comes, moves, leaves; what is there is
 * brought to what was agreed. They take what is given to an account by name: assignments of roles,
 * groups that list it, and entries of lists. What comes by the groups' own groups follows by
 * itself. Each is O(assignments + memberships of the accounts + entries of lists). Not thread-safe.
 */
public final class ReadyMade {
  private final AccessModel model;
  private final Facts facts;
  private final Steps steps;
  private final OwnRights own;
  private final List<String> left = new ArrayList<>();

  /** On a model. */
  public ReadyMade(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
    this.steps = new Steps(model);
    this.own = new OwnRights(model);
  }

  /** What one account is given by name is given to another too, except what it has already. */
  public Proposal like(int that, int who) {
    Set<Step> given = new LinkedHashSet<>(given(that, who));
    given.removeAll(given(who, who));
    List<Step> all = new ArrayList<>(given);
    all.addAll(entries(naming -> naming.copy(that, who)));
    return new Proposal("", all);
  }

  /** Everything that is given by name to these accounts ends, as when a person leaves. */
  public Proposal leaving(List<Integer> accounts) {
    List<Step> ends = new ArrayList<>();
    for (int account : accounts) {
      given(account, account).forEach(step -> ends.add(step.inverse()));
    }
    ends.addAll(entries(naming -> accounts.forEach(naming::take)));
    return new Proposal("", ends);
  }

  /**
   * Accounts and groups are deleted: first everything ends that names them, and accounts are
   * disabled, so that nothing is left that names nobody; then they go.
   */
  public Proposal deleting(List<Integer> subjects) {
    Set<Step> all = new LinkedHashSet<>();
    for (int subject : subjects) {
      if (facts.kind(subject) == SubjectKind.ACCOUNT && !facts.is(subject, Facts.DISABLED)) {
        all.add(new Step.Disable(facts.key(subject), true));
      }
      own.assigned(subject).stream()
          .flatMap(given -> given.what().stream())
          .forEach(what -> all.add(new Step.Withdraw(what)));
      own.lines(subject).forEach(line -> all.add(line.inverse()));
      listed(subject, subject).forEach(join -> all.add(join.inverse()));
    }
    all.addAll(entries(naming -> subjects.forEach(naming::take)));
    subjects.forEach(subject -> all.add(Steps.presence(facts, subject, Map.of(), false)));
    return new Proposal("", List.copyOf(all));
  }

  /** A group that is to be created, and who is in it from the beginning. */
  public static Proposal creating(Step.Presence group, List<Key> members) {
    List<Step> all = new ArrayList<>(List.of(group));
    members.forEach(member -> all.add(new Step.Join(member, group.subject())));
    return new Proposal("", all);
  }

  /**
   * An account goes from the work of one colleague to that of another: what it shares with the
   * first and the second does not have ends; what the second has begins.
   */
  public Proposal moving(int who, int from, int to) {
    Set<Step> own = given(who, who);
    Set<Step> begins = new LinkedHashSet<>(given(to, who));
    Set<Step> ends = new LinkedHashSet<>(given(from, who));
    ends.retainAll(own);
    ends.removeAll(begins);
    begins.removeAll(own);
    List<Step> all = new ArrayList<>();
    ends.forEach(step -> all.add(step.inverse()));
    all.addAll(begins);
    return new Proposal("", all);
  }

  /**
   * What accounts are given directly is given to a group in their place, and they are put into it;
   * accounts that are given nothing directly are left out. Whoever else is in the group gets it
   * too, which the preview shows.
   */
  public Proposal byGroup(int group, List<Integer> accounts) {
    Set<Step> begins = new LinkedHashSet<>();
    List<Step> ends = new ArrayList<>();
    Set<Step> has = given(group, group);
    Key key = facts.key(group);
    for (int account : accounts) {
      Step.Join join = new Step.Join(facts.key(account), key);
      if (assigned(account).isEmpty() && !isNamed(account)) {
        continue;
      }
      if (!given(account, account).contains(join)) {
        begins.add(join);
      }
      for (Assignment what : assigned(account)) {
        begins.add(new Step.Assign(what.to(key)));
        ends.add(new Step.Withdraw(what));
      }
    }
    begins.removeAll(has);
    List<Step> all = new ArrayList<>(begins);
    all.addAll(ends);
    all.addAll(
        entries(
            naming -> {
              accounts.forEach(account -> naming.copy(account, group));
              accounts.forEach(naming::take);
            }));
    return new Proposal("", all);
  }

  /** Entries and owners by an id kept from an earlier directory are written by the present one. */
  public Proposal presentIds() {
    return new Proposal(
        "present ids",
        entries(
            naming ->
                naming.present(
                    (subject, text) ->
                        FormerIds.of(facts, subject).stream()
                            .anyMatch(id -> FormerIds.names(text, id)))));
  }

  /** What is done with the entries of all lists; a list that cannot name somebody stays. */
  private List<Step> entries(Consumer<NamingEntries> what) {
    List<Step> all = new ArrayList<>();
    left.clear();
    for (SystemView view : NamingEntries.systems(model)) {
      NamingEntries naming = new NamingEntries(view);
      try {
        what.accept(naming);
        all.addAll(naming.steps());
      } catch (IllegalArgumentException e) {
        left.add(view.system().name() + ": " + e.getMessage());
      }
    }
    return all;
  }

  private boolean isNamed(int account) {
    return NamingEntries.systems(model).stream()
        .anyMatch(view -> !new NamingEntries(view).of(account).isEmpty());
  }

  /** The lists that were left as they are, and why; of the last proposal made. */
  public List<String> left() {
    return List.copyOf(left);
  }

  /** The actual assignments are brought to the intended ones, where both were read. */
  public Proposal agreed(List<SystemView> views) {
    List<Step> all = new ArrayList<>();
    for (SystemView view : views) {
      for (Drift.Difference difference : Drift.of(view.system())) {
        difference
            .actual()
            .flatMap(grant -> steps.of(view, grant))
            .ifPresent(what -> all.add(new Step.Withdraw(what)));
        difference
            .intended()
            .flatMap(grant -> steps.of(view, grant))
            .ifPresent(what -> all.add(new Step.Assign(what)));
      }
    }
    return new Proposal("", all);
  }

  /** What an account is given by name, as steps that give it to another. */
  private Set<Step> given(int account, int to) {
    Set<Step> all = new LinkedHashSet<>();
    Key key = facts.key(to);
    assigned(account).forEach(what -> all.add(new Step.Assign(what.to(key))));
    if (facts.source(account).equals(facts.source(to))) {
      all.addAll(listed(account, to));
    }
    return all;
  }

  /** The groups that list an account or group, as steps that put another in. */
  private Set<Step> listed(int subject, int to) {
    Set<Step> all = new LinkedHashSet<>();
    for (int i = 0; i < model.graph().upCount(subject); i++) {
      if (model.graph().upVia(subject, i).isListed()) {
        all.add(new Step.Join(facts.key(to), facts.key(model.graph().upGroup(subject, i))));
      }
    }
    return all;
  }

  /** The assignments to a subject by name that are not over. */
  private List<Assignment> assigned(int subject) {
    long now = model.asOf().getEpochSecond();
    return own.assigned(subject).stream()
        .filter(given -> !given.isOver(now))
        .flatMap(given -> given.what().stream())
        .toList();
  }
}
