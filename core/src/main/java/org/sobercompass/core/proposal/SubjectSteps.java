package org.sobercompass.core.proposal;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.proposal.Bound.Kind;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.HostLimits;

/** Lays changes of accounts and groups themselves over a model. Not thread-safe. */
final class SubjectSteps {
  private final AccessModel model;
  private final Facts facts;
  private final Lookup lookup;
  private final Map<Integer, Integer> deleted = new LinkedHashMap<>();

  SubjectSteps(AccessModel model, Lookup lookup) {
    this.model = model;
    this.facts = model.facts();
    this.lookup = lookup;
  }

  /** Told when there is nothing to do, or it cannot be done; gives no change. */
  interface None {
    Optional<Change> told(Kind kind, String what);
  }

  Optional<Change> disable(Step.Disable step, None none) {
    return lookup
        .account(step.account())
        .flatMap(
            account ->
                facts.is(account, Facts.DISABLED) == step.disabled()
                        && !facts.is(account, Facts.STATE_UNKNOWN)
                    ? none.told(
                        Kind.ALREADY,
                        Words.subject(facts, account)
                            + (step.disabled() ? " is disabled already" : " is not disabled"))
                    : Optional.of(
                        new Change.AccountChanged(
                            account, Optional.of(step.disabled()), Optional.empty())));
  }

  Optional<Change> ends(Step.Ends step, None none) {
    long at = step.is().map(Instant::getEpochSecond).orElse(Facts.NEVER);
    return lookup
        .account(step.account())
        .flatMap(
            account ->
                facts.expires(account) == at && !facts.is(account, Facts.EXPIRY_UNKNOWN)
                    ? none.told(Kind.ALREADY, Words.subject(facts, account) + " ends then already")
                    : Optional.of(
                        new Change.AccountChanged(account, Optional.empty(), Optional.of(at))));
  }

  Optional<Change> hosts(Step.Hosts step, None none) {
    if (!HostLimits.isRead(facts)) {
      return none.told(Kind.UNKNOWN, "it was not read from which hosts accounts may sign in");
    }
    return lookup
        .account(step.account())
        .flatMap(
            account ->
                Set.copyOf(HostLimits.of(facts, account)).equals(Set.copyOf(step.is()))
                    ? none.told(
                        Kind.ALREADY,
                        Words.subject(facts, account)
                            + " may sign in from "
                            + (step.is().isEmpty() ? "all hosts" : String.join(", ", step.is()))
                            + " already")
                    : Optional.of(
                        new Change.AccountChanged(
                            account, Optional.empty(), Optional.empty(), Optional.of(step.is()))));
  }

  /** Another primary group; the one before goes with that. */
  Optional<Change> primary(Step.Primary step, None none) {
    Optional<Integer> account = lookup.account(step.account());
    Optional<Integer> wanted = step.is().flatMap(lookup::group);
    if (account.isEmpty() || (step.is().isPresent() && wanted.isEmpty())) {
      return Optional.empty();
    }
    int who = account.get();
    Optional<Integer> has = primaryOf(model, who);
    if (has.equals(wanted)) {
      return none.told(
          Kind.ALREADY,
          wanted
                  .map(group -> Words.subject(facts, group) + " is the primary group of ")
                  .orElse("no primary group was read of ")
              + Words.subject(facts, who)
              + (wanted.isPresent() ? " already" : ""));
    }
    return wanted.isPresent()
        ? wanted.map(group -> new Change.MembershipAdded(who, group, Via.PRIMARY))
        : has.map(group -> new Change.MembershipRemoved(who, group, Via.PRIMARY));
  }

  /** The primary group of an account, if it was read. */
  static Optional<Integer> primaryOf(AccessModel model, int account) {
    for (int i = 0; i < model.graph().upCount(account); i++) {
      if (model.graph().upVia(account, i) == Via.PRIMARY) {
        return Optional.of(model.graph().upGroup(account, i));
      }
    }
    return Optional.empty();
  }

