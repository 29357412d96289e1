package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Counterparts;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.WrittenRole;

/**
 * What makes one model as another is: an earlier survey, or a copy of the workspace that somebody
 * edited. What no step can do is told. Subjects are matched by their immutable ids. O(subjects +
 * memberships + assignments + entries). Not thread-safe.
 */
public final class AsIn {
  private static final Set<Via> LISTED = Set.of(Via.MEMBER, Via.UNIQUE_MEMBER, Via.MEMBER_UID);

  private final AccessModel now;
  private final AccessModel other;
  private final Counterparts counterparts;
  private final Set<Step> steps = new LinkedHashSet<>();
  private final List<String> left = new ArrayList<>();

  private final Telling telling;

  /** How it is told what is only in one of two models, of one thing and of several. */
  private record Telling(
      String here, String areHere, String there, String areThere, String otherRules) {}

  private static final Telling PLACES =
      new Telling(
          "is here and not there",
          "are here and not there",
          "is there and not here",
          "are there and not here",
          "has other rules there");
  private static final Telling TIMES =
      new Telling("is gone", "are gone", "is new", "are new", "has other rules now");

  private AsIn(AccessModel now, AccessModel other, Telling telling) {
    this.now = now;
    this.other = other;
    this.counterparts = Counterparts.of(now.facts(), other.facts());
    this.telling = telling;
  }

  /**
   * What there is to do, and what it does not do.
   *
   * @param proposal the steps
   * @param left what is otherwise there and stays, in words, a sentence each
   */
  public record Answer(Proposal proposal, List<String> left) {
    /** Copies. */
    public Answer {
      left = List.copyOf(left);
    }
  }

  /** Makes {@code now} as {@code other} is; both with their delegated administration. */
  public static Answer of(AccessModel now, AccessModel other) {
    AsIn work = new AsIn(now, other, PLACES);
    work.subjects();
    work.tellSubjects();
    return work.answer();
  }

  /** What made an earlier model what a later one is. Who is new or gone is not told. */
  public static Answer since(AccessModel before, AccessModel now) {
    AsIn work = new AsIn(before, now, TIMES);
    work.subjects();
    return work.answer();
  }

  private Answer answer() {
    Steps.systems(now).forEach(this::system);
    List<String> gone =
        Steps.systems(other)
            .map(SystemView::id)
            .filter(id -> Steps.systems(now).noneMatch(view -> view.id().equals(id)))
            .toList();
    tell(gone, telling.there, telling.areThere);
    return new Answer(new Proposal("", List.copyOf(steps)), left);
  }

  private void tell(List<String> which, String one, String many) {
    if (!which.isEmpty()) {
      String some = which.stream().limit(3).collect(Collectors.joining(", "));
      int more = which.size() - 3;
      left.add(
          some + (more > 0 ? " and " + more + " more " : " ") + (which.size() == 1 ? one : many));
    }
  }

  /** States of accounts, and memberships. */
  private void subjects() {
    Facts facts = now.facts();
    for (int subject = 0; subject < facts.accounts() + facts.groups(); subject++) {
      Optional<Integer> there = counterparts.of(subject);
      if (there.isPresent() && facts.kind(subject) == SubjectKind.ACCOUNT) {
        Key key = facts.key(subject);
        state(key, subject, there.get());
        primary(key, subject, there.get());
      }
      if (there.isPresent() && !isListedAlike(subject, there.get())) {
        memberships(facts.key(subject), subject, there.get());
      }
    }
  }

  /** Who is in one of the two only. */
  private void tellSubjects() {
    tell(onlyIn(now.facts(), counterparts), telling.here, telling.areHere);
    Counterparts here = Counterparts.of(other.facts(), now.facts());
    tell(onlyIn(other.facts(), here), telling.there, telling.areThere);
  }

  private static List<String> onlyIn(Facts some, Counterparts others) {
    List<String> only = new ArrayList<>();
    for (int subject = 0; subject < some.accounts() + some.groups(); subject++) {
      if (others.of(subject).isEmpty()) {
        only.add(Words.subject(some, subject));
      }
    }
    return only;
  }

