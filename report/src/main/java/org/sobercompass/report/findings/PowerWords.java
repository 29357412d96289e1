package org.sobercompass.report.findings;

import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.PowerDetails.ActsAs;
import org.sobercompass.core.findings.details.PowerDetails.FromAnywhere;
import org.sobercompass.core.findings.details.PowerDetails.InsideScope;
import org.sobercompass.core.findings.details.PowerDetails.NoSecondFactor;
import org.sobercompass.core.findings.details.PowerDetails.OnlyInApplication;
import org.sobercompass.core.findings.details.PowerDetails.OnlyInDirectory;
import org.sobercompass.core.findings.details.PowerDetails.PasswordNeverExpires;
import org.sobercompass.core.findings.details.PowerDetails.WidensScope;
import org.sobercompass.core.findings.details.PowerDetails.WithinReach;
import org.sobercompass.core.findings.details.Who;

/** What is said of powerful accounts, of powers within reach, and of those set over a scope. */
final class PowerWords {
  private PowerWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(PasswordNeverExpires.class, PowerWords::passwordNeverExpires)
        .on(NoSecondFactor.class, PowerWords::noSecondFactor)
        .on(FromAnywhere.class, PowerWords::fromAnywhere)
        .on(OnlyInApplication.class, PowerWords::onlyInApplication)
        .on(OnlyInDirectory.class, PowerWords::onlyInDirectory)
        .on(ActsAs.class, PowerWords::actsAs)
        .on(WithinReach.class, PowerWords::withinReach)
        .on(InsideScope.class, PowerWords::insideScope)
        .on(WidensScope.class, PowerWords::widensScope);
  }

  private static Said passwordNeverExpires(Naming names, PasswordNeverExpires about) {
    return new Said(
        about.powers(),
        names.subject(about.account())
            + " can "
            + String.join(", ", about.powers())
            + ", and its password never expires",
        "let the password expire, or set a new one at fixed dates");
  }

  private static Said noSecondFactor(Naming names, NoSecondFactor about) {
    return new Said(
        about.powers(),
        names.subject(about.account())
            + " administers "
            + names.system(about.system())
            + ", where second factors are registered, without one",
        "register a second factor, or let somebody with one administer it");
  }

  private static Said fromAnywhere(Naming names, FromAnywhere about) {
    return new Said(
        they(about.power()),
        Words.count(about.who().count(), "account that can ", "accounts that can ")
            + about.power()
            + " may sign in from anywhere",
        "name the hosts they may sign in from");
  }

  private static Said onlyInApplication(Naming names, OnlyInApplication about) {
    return new Said(
        they(about.power()),
        some(names, about.who())
            + " can "
            + about.power()
            + (isOne(about.who()) ? " and has" : " and have")
            + " no power over a directory",
        "give the administration of the application to those who run the directory, or say"
            + " why not");
  }

  private static Said onlyInDirectory(Naming names, OnlyInDirectory about) {
    return new Said(
        they(about.power()),
        some(names, about.who())
            + (isOne(about.who()) ? " controls" : " control")
            + " a directory and cannot "
            + about.power(),
        "nothing, if that is intended: they can still gain it through the directory");
  }

  private static List<String> they(String power) {
    return List.of("they can " + power);
  }

  private static boolean isOne(Who who) {
    return who.count() == 1;
  }

  /** The first account by name, and how many more. */
  private static String some(Naming names, Who who) {
    String first = names.subject(who.first());
    return isOne(who)
        ? first
        : first + " and " + Words.count(who.count() - 1, "more account", "more accounts");
  }

  private static Said actsAs(Naming names, ActsAs about) {
    String name = names.subject(about.target());
    return new Said(
        List.of(
            name + " can " + about.power(),
            Words.count(about.who().count(), "account", "accounts")
                + " less powerful can act as it"),
        names.who(about.who())
            + " can act as "
            + name
            + ", who can "
            + about.power()
            + " and so is more powerful",
        "take the administration of "
            + name
            + " from them, or set those over it who hold the power themselves");
  }

  private static Said withinReach(Naming names, WithinReach about) {
    return new Said(
        List.of(
            Words.count(about.who().count(), "account", "accounts")
                + " could, in some steps, "
                + about.power()),
        names.who(about.who())
            + " could come to "
            + about.power()
            + " by steps that are allowed today",
        "break the chain at its first step: sober reach " + about.id() + " lists all of them");
  }

  private static Said insideScope(Naming names, InsideScope about) {
    String be = isOne(about.who()) ? " is" : " are";
    return new Said(
        administrators(about.who()),
        names.who(about.who())
            + be
            + " set over the scope "
            + about.scope()
            + " and"
            + be
            + " in it",
        "add an exception for them to the scope, or let somebody else administer it");
  }

  private static Said widensScope(Naming names, WidensScope about) {
    int more = about.ways() - 1;
    return new Said(
        administrators(about.who()),
        names.who(about.who())
            + (isOne(about.who()) ? " is" : " are")
            + " set over the scope "
            + about.scope()
            + " and can widen it by "
            + about.how()
            + (more == 0 ? "" : ", or in " + Words.count(more, "other way", "other ways")),
        "let others do that, or make the scope of something else");
  }

  private static List<String> administrators(Who who) {
    return List.of(Words.count(who.count(), "administrator", "administrators"));
  }
}
