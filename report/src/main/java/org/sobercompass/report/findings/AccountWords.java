package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.AccountDetails.Idle;
import org.sobercompass.core.findings.details.AccountDetails.OfNobody;
import org.sobercompass.core.findings.details.AccountDetails.OtherWorks;
import org.sobercompass.core.findings.details.AccountDetails.ServiceExcess;
import org.sobercompass.core.findings.details.AccountDetails.ServiceSignsIn;
import org.sobercompass.core.findings.details.AccountDetails.StillHolds;
import org.sobercompass.core.findings.details.Details;

/** What is said of accounts that outlive their use, and of service accounts. */
final class AccountWords {
  private AccountWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(StillHolds.class, AccountWords::stillHolds)
        .on(OtherWorks.class, AccountWords::otherWorks)
        .on(OfNobody.class, AccountWords::ofNobody)
        .on(ServiceSignsIn.class, AccountWords::serviceSignsIn)
        .on(ServiceExcess.class, AccountWords::serviceExcess);
  }

  private static Said stillHolds(Naming names, StillHolds about) {
    int held = about.held();
    int delegations = about.delegations();
    String permissions = Words.count(held, "permission", "permissions");
    String entrusted = Words.count(delegations, "delegation", "delegations");
    List<String> why = new ArrayList<>();
    if (held > 0) {
      String where = Words.count(about.systems(), "application", "applications");
      why.add("it holds " + permissions + " in " + where);
    }
    if (about.strongest() > 0) {
      why.add(about.strongest() + " of the strongest kind");
    }
    if (delegations > 0) {
      why.add(entrusted + " in directories reach it");
    }
    String what =
        held == 0 ? entrusted : permissions + (delegations == 0 ? "" : " and " + entrusted);
    return new Said(
        why,
        names.subject(about.account())
            + " "
            + state(about)
            + " and still holds "
            + what
            + (held + delegations == 1 ? ", which comes" : ", which come")
            + " back the moment it "
            + back(about.idle()),
        "take away the groups and assignments that give it rights, or delete the account");
  }

  private static String state(StillHolds about) {
    return switch (about.idle()) {
      case DISABLED -> "is disabled";
      case EXPIRED -> "is expired";
      case LOCKED -> "is locked until an administrator unlocks it";
      case DORMANT ->
          about
              .days()
              .map(days -> "has not signed in for " + days + " days")
              .orElse("has never signed in");
    };
  }

  private static String back(Idle idle) {
    return switch (idle) {
      case DISABLED -> "is enabled";
      case EXPIRED -> "is extended";
      case LOCKED -> "is unlocked";
      case DORMANT -> "signs in";
    };
  }

  private static Said otherWorks(Naming names, OtherWorks about) {
    String state = about.isDisabled() ? "is disabled" : "is expired";
    return new Said(
        List.of(
            "it holds " + Words.count(about.held(), "permission", "permissions"),
            "the account of " + names.model().facts().source(about.other()) + " " + state),
        names.subject(about.other())
            + " "
            + state
            + ", and another account of the same person still works: "
            + names.subject(about.account())
            + " in "
            + names.model().facts().source(about.account()),
        "ask whether the person has left; if so, disable this account too");
  }

  private static Said ofNobody(Naming names, OfNobody about) {
    return new Said(
        List.of("nobody switches it off when its holder leaves"),
        "the local account "
            + names.subject(about.account())
            + " of "
            + names.model().facts().source(about.account())
            + " belongs to nobody in a directory",
        "link it to the person whose it is, say that it is a service account, or take it away");
  }

  private static Said serviceSignsIn(Naming names, ServiceSignsIn about) {
    return new Said(
        List.of("whoever knows its password is nobody in particular"),
        names.subject(about.account())
            + " is a service account and can sign in at a prompt ("
            + about.shell()
            + ")",
        "give it a shell that allows no sign-in, such as /usr/sbin/nologin");
  }

  private static Said serviceExcess(Naming names, ServiceExcess about) {
    return new Said(
        List.of(
            Words.count(about.rights().size(), "permission", "permissions")
                + " of the strongest kind that services are not said to need"),
        names.subject(about.account())
            + " is a service account and holds "
            + String.join(", ", names.rights(about.system(), about.rights()))
            + " in "
            + names.system(about.system()),
        "take it away, or say under services: may-hold: that services need it");
  }
}