  private void state(Key key, int subject, int there) {
    boolean known =
        !now.facts().is(subject, Facts.STATE_UNKNOWN)
            && !other.facts().is(there, Facts.STATE_UNKNOWN);
    boolean disabled = other.facts().is(there, Facts.DISABLED);
    if (known && disabled != now.facts().is(subject, Facts.DISABLED)) {
      steps.add(new Step.Disable(key, disabled));
    }
    long ends = other.facts().expires(there);
    if (ends != now.facts().expires(subject)) {
      steps.add(Step.Ends.of(now.facts(), subject, ends));
    }
  }

  /** The primary group, and the hosts that it may sign in from. */
  private void primary(Key key, int subject, int there) {
    Optional<Key> has = SubjectSteps.primaryOf(now, subject).map(now.facts()::key);
    Optional<Key> had = SubjectSteps.primaryOf(other, there).map(other.facts()::key);
    if (!has.equals(had) && had.map(now.facts()::find).map(Optional::isPresent).orElse(true)) {
      steps.add(new Step.Primary(key, has, had));
    }
    List<String> from = HostLimits.of(now.facts(), subject);
    List<String> fromThen = HostLimits.of(other.facts(), there);
    if (!Set.copyOf(from).equals(Set.copyOf(fromThen))) {
      steps.add(new Step.Hosts(key, from, fromThen));
    }
  }

  /** Whether the same groups list a subject in both, one by one: most of them, at little cost. */
  private boolean isListedAlike(int subject, int there) {
    int count = now.graph().upCount(subject);
    boolean alike = other.graph().upCount(there) == count;
    for (int i = 0; i < count && alike; i++) {
      alike =
          now.graph().upVia(subject, i) == other.graph().upVia(there, i)
              && counterparts.at(now.graph().upGroup(subject, i))
                  == other.graph().upGroup(there, i);
    }
    return alike;
  }

  private void memberships(Key key, int subject, int there) {
    Set<Key> has = groups(now, subject);
    Set<Key> had = groups(other, there);
    for (Key group : had) {
      if (!has.contains(group) && now.facts().find(group).isPresent()) {
        steps.add(new Step.Join(key, group));
      }
    }
    for (Key group : has) {
      if (!had.contains(group) && other.facts().find(group).isPresent()) {
        steps.add(new Step.Leave(key, group));
      }
    }
  }

  /** The groups that list a subject itself. */
  private static Set<Key> groups(AccessModel model, int subject) {
    Set<Key> groups = new LinkedHashSet<>();
    for (int i = 0; i < model.graph().upCount(subject); i++) {
      if (LISTED.contains(model.graph().upVia(subject, i))) {
        groups.add(model.facts().key(model.graph().upGroup(subject, i)));
      }
    }
    return groups;
  }

  private void system(SystemView view) {
    Optional<SystemView> there =
        Steps.systems(other).filter(v -> v.id().equals(view.id())).findFirst();
    if (there.isEmpty()) {
      tell(List.of(view.id()), telling.here, "");
      return;
    }
    register(view, there.get());
    if (view.system().isOfLists()) {
      entries(view, there.get());
      return;
    }
    SettingsAsIn settings = new SettingsAsIn(view, there.get());
    steps.addAll(settings.steps());
    left.addAll(settings.left());
    if (view.system() instanceof AdminRoles roles
        && there.get().system() instanceof AdminRoles otherRoles) {
      roles.defined().stream()
          .filter(scope -> !settings.covers("scopes", scope.id()))
          .forEach(scope -> lines(scope, otherRoles.defined()));
    }
    List<WrittenRole> others = there.get().system().written();
    view.system().written().stream()
        .filter(role -> !settings.covers("roles", role.id()))
        .forEach(role -> role(view.id(), role, others));
    assignments(view, there.get(), settings);
  }

