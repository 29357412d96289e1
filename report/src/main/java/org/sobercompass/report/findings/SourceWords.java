package org.sobercompass.report.findings;

import java.util.List;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.SourceDetails.Besides;
import org.sobercompass.core.findings.details.SourceDetails.EmergencyUntested;
import org.sobercompass.core.findings.details.SourceDetails.NoEmergencyAccount;
import org.sobercompass.core.findings.details.SourceDetails.NoOwner;
import org.sobercompass.core.findings.details.SourceDetails.OwnerGone;
import org.sobercompass.core.findings.details.SourceDetails.PasswordInClear;
import org.sobercompass.core.findings.details.SourceDetails.Reader;
import org.sobercompass.core.findings.details.SourceDetails.ReaderWrites;
import org.sobercompass.core.findings.details.SourceDetails.Sort;

/** What is said of what is around applications and directories. */
final class SourceWords {
  private SourceWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(PasswordInClear.class, SourceWords::passwordInClear)
        .on(ReaderWrites.class, SourceWords::readerWrites)
        .on(NoEmergencyAccount.class, SourceWords::noEmergencyAccount)
        .on(EmergencyUntested.class, SourceWords::emergencyUntested)
        .on(NoOwner.class, SourceWords::noOwner)
        .on(OwnerGone.class, SourceWords::ownerGone);
  }

  /** The weight of all these comes from what they are. */
  private static Said said(Naming names, String sentence, String advice) {
    return new Said(List.of(names.kind().words()), sentence, advice);
  }

  private static Said passwordInClear(Naming names, PasswordInClear about) {
    Reader reader = about.reader();
    return said(
        names,
        "the password of "
            + reader.name()
            + ", by which "
            + reader.whose()
            + " reads "
            + reader.directory()
            + ", is sent in clear",
        "let " + reader.whose() + " connect with TLS, then set a new password");
  }

  private static Said readerWrites(Naming names, ReaderWrites about) {
    Reader reader = about.reader();
    return said(
        names,
        names.subject(reader.account())
            + " only has to read "
            + reader.directory()
            + " for "
            + reader.whose()
            + ", but can do more: "
            + besides(about.first()),
        "let it read with an account that can only read");
  }

  /** What an account can do besides reading. */
  static String besides(Besides besides) {
    if (besides instanceof Besides.ToObject act) {
      return act.action() + ": " + act.object();
    }
    Besides.ByRole role = (Besides.ByRole) besides;
    return String.join(", ", role.actions())
        + " over "
        + role.over()
        + ", by the admin role "
        + role.role();
  }

  private static Said noEmergencyAccount(Naming names, NoEmergencyAccount about) {
    return said(
        names,
        names.system(about.system())
            + " has no emergency account: nobody gets in without "
            + names.view(about.system()).system().sight().directory(),
        "keep an account in the application, sealed, and write down when it was tried");
  }

  private static Said emergencyUntested(Naming names, EmergencyUntested about) {
    String tried =
        about
            .days()
            .map(
                days ->
                    days < 0
                        ? " is said to have been tried on "
                            + about.tried().orElseThrow()
                            + ", which is still to come"
                        : " was last tried " + days + " days ago")
            .orElse(" was never tried");
    return said(
        names,
        "the emergency account " + about.account() + " of " + names.system(about.system()) + tried,
        "sign in with it once, and write down the date");
  }

  private static Said noOwner(Naming names, NoOwner about) {
    return said(
        names,
        "nobody is responsible for " + owned(about.sort(), about.name()),
        "name an owner: an account or group that exists");
  }

  private static Said ownerGone(Naming names, OwnerGone about) {
    return said(
        names,
        names.subject(about.owner())
            + " is the owner of "
            + owned(about.sort(), about.name())
            + " and is "
            + (about.isDisabled() ? "disabled" : "expired"),
        "name an owner whose account works");
  }

  private static String owned(Sort sort, String name) {
    return switch (sort) {
      case APPLICATION -> "the application " + name;
      case SCOPE -> "the admin scope " + name;
      case GROUP -> "the group " + name + ", which carries rights";
    };
  }
}
