package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Drift;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.GrantDetails.Covered;
import org.sobercompass.core.findings.details.GrantDetails.Drifted;
import org.sobercompass.core.findings.details.GrantDetails.EmptyGroup;
import org.sobercompass.core.findings.details.GrantDetails.Everywhere;
import org.sobercompass.core.findings.details.GrantDetails.Expired;
import org.sobercompass.core.findings.details.GrantDetails.MissingSubject;
import org.sobercompass.core.findings.details.GrantDetails.NoSignIn;
import org.sobercompass.core.findings.details.GrantDetails.Redundant;
import org.sobercompass.core.findings.details.GrantDetails.TakesAway;
import org.sobercompass.core.findings.details.GrantDetails.ToEmptyGroup;
import org.sobercompass.core.findings.details.GrantDetails.ToEveryone;
import org.sobercompass.core.findings.details.GrantDetails.ToMany;
import org.sobercompass.core.findings.details.GrantDetails.ToPerson;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Grant;

/** What is said of assignments in applications. */
final class GrantWords {
  private GrantWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(NoSignIn.class, GrantWords::noSignIn)
        .on(MissingSubject.class, GrantWords::missingSubject)
        .on(ToPerson.class, GrantWords::toPerson)
        .on(ToEveryone.class, GrantWords::toEveryone)
        .on(Expired.class, GrantWords::expired)
        .on(ToEmptyGroup.class, GrantWords::toEmptyGroup)
        .on(EmptyGroup.class, GrantWords::emptyGroup)
        .on(ToMany.class, GrantWords::toMany)
        .on(Everywhere.class, GrantWords::everywhere)
        .on(Redundant.class, GrantWords::redundant)
        .on(Covered.class, GrantWords::covered)
        .on(TakesAway.class, GrantWords::takesAway)
        .on(Drifted.class, GrantWords::drifted);
  }

  private static Said noSignIn(Naming names, NoSignIn about) {
    List<String> why = new ArrayList<>(List.of("nobody is asked who they are"));
    about.given().forEach(strength -> why.add(Naming.strength(strength)));
    String name = names.system(about.system());
    return new Said(
        why,
        name + " asks for no sign-in: whoever reaches it can do what its role for everyone gives",
        "let " + name + " ask for a sign-in, or give everyone less");
  }

  private static Said missingSubject(Naming names, MissingSubject about) {
    Grant grant = about.grant();
    return new Said(
        List.of(Words.whoHolds(grant.subject()), Naming.strength(about.strength())),
        "the role "
            + names.role(about.system(), grant)
            + " of "
            + names.system(about.system())
            + " is given to "
            + Problem.quote(grant.subjectText())
            + Words.whoIsMissing(grant.subject()),
        "withdraw the assignment, or correct the name");
  }

  private static Said toPerson(Naming names, ToPerson about) {
    return new Said(
        List.of("it follows the person, not the task", Naming.strength(about.strength())),
        "given to a person instead of a group: " + names.describe(about.system(), about.grant()),
        "give the role to a group of those who do the task, and withdraw this");
  }

  private static Said toEveryone(Naming names, ToEveryone about) {
    String reached = Words.count(about.reached(), "account", "accounts");
    return new Said(
        List.of(Naming.strength(about.strength()), "it reaches " + reached),
        names.subject(about.grant().subject())
            + " gets the role "
            + names.role(about.system(), about.grant())
            + " of "
            + names.system(about.system())
            + " ("
            + reached
            + ")",
        "give the role to the groups that need it, and withdraw this");
  }

  private static Said expired(Naming names, Expired about) {
    return new Said(
        List.of("it gives nothing any more"),
        "this assignment has expired and is still in place: "
            + names.describe(about.system(), about.grant()),
        "withdraw it, or give it a new end");
  }

  private static Said toEmptyGroup(Naming names, ToEmptyGroup about) {
    return new Said(
        List.of("nobody holds it today", Naming.strength(about.strength())),
        "the group "
            + names.subject(about.grant().subject())
            + " is empty and has the role "
            + names.role(about.system(), about.grant())
            + " of "
            + names.system(about.system())
            + "; its next member gets it",
        "withdraw it, or put somebody in");
  }

  private static Said emptyGroup(Naming names, EmptyGroup about) {
    return new Said(
        List.of(
            "nobody holds them today",
            Words.count(about.assignments(), "assignment", "assignments") + " of the same cause"),
        "the group "
            + names.subject(about.group())
            + " is empty and has "
            + about.assignments()
            + " roles in "
            + Words.count(about.systems(), "application", "applications")
            + "; its next member gets them",
        "withdraw them, or put somebody in");
  }

  private static Said toMany(Naming names, ToMany about) {
    String broad =
        about.isNamed()
            ? "the workspace calls it broad"
            : about.inside()
                + " of the "
                + about.seen()
                + " that "
                + names.system(about.system())
                + " sees, "
                + about.percent()
                + " % or more";
    String inside =
        about.isUnit()
            ? "given to a unit with " + Words.count(about.inside(), "account", "accounts")
            : "given to a group with " + Words.count(about.inside(), "member", "members");
    return new Said(
        List.of(Naming.strength(about.strength()), broad),
        inside + ": " + names.describe(about.system(), about.grant()),
        "give the role to a group of those who do the task, or call the permissions"
            + " everyday: in the rules");
  }

  private static Said everywhere(Naming names, Everywhere about) {
    return new Said(
        List.of(
            Naming.strength(about.strength()),
            about.narrow() + " of its " + about.all() + " assignments are at one place"),
        "given everywhere, while "
            + about.narrow()
            + " others have it at one place only: "
            + names.describe(about.system(), about.grant()),
        "give it at the place where it is needed, and withdraw this");
  }

  private static Said redundant(Naming names, Redundant about) {
    return new Said(
        List.of("without it nobody would hold less, or more, at any time left in its window"),
        "the assignment of "
            + names.describe(about.system(), about.grant())
            + " changes nothing: others give the same",
        "withdraw it, and look again: of two that cover each other only one may go");
  }

  private static Said covered(Naming names, Covered about) {
    return new Said(
        List.of("without them nobody would hold less, or more, at any time left in their windows"),
        Words.count(about.covered(), "assignment changes", "assignments change")
            + " nothing, since another gives the same: "
            + names.describe(about.system(), about.by()),
        "withdraw them");
  }

  private static Said takesAway(Naming names, TakesAway about) {
    return new Said(
        List.of(
            about.denies() ? "what is denied is taken away everywhere" : "the nearer one decides",
            Words.count(about.accounts(), "account loses", "accounts lose") + " something"),
        "the assignment of "
            + names.describe(about.system(), about.grant())
            + " takes away from "
            + Words.count(about.accounts(), "account", "accounts")
            + " what another assignment gives them",
        "give both at the same place, or decide which is meant and withdraw the other");
  }

  private static Said drifted(Naming names, Drifted about) {
    Drift.Difference difference = about.difference();
    List<String> why = List.of(Naming.strength(about.strength()));
    String what = names.describe(about.system(), difference.grant());
    return switch (difference.kind()) {
      case INTENDED_ONLY ->
          new Said(
              why,
              "agreed but not in the application: " + what,
              "give it in the application, or remove it from the intended assignments");
      case ACTUAL_ONLY ->
          new Said(
              why,
              "in the application but never agreed: " + what,
              "withdraw it in the application, or have it agreed");
      case DIFFERENT ->
          new Said(
              why,
              "in place, but not as agreed: " + what + how(difference),
              "bring the application in line with what was agreed");
    };
  }

  /** In what an assignment that is there differs from what was agreed. */
  private static String how(Drift.Difference difference) {
    Grant intended = difference.grant();
    Grant actual = difference.actual().orElse(intended);
    List<String> parts = new ArrayList<>();
    if (intended.until() != actual.until() || intended.from() != actual.from()) {
      parts.add("its window differs");
    }
    if (intended.on() != actual.on()) {
      parts.add(actual.on() ? "it should be off" : "it is switched off");
    }
    if (intended.descends() != actual.descends()) {
      parts.add(actual.descends() ? "it should not reach below" : "it does not reach below");
    }
    return parts.isEmpty() ? "" : " (" + String.join(", ", parts) + ")";
  }
}
