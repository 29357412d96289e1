package org.sobercompass.core.proposal;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Setting;
import org.sobercompass.core.system.WrittenRole;

/** Changes of a model as steps. */
final class Steps {
  /** What stands for the node where an admin role is given over everything. */
  static final String EVERYTHING = "everything";

  private final AccessModel model;
  private final Facts facts;

  Steps(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
  }

  Step of(Change change) {
    return change.fold(
        moved ->
            moved.byKind(
                added -> new Step.Join(facts.key(added.member()), facts.key(added.group())),
                removed -> new Step.Leave(facts.key(removed.member()), facts.key(removed.group()))),
        own ->
            own.byKind(
                added -> new Step.Assign(of(model.view(added.system()), added)),
                removed -> taken(model.view(removed.system()), removed.grant()),
                redefined -> of(model.view(redefined.system()), redefined.how())),
        self ->
            self.byKind(
                this::of,
                presence -> presence(facts, presence.subject(), Map.of(), presence.isThere())));
  }

  private Step of(Change.AccountChanged account) {
    if (account.hosts().isPresent()) {
      List<String> was = HostLimits.of(facts, account.subject());
      return new Step.Hosts(facts.key(account.subject()), was, account.hosts().get());
    }
    return account
        .disabled()
        .<Step>map(off -> new Step.Disable(facts.key(account.subject()), off))
        .orElseGet(
            () -> Step.Ends.of(facts, account.subject(), account.expires().orElse(Facts.NEVER)));
  }

  /** That an account or group is created with these attributes, or deleted. */
  static Step.Presence presence(
      Facts facts, int subject, Map<String, List<String>> attributes, boolean created) {
    return new Step.Presence(facts.key(subject), facts.dn(subject), attributes, created);
  }

  private Assignment of(SystemView view, Change.AssignmentAdded added) {
    return new Assignment(
        view.id(),
        view.system().roles().get(added.role()).id(),
        facts.key(added.subject()),
        view.system() instanceof AdminRoles roles
            ? scope(roles, added.node())
            : view.resources().id(added.node()),
        added.descends(),
        added.from(),
        added.until(),
        added.on());
  }

  /** What is taken: an assignment that can be said by its keys, else an entry by its id. */
  private Step taken(SystemView view, int number) {
    Grant grant = view.grants().get(number);
    Optional<Assignment> assignment =
        view.system() instanceof AdminRoles roles
            ? of(view, roles, number)
            : view.system().isOfLists() ? Optional.empty() : of(view, grant);
    return assignment
        .<Step>map(Step.Withdraw::new)
        .orElseGet(() -> new Step.Entry(view.id(), grant.id(), words(view, grant), true));
  }

  /** What a grant is, for people. */
  String words(SystemView view, Grant grant) {
    return view.system().roles().get(grant.role()).name()
        + " for "
        + Words.trustee(facts, grant)
        + (view.resources().size() > 1 ? " at " + Words.place(view, grant) : "");
  }

  private Step of(SystemView view, Redefinition how) {
    return how.byKind(
        line ->
            new Step.Line(
                ((AdminRoles) view.system()).defined().get(line.scope()).id(),
                line.excepted(),
                facts.key(line.subject()),
                line.groups(),
                line.added()),
        register -> register(view, register.line(), register.added()),
        role -> {
          WrittenRole was = view.system().written().get(role.role());
          return new Step.Role(
              view.id(),
              was.id(),
              role.area(),
              role.area().isEmpty() ? was.includes() : was.own(role.area()),
              role.words());
        },
        item ->
            new Step.ListItem(view.id(), view.resources().id(item.resource()), item.text(), true),
        written -> setting(view, written.setting()));
  }

  private static Step setting(SystemView view, Setting setting) {
    String was =
        view.system().settings().map(own -> own.says(setting.path(), List.of())).orElse("");
    return new Step.Setting(view.id(), setting.path(), was, setting.is());
  }

  /** A line of a register that names somebody who is there. */
  Step register(SystemView view, Enrolment line, boolean added) {
    return new Step.Register(
        view.id(),
        facts.key(line.subject()),
        line.provider(),
        line.active(),
        line.secondFactor(),
        line.at(),
        added);
  }

  /** An assignment as it stands; empty when it is given to nobody who is there. */
  Optional<Assignment> of(SystemView view, Grant grant) {
    return of(view, grant, view.resources().id(grant.resource()), grant.descends());
  }

  /** The same of an admin role. */
  Optional<Assignment> of(SystemView view, AdminRoles roles, int number) {
    AdminGrant grant = roles.given().get(number);
    return of(view, view.grants().get(number), scope(roles, grant.scope()), true);
  }

  private Optional<Assignment> of(SystemView view, Grant grant, String where, boolean below) {
    if (grant.subject() < 0) {
      return Optional.empty();
    }
    return Optional.of(
        new Assignment(
            view.id(),
            view.system().roles().get(grant.role()).id(),
            facts.key(grant.subject()),
            where,
            below,
            moment(grant.from(), Long.MIN_VALUE),
            moment(grant.until(), Long.MAX_VALUE),
            grant.on()));
  }

  private static String scope(AdminRoles roles, int scope) {
    return scope == AdminGrant.EVERYTHING ? EVERYTHING : roles.defined().get(scope).id();
  }

  /** All systems, those of delegated administration after the others. */
  static Stream<SystemView> systems(AccessModel model) {
    return Stream.concat(model.systems().stream(), model.delegated().stream());
  }

  private static Optional<Instant> moment(long epochSecond, long none) {
    return epochSecond == none ? Optional.empty() : Optional.of(Instant.ofEpochSecond(epochSecond));
  }
}