  private void assignments(SystemView view, SystemView there, SettingsAsIn settings) {
    Lookup here = new Lookup(now, left::add);
    Set<Assignment> has = here.given(view).keySet();
    Set<Assignment> had = new Lookup(other, left::add).given(there).keySet();
    List<String> nowhere = new ArrayList<>();
    for (Assignment what : had) {
      boolean fits =
          now.facts().find(what.subject()).isPresent()
              && (view.system().findRole(what.role()).isPresent()
                  || settings.covers("roles", what.role()));
      if (!has.contains(what) && fits) {
        steps.add(new Step.Assign(what));
      } else if (!fits) {
        nowhere.add(what.role() + " for " + what.subject().text());
      }
    }
    if (telling == PLACES) {
      tell(nowhere, "cannot be given here", "cannot be given here");
    }
    has.stream().filter(what -> !had.contains(what)).forEach(w -> steps.add(new Step.Withdraw(w)));
  }

  private void register(SystemView view, SystemView there) {
    Set<Step> has = enrolled(now, view);
    Set<Step> had = enrolled(other, there);
    has.stream().filter(line -> !had.contains(line)).forEach(line -> steps.add(line.inverse()));
    had.stream().filter(line -> !has.contains(line)).forEach(steps::add);
  }

  private static Set<Step> enrolled(AccessModel model, SystemView view) {
    Set<Step> lines = new LinkedHashSet<>();
    for (Enrolment line : view.admission().register().orElse(List.of())) {
      if (line.subject() >= 0) {
        lines.add(new Steps(model).register(view, line, true));
      }
    }
    return lines;
  }

  /** Lines that name one subject; other lines of a scope that differ are told. */
  private void lines(AdminScope scope, List<AdminScope> others) {
    Optional<AdminScope> there = others.stream().filter(s -> s.id().equals(scope.id())).findFirst();
    if (there.isEmpty()) {
      tell(List.of("the scope " + scope.id()), telling.here, "");
      return;
    }
    Set<Step> has = lines(now, scope);
    Set<Step> had = lines(other, there.get());
    had.stream().filter(line -> !has.contains(line)).forEach(steps::add);
    has.stream().filter(line -> !had.contains(line)).forEach(line -> steps.add(line.inverse()));
    if (!rules(scope).equals(rules(there.get()))) {
      tell(List.of("the scope " + scope.id()), telling.otherRules, "");
    }
  }

  private static Set<Step> lines(AccessModel model, AdminScope scope) {
    Set<Step> lines = new LinkedHashSet<>();
    for (boolean excepted : new boolean[] {false, true}) {
      for (ScopeItem item : excepted ? scope.except() : scope.include()) {
        if (item instanceof ScopeItem.Listed listed && listed.subjects().size() == 1) {
          String groups = listed.groups().map(meaning -> meaning.word()).orElse("");
          Key key = model.facts().key(listed.subjects().get(0));
          lines.add(new Step.Line(scope.id(), excepted, key, groups, true));
        }
      }
    }
    return lines;
  }

  private static List<String> rules(AdminScope scope) {
    return Stream.concat(scope.include().stream(), scope.except().stream())
        .filter(item -> !(item instanceof ScopeItem.Listed l && l.subjects().size() == 1))
        .map(ScopeItem::words)
        .toList();
  }

  private void role(String application, WrittenRole role, List<WrittenRole> others) {
    Optional<WrittenRole> there = others.stream().filter(r -> r.id().equals(role.id())).findFirst();
    if (there.isEmpty()) {
      tell(List.of("the role " + role.id() + " of " + application), telling.here, "");
      return;
    }
    Set<String> areas = new LinkedHashSet<>(role.allows().keySet());
    areas.addAll(there.get().allows().keySet());
    for (String area : areas) {
      if (!role.own(area).equals(there.get().own(area))) {
        steps.add(
            new Step.Role(application, role.id(), area, role.own(area), there.get().own(area)));
      }
    }
    if (!role.includes().equals(there.get().includes())) {
      steps.add(new Step.Role(application, role.id(), "", role.includes(), there.get().includes()));
    }
  }

  /** Entries are removed, and those that are there added. */
  private void entries(SystemView view, SystemView there) {
    ListsAsIn lists = new ListsAsIn(now, view, other, there);
    steps.addAll(lists.steps());
    tell(
        lists.missing(),
        "of " + view.system().name() + " " + telling.there,
        "of " + view.system().name() + " " + telling.areThere);
  }
}
