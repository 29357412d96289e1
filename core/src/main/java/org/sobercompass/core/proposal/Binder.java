package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.proposal.Bound.Kind;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.WrittenRole;

/** Lays the steps of one proposal over a model. */
final class Binder implements Step.Cases<Optional<Change>> {
  private final AccessModel model;
  private final Facts facts;
  private final Lookup lookup;
  private final List<Bound.Note> notes = new ArrayList<>();
  private final Map<Step, List<Bound.Made>> made = new LinkedHashMap<>();
  private final Map<Object, Step> settled = new HashMap<>();
  private final Map<Integer, AccessSystem> written = new HashMap<>();
  private final Map<Integer, ListSteps> lists = new HashMap<>();
  private final SubjectSteps subjects;

  private final SettingSteps settings;
  private final LineSteps scopes;
  private int step;

  Binder(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
    this.lookup =
        new Lookup(model, what -> note(Kind.UNKNOWN, what), what -> note(Kind.NOT_THERE, what));
    this.subjects = new SubjectSteps(model, lookup);
    this.settings = new SettingSteps(model);
    this.scopes = new LineSteps(facts, lookup);
  }

  /** Of two steps that take each other back neither is made; both are told. */
  Bound bind(Proposal proposal) {
    proposal.deleted().forEach(lookup::deletes);
    for (Step one : proposal.steps()) {
      if (made.containsKey(one.inverse())) {
        made.put(one.inverse(), List.of());
        note(Kind.CONTRADICTS, "it takes back an earlier step of the same proposal");
      } else if (made.containsKey(one)) {
        note(Kind.ALREADY, "an earlier step does the same");
      } else {
        made.put(one, one.in(this).map(this::made).orElse(List.of()));
      }
      step++;
    }
    List<Bound.Made> all = made.values().stream().flatMap(List::stream).toList();
    notes.addAll(subjects.leftovers(all));
    notes.addAll(settings.stillGiven(all));
    return new Bound(all, notes);
  }

  /** A change, with all that goes with it; see {@link Lookup#whole}. */
  private List<Bound.Made> made(Change change) {
    return lookup.whole(change).stream().map(one -> new Bound.Made(step, one)).toList();
  }

  private void note(Kind kind, String what) {
    notes.add(new Bound.Note(step, kind, what));
  }

  /** Nothing is to be done, or can be done; told why. */
  private Optional<Change> none(Kind kind, String what) {
    note(kind, what);
    return Optional.empty();
  }

  @Override
  public Optional<Change> join(Step.Join join) {
    Optional<Integer> member = lookup.subject(join.member());
    Optional<Integer> group = lookup.group(join.group());
    if (member.isEmpty() || group.isEmpty()) {
      return Optional.empty();
    }
    if (lookup.via(member.get(), group.get()).isPresent()) {
      return none(Kind.ALREADY, words(member.get()) + " is in " + words(group.get()) + " already");
    }
    if (member.get().equals(group.get()) || lookup.isBelow(group.get(), member.get())) {
      note(
          Kind.CIRCLE,
          words(group.get())
              + " is in "
              + words(member.get())
              + ", so each would contain the other");
    }
    Via via = lookup.joining(member.get(), group.get());
    return Optional.of(new Change.MembershipAdded(member.get(), group.get(), via));
  }

  @Override
  public Optional<Change> leave(Step.Leave leave) {
    Optional<Integer> member = lookup.subject(leave.member());
    Optional<Integer> group = lookup.group(leave.group());
    if (member.isEmpty() || group.isEmpty()) {
      return Optional.empty();
    }
    Optional<Via> via = lookup.via(member.get(), group.get());
    return via.isPresent()
        ? via.map(v -> new Change.MembershipRemoved(member.get(), group.get(), v))
        : none(
            Kind.NOT_THERE,
            words(member.get()) + " is not listed in " + words(group.get()) + " itself");
  }

  @Override
  public Optional<Change> assign(Step.Assign assign) {
    Assignment what = assign.what();
    Optional<SystemView> view = lookup.withRoles(what.application());
    if (view.isEmpty()) {
      return Optional.empty();
    }
    Optional<Integer> role = lookup.role(view.get(), what.role());
    Optional<Integer> node = lookup.node(view.get(), what.node());
    Optional<Integer> subject = lookup.subject(what.subject());
    if (role.isEmpty() || node.isEmpty() || subject.isEmpty()) {
      return Optional.empty();
    }
    if (lookup.given(view.get()).containsKey(what)) {
      return none(Kind.ALREADY, words(subject.get()) + " has this assignment already");
    }
    return Optional.of(
        new Change.AssignmentAdded(
            view.get().number(),
            role.get(),
            subject.get(),
            node.get(),
            what.below(),
            what.from(),
            what.until(),
            what.on()));
  }

  @Override
  public Optional<Change> withdraw(Step.Withdraw withdraw) {
    Assignment what = withdraw.what();
    Optional<SystemView> view = lookup.withRoles(what.application());
    if (view.isEmpty()
        || lookup.role(view.get(), what.role()).isEmpty()
        || lookup.subject(what.subject()).isEmpty()) {
      return Optional.empty();
    }
    Integer grant = lookup.given(view.get()).get(what);
    if (grant != null) {
      return Optional.of(new Change.AssignmentRemoved(view.get().number(), grant));
    }
    return none(
        Kind.NOT_THERE,
        lookup.isGivenOtherwise(view.get(), what)
            ? "there is such an assignment at other times, or not below the node"
            : "there is no such assignment");
  }

  @Override
  public Optional<Change> line(Step.Line line) {
    return scopes.line(line, this::none);
  }

