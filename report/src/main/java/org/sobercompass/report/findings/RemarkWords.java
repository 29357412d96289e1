package org.sobercompass.report.findings;

import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.system.remark.ListedEntry;
import org.sobercompass.core.system.remark.Remarked;
import org.sobercompass.core.system.remark.RemarkedDatabase.CreatesRoles;
import org.sobercompass.core.system.remark.RemarkedDatabase.MayBecomeSuperuser;
import org.sobercompass.core.system.remark.RemarkedDatabase.MaySwitch;
import org.sobercompass.core.system.remark.RemarkedDatabase.OpenToAll;
import org.sobercompass.core.system.remark.RemarkedDatabase.OutOfReach;
import org.sobercompass.core.system.remark.RemarkedDatabase.RightsOn;
import org.sobercompass.core.system.remark.RemarkedDatabase.UsesServerFiles;
import org.sobercompass.core.system.remark.RemarkedFiles.BlockedInVain;
import org.sobercompass.core.system.remark.RemarkedFiles.Claimed;
import org.sobercompass.core.system.remark.RemarkedFiles.DenyAfterAllow;
import org.sobercompass.core.system.remark.RemarkedFiles.EarlierId;
import org.sobercompass.core.system.remark.RemarkedFiles.ForPerson;
import org.sobercompass.core.system.remark.RemarkedFiles.Masked;
import org.sobercompass.core.system.remark.RemarkedFiles.MissingTrustee;
import org.sobercompass.core.system.remark.RemarkedFiles.NotHandedOn;
import org.sobercompass.core.system.remark.RemarkedFiles.OwnedByOther;
import org.sobercompass.core.system.remark.RemarkedFiles.ShareLimits;
import org.sobercompass.core.system.remark.RemarkedFiles.WritableByAll;

/** What is said of what systems remark on their own facts. */
final class RemarkWords {
  /** So many of those who can become a member are named. */
  private static final int NAMED = 4;

  private RemarkWords() {}

  /** What is wrong, and what to do; one sentence each, without a full stop. */
  record Text(String sentence, String advice) {}

  static ByType<Place, Remarked, Text> all() {
    ByType<Place, Remarked, Text> all = new ByType<>();
    all.on(MissingTrustee.class, RemarkWords::missingTrustee)
        .on(EarlierId.class, RemarkWords::earlierId)
        .on(DenyAfterAllow.class, RemarkWords::denyAfterAllow)
        .on(ForPerson.class, RemarkWords::forPerson)
        .on(Claimed.class, RemarkWords::claimed)
        .on(NotHandedOn.class, RemarkWords::notHandedOn)
        .on(BlockedInVain.class, RemarkWords::blockedInVain)
        .on(OwnedByOther.class, RemarkWords::ownedByOther)
        .on(Masked.class, RemarkWords::masked)
        .on(WritableByAll.class, RemarkWords::writableByAll)
        .on(ShareLimits.class, RemarkWords::shareLimits);
    return all.on(OpenToAll.class, RemarkWords::openToAll)
        .on(OutOfReach.class, RemarkWords::outOfReach)
        .on(CreatesRoles.class, RemarkWords::createsRoles)
        .on(UsesServerFiles.class, RemarkWords::usesServerFiles)
        .on(MaySwitch.class, RemarkWords::maySwitch)
        .on(MayBecomeSuperuser.class, RemarkWords::mayBecomeSuperuser);
  }

  private static String entries(List<ListedEntry> entries) {
    return String.join("; ", entries.stream().map(ListWords::entry).toList());
  }

  private static Text missingTrustee(Place at, MissingTrustee about) {
    return new Text(
        about.trustee()
            + ", who is in no directory, "
            + (about.owns() ? "owns " : "has an entry at ")
            + at.path()
            + "; whoever gets that id next gets the right",
        about.owns()
            ? "give it another owner"
            : "remove the entry, or read the directory that the account is of");
  }

  private static Text earlierId(Place at, EarlierId about) {
    return new Text(
        about.trustee()
            + " still has access to "
            + at.path()
            + " through "
            + about.id()
            + ", an id kept from a former directory",
        "name " + about.trustee() + " itself in the entry, then take the former id away from it");
  }

  private static Text denyAfterAllow(Place at, DenyAfterAllow about) {
    return new Text(
        "on "
            + at.path()
            + " the entry that denies "
            + whom(about.deny())
            + " stands after one that allows "
            + whom(about.allow())
            + ", so it has no effect on that",
        "put what is denied first, or take the entry out if the other is meant");
  }

  private static String whom(ListedEntry entry) {
    return entry.trustee() + " " + entry.rights();
  }

