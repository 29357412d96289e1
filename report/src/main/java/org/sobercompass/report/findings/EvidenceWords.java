package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.Evidence;

/** What shows a finding, one line each. */
final class EvidenceWords {
  private EvidenceWords() {}

  static ByType<Naming, Evidence, String> all() {
    ByType<Naming, Evidence, String> all = new ByType<>();
    routes(all);
    accounts(all);
    lists(all);
    return all;
  }

  private static void routes(ByType<Naming, Evidence, String> all) {
    all.on(
            Evidence.OfRoute.class,
            (names, one) -> Words.route(names.model(), names.view(one.system()), one.shown()))
        .on(Evidence.Assigned.class, (names, one) -> names.line(one.in(), one.grant()))
        .on(Evidence.AdminAssigned.class, EvidenceWords::adminAssigned)
        .on(Evidence.Chain.class, (names, one) -> names.chainOf(one.subjects()))
        .on(
            Evidence.Circle.class,
            (names, one) ->
                "each is a member of the next: " + GroupWords.chain(names, one.groups()))
        .on(Evidence.MissingMember.class, (names, one) -> one.attribute() + ": " + one.text())
        .on(Evidence.Lost.class, EvidenceWords::lost)
        .on(Evidence.Steps.class, EvidenceWords::steps)
        .on(
            Evidence.StepsToSide.class,
            (names, one) -> "within reach: " + Naming.chain(names.steps(one.steps())))
        .on(Evidence.CanAct.class, (names, one) -> one.how())
        .on(
            Evidence.PerhapsCanAct.class,
            (names, one) -> names.subject(one.account()) + " perhaps can " + one.action())
        .on(
            Evidence.RoleContains.class,
            (names, one) -> Naming.chain(one.roles()) + ": " + one.entry());
  }

  private static void accounts(ByType<Naming, Evidence, String> all) {
    all.on(Evidence.NotUsedBy.class, (names, one) -> "no use by " + names.subject(one.account()))
        .on(
            Evidence.Used.class,
            (names, one) -> "used: " + String.join(", ", names.rights(one.in(), one.rights())))
        .on(Evidence.Shell.class, (names, one) -> "loginShell: " + one.shell())
        .on(Evidence.CanDo.class, (names, one) -> "it can " + one.power())
        .on(
            Evidence.NoHosts.class,
            (names, one) -> names.subject(one.account()) + " has no list of hosts to sign in from")
        .on(
            Evidence.InScope.class,
            (names, one) -> names.subject(one.account()) + " is in it: " + one.reason())
        .on(Evidence.Widening.class, (names, one) -> names.who(one.who()) + " by " + one.how())
        .on(
            Evidence.Unprotected.class,
            (names, one) -> one.whose() + " connects without protection")
        .on(Evidence.CanBesides.class, (names, one) -> SourceWords.besides(one.what()))
        .on(
            Evidence.TrialExpected.class,
            (names, one) -> "a try within " + one.days() + " days is expected")
        .on(
            Evidence.AdminRole.class,
            (names, one) ->
                "the admin role "
                    + one.role()
                    + " over "
                    + one.over()
                    + ", through "
                    + names.subject(one.through()))
        .on(
            Evidence.Delegated.class,
            (names, one) ->
                one.may()
                    + ": "
                    + one.object()
                    + ", through "
                    + (one.through() < 0 ? one.sid() : names.subject(one.through())));
  }

  private static void lists(ByType<Naming, Evidence, String> all) {
    all.on(Evidence.Entry.class, EvidenceWords::entry)
        .on(
            Evidence.NamedInLists.class,
            (names, one) ->
                names.system(one.in())
                    + ": its lists name "
                    + names.subject(one.account())
                    + " or a group of it")
        .on(
            Evidence.NamesFormerId.class,
            (names, one) -> "an entry on " + one.object() + " names " + one.sid())
        .on(
            Evidence.OpenPlace.class,
            (names, one) ->
                one.path() + ": everyone who can sign in has " + names.right(one.in(), one.right()))
        .on(Evidence.DelegatedOn.class, EvidenceWords::delegatedOn)
        .on(Evidence.MissingEntry.class, (names, one) -> ListWords.entry(one.entry()))
        .on(
            Evidence.EntryFrom.class,
            (names, one) -> one.origin().words() + ": " + ListWords.entry(one.entry()))
        .on(
            Evidence.ByOrder.class,
            (names, one) ->
                Words.count(one.accounts(), "account", "accounts")
                    + (one.can() ? " can " : " cannot ")
                    + one.action()
                    + " only by this order")
        .on(
            Evidence.OwnerOf.class,
            (names, one) -> "owner of " + one.object() + ": " + names.subject(one.account()));
  }

  private static String adminAssigned(Naming names, Evidence.AdminAssigned one) {
    return one.place()
        + ": "
        + AdminGrantWords.describe(names, one.what())
        + Naming.window(one.from(), one.until());
  }

  private static String lost(Naming names, Evidence.Lost one) {
    return names.subject(one.account())
        + ": "
        + names.right(one.in(), one.right())
        + " at "
        + names.view(one.in()).resources().id(one.resource())
        + ", which "
        + names.describe(one.in(), one.by())
        + " would give";
  }

  private static String steps(Naming names, Evidence.Steps one) {
    List<String> parts = new ArrayList<>(List.of(names.subject(one.account())));
    parts.addAll(names.steps(one.steps()));
    return Naming.chain(parts);
  }

  private static String entry(Naming names, Evidence.Entry one) {
    String from = one.grant().reason().isEmpty() ? "" : " (" + one.grant().reason() + ")";
    return names.view(one.in()).resources().id(one.grant().resource())
        + ": "
        + names.role(one.in(), one.grant())
        + " to "
        + Words.trustee(names.model().facts(), one.grant())
        + from;
  }

  private static String delegatedOn(Naming names, Evidence.DelegatedOn one) {
    return DelegationWords.place(one.object(), one.directory())
        + ": "
        + one.may()
        + " to "
        + one.trustee()
        + ", "
        + one.origin().words();
  }
}
