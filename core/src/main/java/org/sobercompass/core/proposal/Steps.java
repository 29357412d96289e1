package org.sobercompass.core.proposal;

import java.time.Instant;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/** Changes of a model as steps. */
final class Steps {
  private final AccessModel model;

  Steps(AccessModel model) {
    this.model = model;
  }

  Optional<Step> of(Change change) {
    return change.fold(
        moved ->
            moved.byKind(
                added ->
                    Optional.of(
                        new Step.Join(
                            model.facts().key(added.member()), model.facts().key(added.group()))),
                removed ->
                    Optional.of(
                        new Step.Leave(
                            model.facts().key(removed.member()),
                            model.facts().key(removed.group())))),
        own ->
            own.byKind(
                added -> view(added.system()).map(view -> new Step.Assign(of(view, added))),
                taken ->
                    view(taken.system())
                        .flatMap(view -> of(view, view.grants().get(taken.grant())))
                        .map(Step.Withdraw::new)));
  }

  /** Applications with roles; what has lists has no steps yet. */
  private Optional<SystemView> view(int number) {
    return number < model.systems().size()
        ? Optional.of(model.systems().get(number)).filter(view -> !view.system().isOfLists())
        : Optional.empty();
  }

  private Assignment of(SystemView view, Change.AssignmentAdded added) {
    return new Assignment(
        view.id(),
        view.system().roles().get(added.role()).id(),
        model.facts().key(added.subject()),
        view.resources().id(added.node()),
        added.descends(),
        added.from(),
        added.until());
  }

  /** An assignment as it stands; empty when it is switched off, or given to nobody who is there. */
  Optional<Assignment> of(SystemView view, Grant grant) {
    if (grant.subject() < 0 || !grant.on()) {
      return Optional.empty();
    }
    return Optional.of(
        new Assignment(
            view.id(),
            view.system().roles().get(grant.role()).id(),
            model.facts().key(grant.subject()),
            view.resources().id(grant.resource()),
            grant.descends(),
            moment(grant.from(), Long.MIN_VALUE),
            moment(grant.until(), Long.MAX_VALUE)));
  }

  private static Optional<Instant> moment(long epochSecond, long none) {
    return epochSecond == none ? Optional.empty() : Optional.of(Instant.ofEpochSecond(epochSecond));
  }
}
