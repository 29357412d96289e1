package org.sobercompass.report.findings;

import java.util.List;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.UseDetails.HardlyUsed;
import org.sobercompass.core.findings.details.UseDetails.Outlier;
import org.sobercompass.core.findings.details.UseDetails.Unused;

/** What is said of what is not used, and of what hardly anybody holds. */
final class UseWords {
  private UseWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(Unused.class, UseWords::unused)
        .on(HardlyUsed.class, UseWords::hardlyUsed)
        .on(Outlier.class, UseWords::outlier);
  }

  private static Said unused(Naming names, Unused about) {
    int all = about.all();
    int unused = about.unused();
    boolean nobody = unused == all;
    String accounts = "the " + all + " accounts that are given it";
    String whom =
        all == 1
            ? "the only account that is given it"
            : nobody ? "none of " + accounts : unused + " of " + accounts;
    String verb =
        nobody && all > 1 ? " has used " : unused == 1 ? " has not used " : " have not used ";
    return new Said(
        List.of(Naming.strength(about.strength()), "no use in " + about.days() + " days"),
        whom
            + verb
            + names.describe(about.system(), about.grant())
            + ", for "
            + about.days()
            + " days",
        nobody
            ? "withdraw it, after asking those who have it"
            : "ask those who do not use it, then take them out of the group that gives it");
  }

  private static Said hardlyUsed(Naming names, HardlyUsed about) {
    String id = names.view(about.system()).id();
    String role = names.view(about.system()).system().roles().get(about.role()).name();
    return new Said(
        List.of(
            about.used() + " of " + about.all() + " permissions used in " + about.days() + " days",
            "below " + about.percent() + " %"),
        names.subject(about.account())
            + " uses "
            + about.used()
            + " of the "
            + about.all()
            + " permissions of the role "
            + role
            + " of "
            + names.system(about.system()),
        "a smaller role would do: sober fit " + id + " names those that would");
  }

  private static Said outlier(Naming names, Outlier about) {
    List<Integer> accounts = about.accounts();
    int most = about.most();
    int peers = about.peers();
    String who =
        accounts.size() == 1
            ? names.subject(accounts.get(0)) + " holds "
            : accounts.size() + " accounts hold ";
    return new Said(
        List.of(
            most + " of " + peers + " peers hold it (" + 100 * most / peers + " %)",
            "peers: " + about.values()),
        who
            + String.join(", ", names.rights(about.system(), about.rights()))
            + " of "
            + names.system(about.system())
            + ", as "
            + (most == accounts.size() ? "no other" : "hardly any other")
            + " of "
            + peers
            + " peers does",
        "take it away, or say what is different about the task");
  }
}