  /**
   * An account or group is created or deleted.
   *
   * @param at the place of the step in the proposal
   */
  Optional<Change> presence(Step.Presence step, int at, None none) {
    Optional<Integer> there = lookup.present(step.subject());
    if (step.created()) {
      Optional<Integer> coming = lookup.creating(step.subject());
      if (coming.isPresent()) {
        return coming.map(subject -> new Change.PresenceChanged(subject, true));
      }
      return there.isPresent()
          ? none.told(Kind.ALREADY, Words.subject(facts, there.get()) + " is there already")
          : none.told(Kind.UNKNOWN, "what is to be created was not read: " + step.dn());
    }
    if (there.isEmpty()) {
      return none.told(Kind.NOT_THERE, step.subject().text() + " is deleted already");
    }
    deleted.put(there.get(), at);
    lookup.deleting(there.get());
    return Optional.of(new Change.PresenceChanged(there.get(), false));
  }

  /** What still names those who are deleted, after all that the proposal changes. O(grants). */
  List<Bound.Note> leftovers(List<Bound.Made> made) {
    Set<Change> gone = new HashSet<>();
    made.forEach(one -> gone.add(one.change()));
    List<Bound.Note> notes = new ArrayList<>();
    deleted.forEach(
        (subject, at) -> {
          notes.add(new Bound.Note(at, Kind.FOR_GOOD, forGood(subject)));
          long groups = listing(subject).stream().filter(c -> !gone.contains(c)).count();
          long entries = naming(subject).stream().filter(c -> !gone.contains(c)).count();
          long primary = primary(subject);
          if (primary > 0) {
            notes.add(
                new Bound.Note(
                    at,
                    Kind.LEFTOVER,
                    Words.subject(facts, subject)
                        + " is the primary group of "
                        + Words.count(primary, "account", "accounts")
                        + ", whose primary group is then missing"));
          }
          if (groups + entries > 0) {
            notes.add(new Bound.Note(at, Kind.LEFTOVER, words(subject, groups, entries)));
          }
        });
    return notes;
  }

  /** How many accounts have a group as their primary one. */
  private long primary(int group) {
    return facts.kind(group) != SubjectKind.GROUP
        ? 0
        : IntStream.range(0, model.graph().downCount(group))
            .filter(i -> model.graph().downVia(group, i) == Via.PRIMARY)
            .count();
  }

  private String forGood(int subject) {
    boolean account = facts.kind(subject) == SubjectKind.ACCOUNT;
    return "the id "
        + (account ? "and the password " : "")
        + "of "
        + Words.subject(facts, subject)
        + (account ? " are" : " is")
        + " lost for good: created again, "
        + (account ? "the account" : "the group")
        + " is another one to every list that names it by its id";
  }

  private String words(int subject, long groups, long entries) {
    List<String> left = new ArrayList<>();
    if (groups > 0) {
      left.add(Words.count(groups, "group", "groups"));
    }
    if (entries > 0) {
      left.add(Words.count(entries, "assignment or entry", "assignments and entries"));
    }
    return Words.subject(facts, subject)
        + " is still named by "
        + String.join(" and ", left)
        + ", which will then name nobody";
  }

  /** What takes a subject out of the groups that list it. */
  private List<Change> listing(int subject) {
    List<Change> all = new ArrayList<>();
    for (int i = 0; i < model.graph().upCount(subject); i++) {
      Via via = model.graph().upVia(subject, i);
      if (via.isListed()) {
        all.add(new Change.MembershipRemoved(subject, model.graph().upGroup(subject, i), via));
      }
    }
    return all;
  }

  /** What takes away the assignments and entries that name a subject. */
  private List<Change> naming(int subject) {
    List<Change> all = new ArrayList<>();
    for (SystemView view : Steps.systems(model).toList()) {
      for (int g = 0; g < view.grants().size(); g++) {
        Grant grant = view.grants().get(g);
        if (grant.subject() == subject && !grant.declared() && !grant.isWithdrawn()) {
          all.add(new Change.AssignmentRemoved(view.number(), g));
        }
      }
    }
    return all;
  }
}