  private static Text forPerson(Place at, ForPerson about) {
    String others =
        about.more() == 0 ? "" : ", and " + Words.count(about.more(), "more entry", "more entries");
    return new Text(
        "an entry for a person instead of a group: "
            + about.entry().trustee()
            + " may "
            + about.entry().rights()
            + " at "
            + at.path()
            + others,
        "give it to a group of those who do the task, and take the entry out");
  }

  private static Text claimed(Place at, Claimed about) {
    int entries = about.entries().size();
    return new Text(
        at.path()
            + " has "
            + (entries == 1 ? "an entry that claims" : entries + " entries that claim")
            + " to be inherited, and nothing above hands "
            + (entries == 1 ? "it" : "them")
            + " on ("
            + entries(about.entries())
            + ")",
        "let the folder take its inherited entries anew from above, or set the entry there openly");
  }

  private static Text notHandedOn(Place at, NotHandedOn about) {
    String above = at.path(about.above());
    return new Text(
        at.path() + " did not get what " + above + " hands on (" + entries(about.entries()) + ")",
        "let " + above + " hand its entries on again");
  }

  private static Text blockedInVain(Place at, BlockedInVain about) {
    String above = at.path(about.above());
    return new Text(
        at.path()
            + " blocks inheritance to keep people out, but everyone may delete it from "
            + above,
        "take delete-child on " + above + " away from everyone");
  }

  private static Text ownedByOther(Place at, OwnedByOther about) {
    return new Text(
        about.owner() + " owns " + at.path() + " and may give rights on it to anybody",
        "give the folder to the administrators");
  }

  private static Text masked(Place at, Masked about) {
    return new Text(
        "on "
            + at.path()
            + " the mask limits what entries give: "
            + String.join("; ", about.entries().stream().map(RemarkWords::whom).toList()),
        "set the mask to what is meant, or the entries to what the mask leaves");
  }

  private static Text writableByAll(Place at, WritableByAll about) {
    return new Text(
        "everyone may write " + at.path(),
        "let only the groups that need it write, and take the entry away");
  }

  private static Text shareLimits(Place at, ShareLimits about) {
    String whom = about.entry().trustee();
    String largest =
        about.allows().isPresent() ? at.right(about.allows().getAsInt()) : "less than read";
    return new Text(
        at.path()
            + " gives "
            + whom(about.entry())
            + ", but the share "
            + about.share()
            + (about.allowsNothing() ? " allows nothing" : " allows only " + largest),
        "give " + whom + " the same on the share, or no more than that on the folder");
  }

  private static String on(Place at, RightsOn rights) {
    return rights.rights() + " on " + at.path(rights.resource());
  }

  private static Text openToAll(Place at, OpenToAll about) {
    return new Text(
        "every role of the database has rights in "
            + at.path(about.schema())
            + ": "
            + on(at, about.first()),
        "revoke them from PUBLIC, and grant them to the roles that need them");
  }

  private static Text outOfReach(Place at, OutOfReach about) {
    return new Text(
        "the role "
            + about.role()
            + " was granted "
            + on(at, about.first())
            + ", but may not use the schema "
            + at.path(about.schema())
            + " or connect",
        "grant usage of the schema, or revoke what cannot be used");
  }

  private static Text createsRoles(Place at, CreatesRoles about) {
    return new Text(
        "the role "
            + about.role()
            + " may create roles, and so "
            + (about.reachesAll()
                ? "give itself every role but a superuser's, also those that reach"
                    + " the server's files, and set their passwords"
                : "give itself those over which it has the admin option"),
        "let superusers create roles, or say who may do so and why");
  }

  private static Text usesServerFiles(Place at, UsesServerFiles about) {
    return new Text(
        "the role "
            + about.member()
            + " is a member of "
            + about.role()
            + ", which "
            + about.how()
            + also(about.member(), about.others()),
        revoke(about.member(), about.role()));
  }

  private static Text maySwitch(Place at, MaySwitch about) {
    return new Text(
        switches(about.member(), about.role())
            + " and then has its rights, although it does not inherit them",
        revoke(about.member(), about.role()));
  }

  private static Text mayBecomeSuperuser(Place at, MayBecomeSuperuser about) {
    return new Text(
        switches(about.member(), about.role())
            + ", a superuser, who may do everything"
            + also(about.member(), about.others()),
        revoke(about.member(), about.role()));
  }

  private static String switches(String member, String role) {
    return "the role " + member + " may switch to " + role;
  }

  private static String revoke(String member, String role) {
    return "revoke " + role + " from " + member + ", or say who may do so and why";
  }

  /** Who else can do it, because they can become the member. */
  private static String also(String member, List<String> others) {
    int more = others.size() - NAMED;
    return others.isEmpty()
        ? ""
        : "; so may "
            + String.join(", ", others.stream().limit(NAMED).toList())
            + (more > 0 ? " and " + more + " more" : "")
            + ", who can become "
            + member;
  }
}
