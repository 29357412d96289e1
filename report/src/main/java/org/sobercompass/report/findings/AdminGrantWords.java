package org.sobercompass.report.findings;

import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.AdminGrantDetails.Assigned;
import org.sobercompass.core.findings.details.AdminGrantDetails.Everywhere;
import org.sobercompass.core.findings.details.AdminGrantDetails.Expired;
import org.sobercompass.core.findings.details.AdminGrantDetails.MissingSubject;
import org.sobercompass.core.findings.details.AdminGrantDetails.Redundant;
import org.sobercompass.core.findings.details.AdminGrantDetails.ToEmptyGroup;
import org.sobercompass.core.findings.details.AdminGrantDetails.ToMany;
import org.sobercompass.core.findings.details.AdminGrantDetails.ToPerson;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.problem.Problem;

/** What is said of assignments of admin roles. */
final class AdminGrantWords {
  private AdminGrantWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(Expired.class, AdminGrantWords::expired)
        .on(Redundant.class, AdminGrantWords::redundant)
        .on(ToPerson.class, AdminGrantWords::toPerson)
        .on(ToEmptyGroup.class, AdminGrantWords::toEmptyGroup)
        .on(ToMany.class, AdminGrantWords::toMany)
        .on(Everywhere.class, AdminGrantWords::everywhere)
        .on(MissingSubject.class, AdminGrantWords::missingSubject);
  }

  /** "the admin role Helper over Joiners to desk-helpers". */
  static String describe(Naming names, Assigned what) {
    String whom =
        what.subject() < 0 ? Problem.quote(what.subjectText()) : names.subject(what.subject());
    return "the admin role " + what.role() + " over " + what.over() + " to " + whom;
  }

  /** How much it gives, by its strongest action. */
  private static String strength(Assigned what) {
    return switch (what.strongest()) {
      case 2 -> "who has it can have the object itself";
      case 1 -> "it gives much";
      default -> "it gives little";
    };
  }

  private static Said expired(Naming names, Expired about) {
    return new Said(
        List.of("it gives nothing any more"),
        "this assignment has expired and is still in place: " + describe(names, about.what()),
        "withdraw it, or give it a new end");
  }

  private static Said redundant(Naming names, Redundant about) {
    return new Said(
        List.of("another gives the same actions over the same, as long, to the same"),
        "the assignment of "
            + describe(names, about.what())
            + " changes nothing: others give the same",
        "withdraw it, and look again: of two that cover each other only one may go");
  }

  private static Said toPerson(Naming names, ToPerson about) {
    return new Said(
        List.of("it follows the person, not the task", strength(about.what())),
        "given to a person instead of a group: " + describe(names, about.what()),
        "give the role to a group of those who do the task, and withdraw this");
  }

  private static Said toEmptyGroup(Naming names, ToEmptyGroup about) {
    return new Said(
        List.of("nobody holds it today"),
        "the group "
            + names.subject(about.what().subject())
            + " is empty and has the admin role "
            + about.what().role()
            + "; its next member gets it",
        "withdraw it, or put somebody in");
  }

  private static Said toMany(Naming names, ToMany about) {
    return new Said(
        List.of(
            strength(about.what()),
            about.inside() + " of the " + about.accounts() + " accounts of its directory"),
        "given to a group with "
            + Words.count(about.inside(), "member", "members")
            + ": "
            + describe(names, about.what()),
        "give the role to a group of those who do the task");
  }

  private static Said everywhere(Naming names, Everywhere about) {
    return new Said(
        List.of(
            strength(about.what()),
            about.narrow() + " of its " + about.all() + " assignments are over a scope"),
        "given over everything, while "
            + about.narrow()
            + " others have it over a scope only: "
            + describe(names, about.what()),
        "give it over the scope where it is needed, and withdraw this");
  }

  private static Said missingSubject(Naming names, MissingSubject about) {
    return new Said(
        List.of(Words.whoHolds(about.what().subject())),
        "the admin role "
            + about.what().role()
            + " is given to "
            + Problem.quote(about.what().subjectText())
            + Words.whoIsMissing(about.what().subject()),
        "withdraw the assignment, or correct the name");
  }
}
