package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.proposal.Bound.Kind;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;

/** Lays the steps of one proposal over a model. */
final class Binder {
  private final AccessModel model;
  private final Facts facts;
  private final List<Bound.Note> notes = new ArrayList<>();
  private final Map<String, Map<Assignment, Integer>> given = new HashMap<>();
  private final Map<Step, Optional<Bound.Made>> made = new LinkedHashMap<>();
  private int step;

  Binder(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
  }

  /** Of two steps that take each other back neither is made; both are told. */
  Bound bind(Proposal proposal) {
    for (Step one : proposal.steps()) {
      if (made.containsKey(one.inverse())) {
        made.put(one.inverse(), Optional.empty());
        note(Kind.CONTRADICTS, "it takes back an earlier step of the same proposal");
      } else if (made.containsKey(one)) {
        note(Kind.ALREADY, "an earlier step does the same");
      } else {
        Optional<Change> change = one.fold(this::join, this::leave, this::assign, this::withdraw);
        made.put(one, change.map(c -> new Bound.Made(step, c)));
      }
      step++;
    }
    return new Bound(made.values().stream().flatMap(Optional::stream).toList(), notes);
  }

  private void note(Kind kind, String what) {
    notes.add(new Bound.Note(step, kind, what));
  }

  private Optional<Change> join(Step.Join join) {
    Optional<Integer> member = subject(join.member());
    Optional<Integer> group = subject(join.group()).filter(g -> isGroup(join.group(), g));
    if (member.isEmpty() || group.isEmpty()) {
      return Optional.empty();
    }
    if (via(member.get(), group.get()).isPresent()) {
      note(Kind.ALREADY, words(member.get()) + " is in " + words(group.get()) + " already");
      return Optional.empty();
    }
    if (member.get().equals(group.get()) || isBelow(group.get(), member.get())) {
      note(
          Kind.CIRCLE,
          words(group.get())
              + " is in "
              + words(member.get())
              + ", so each would contain the other");
    }
    return Optional.of(new Change.MembershipAdded(member.get(), group.get(), Via.MEMBER));
  }

  private Optional<Change> leave(Step.Leave leave) {
    Optional<Integer> member = subject(leave.member());
    Optional<Integer> group = subject(leave.group()).filter(g -> isGroup(leave.group(), g));
    if (member.isEmpty() || group.isEmpty()) {
      return Optional.empty();
    }
    Optional<Via> via = via(member.get(), group.get());
    if (via.isEmpty()) {
      note(
          Kind.NOT_THERE,
          words(member.get()) + " is not listed in " + words(group.get()) + " itself");
    }
    return via.map(v -> new Change.MembershipRemoved(member.get(), group.get(), v));
  }

  private Optional<Change> assign(Step.Assign assign) {
    Assignment what = assign.what();
    Optional<SystemView> view = view(what);
    if (view.isEmpty()) {
      return Optional.empty();
    }
    int role = role(view.get(), what.role());
    Optional<Integer> node = node(view.get(), what.node());
    Optional<Integer> subject = subject(what.subject());
    if (role < 0 || node.isEmpty() || subject.isEmpty()) {
      return Optional.empty();
    }
    if (given(view.get()).containsKey(what)) {
      note(Kind.ALREADY, words(subject.get()) + " has this assignment already");
      return Optional.empty();
    }
    return Optional.of(
        new Change.AssignmentAdded(
            view.get().number(),
            role,
            subject.get(),
            node.get(),
            what.below(),
            what.from(),
            what.until()));
  }

  private Optional<Change> withdraw(Step.Withdraw withdraw) {
    Assignment what = withdraw.what();
    Optional<SystemView> view = view(what);
    if (view.isEmpty() || role(view.get(), what.role()) < 0 || subject(what.subject()).isEmpty()) {
      return Optional.empty();
    }
    Integer grant = given(view.get()).get(what);
    if (grant == null) {
      boolean otherwise =
          given(view.get()).keySet().stream()
              .anyMatch(
                  other ->
                      other.role().equals(what.role())
                          && other.subject().equals(what.subject())
                          && other.node().equals(what.node()));
      note(
          Kind.NOT_THERE,
          otherwise
              ? "there is such an assignment at other times, or not below the node"
              : "there is no such assignment");
      return Optional.empty();
    }
    return Optional.of(new Change.AssignmentRemoved(view.get().number(), grant));
  }

  /** The assignments of an application as they stand, by what they give. */
  private Map<Assignment, Integer> given(SystemView view) {
    return given.computeIfAbsent(
        view.id(),
        id -> {
          Map<Assignment, Integer> all = new LinkedHashMap<>();
          Steps steps = new Steps(model);
          for (int g = 0; g < view.grants().size(); g++) {
            Grant grant = view.grants().get(g);
            int number = g;
            if (!grant.declared() && !grant.isWithdrawn()) {
              steps.of(view, grant).ifPresent(what -> all.putIfAbsent(what, number));
            }
          }
          return all;
        });
  }

  private Optional<SystemView> view(Assignment what) {
    Optional<SystemView> view =
        model.system(what.application()).filter(v -> !v.system().isOfLists());
    if (view.isEmpty()) {
      unknown(
          "application with roles",
          what.application(),
          model.systems().stream()
              .filter(v -> !v.system().isOfLists())
              .map(SystemView::id)
              .toList());
    }
    return view;
  }

  private int role(SystemView view, String id) {
    List<String> ids = view.system().roles().stream().map(RoleInfo::id).toList();
    if (!ids.contains(id)) {
      unknown("role", id, ids);
    }
    return ids.indexOf(id);
  }

  private Optional<Integer> node(SystemView view, String id) {
    Optional<Integer> node = view.resources().find(id);
    if (node.isEmpty()) {
      unknown("node", id, view.resources().ids());
    }
    return node;
  }

  private Optional<Integer> subject(Key key) {
    Optional<Integer> found = facts.find(key);
    if (found.isEmpty()) {
      note(Kind.UNKNOWN, "there is no " + key.text() + " in what was read");
    }
    return found;
  }

  private boolean isGroup(Key key, int subject) {
    boolean group = facts.kind(subject) == SubjectKind.GROUP;
    if (!group) {
      note(Kind.UNKNOWN, key.text() + " is no group");
    }
    return group;
  }

  private void unknown(String what, String id, Iterable<String> known) {
    String nearest = Spelling.nearest(id, known).map(n -> "; did you mean " + n + "?").orElse("");
    note(Kind.UNKNOWN, "there is no " + what + " " + Problem.quote(id) + nearest);
  }

  /** How a group lists a member itself. */
  private Optional<Via> via(int member, int group) {
    for (int i = 0; i < model.graph().upCount(member); i++) {
      if (model.graph().upGroup(member, i) == group && model.graph().upVia(member, i).isSure()) {
        return Optional.of(model.graph().upVia(member, i));
      }
    }
    return Optional.empty();
  }

  /** Whether a group is in another, at any depth. */
  private boolean isBelow(int group, int other) {
    if (facts.kind(other) != SubjectKind.GROUP) {
      return false;
    }
    IntList below = new IntList();
    model.widest().walker().groups(other, below);
    for (int i = 0; i < below.size(); i++) {
      if (below.get(i) == group) {
        return true;
      }
    }
    return false;
  }

  private String words(int subject) {
    return Words.subject(facts, subject);
  }
}