  @Override
  public Optional<Change> entry(Step.Entry entry) {
    Optional<SystemView> view = lookup.system(entry.system());
    if (view.isEmpty()) {
      return Optional.empty();
    }
    OptionalInt there = lookup.entry(view.get(), entry);
    if (there.isPresent()) {
      return entry.removed()
          ? Optional.of(lists(view.get()).take(there.getAsInt()))
          : none(Kind.ALREADY, "the entry is there");
    }
    return entry.removed()
        ? none(Kind.NOT_THERE, "there is no such entry any more: " + entry.words())
        : none(Kind.UNKNOWN, "an entry is put back where it was taken from, not by a proposal");
  }

  @Override
  public Optional<Change> item(Step.ListItem item) {
    Optional<SystemView> view = lookup.system(item.system());
    Optional<Integer> resource = view.flatMap(v -> lookup.node(v, item.at()));
    if (resource.isEmpty()) {
      return Optional.empty();
    }
    try {
      Optional<Change> change = lists(view.get()).item(resource.get(), item);
      return change.isPresent()
          ? change
          : item.added()
              ? none(Kind.ALREADY, "the entry " + item.text() + " is there")
              : none(Kind.NOT_THERE, "there is no entry " + item.text() + " at " + item.at());
    } catch (IllegalArgumentException e) {
      return none(Kind.UNKNOWN, String.valueOf(e.getMessage()));
    }
  }

  private ListSteps lists(SystemView view) {
    return lists.computeIfAbsent(view.number(), n -> new ListSteps(view));
  }

  @Override
  public Optional<Change> account(Step.Disable disable) {
    return subjects.disable(disable, this::none);
  }

  @Override
  public Optional<Change> ends(Step.Ends ends) {
    return isSettled(ends.account(), ends) ? Optional.empty() : subjects.ends(ends, this::none);
  }

  @Override
  public Optional<Change> hosts(Step.Hosts hosts) {
    return isSettled(List.of("hosts", hosts.account()), hosts)
        ? Optional.empty()
        : subjects.hosts(hosts, this::none);
  }

  @Override
  public Optional<Change> primary(Step.Primary primary) {
    return isSettled(List.of("primary", primary.account()), primary)
        ? Optional.empty()
        : subjects.primary(primary, this::none);
  }

  @Override
  public Optional<Change> presence(Step.Presence presence) {
    return subjects.presence(presence, step, this::none);
  }

  @Override
  public Optional<Change> setting(Step.Setting setting) {
    Optional<SystemView> view = lookup.system(setting.system());
    return view.isEmpty() || isSettled(List.of(setting.system(), setting.path()), setting)
        ? Optional.empty()
        : settings.setting(setting, view.get(), step, this::none);
  }

  @Override
  public Optional<Change> register(Step.Register line) {
    Optional<SystemView> view = lookup.system(line.application());
    Optional<Integer> subject = lookup.subject(line.subject());
    if (view.isEmpty() || subject.isEmpty()) {
      return Optional.empty();
    }
    if (view.get().admission().register().isEmpty()) {
      return none(Kind.UNKNOWN, view.get().system().name() + " keeps no register");
    }
    Optional<Enrolment> there = Lookup.enrolment(view.get(), subject.get(), line);
    if (there.isPresent() == line.added()) {
      return line.added()
          ? none(Kind.ALREADY, words(subject.get()) + " is enrolled so already")
          : none(Kind.NOT_THERE, words(subject.get()) + " is not enrolled so");
    }
    Enrolment how =
        there.orElseGet(
            () ->
                new Enrolment(
                    subject.get(),
                    facts.title(subject.get()),
                    line.signIn(),
                    line.active(),
                    line.secondFactor(),
                    line.at(),
                    Place.of("proposal")));
    return Optional.of(
        new Change.Redefined(
            view.get().number(), new Redefinition.RegisterLine(how, line.added())));
  }

  @Override
  public Optional<Change> role(Step.Role role) {
    Optional<SystemView> view = lookup.withRoles(role.application());
    Optional<Integer> number = view.flatMap(v -> lookup.role(v, role.role()));
    if (number.isEmpty()) {
      return Optional.empty();
    }
    AccessSystem read = view.get().system();
    if (read.written().isEmpty()) {
      return none(Kind.UNKNOWN, "admin roles cannot be written otherwise here");
    }
    if (isSettled(List.of(role.application(), role.role(), role.area()), role)) {
      return Optional.empty();
    }
    AccessSystem application = written.getOrDefault(view.get().number(), read);
    WrittenRole now = application.written().get(number.get());
    List<String> says = role.area().isEmpty() ? now.includes() : now.own(role.area());
    if (says.equals(role.is())) {
      return none(Kind.ALREADY, "the role " + role.role() + " is written so already");
    }
    Redefinition how = new Redefinition.RoleText(number.get(), role.area(), role.is());
    try {
      // Steps together could close a circle of inclusions that none closes alone.
      written.put(view.get().number(), application.redefined(how));
    } catch (IllegalArgumentException e) {
      return none(Kind.UNKNOWN, String.valueOf(e.getMessage()));
    }
    return Optional.of(new Change.Redefined(view.get().number(), how));
  }

  /** Whether an earlier step of the proposal sets the same thing otherwise; told. */
  private boolean isSettled(Object what, Step one) {
    boolean settledBefore = settled.putIfAbsent(what, one) != null;
    if (settledBefore) {
      note(Kind.CONTRADICTS, "an earlier step of the same proposal sets it otherwise");
    }
    return settledBefore;
  }

  private String words(int subject) {
    return Words.subject(facts, subject);
  }
}
