package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.ListDetails.CoveredEntry;
import org.sobercompass.core.findings.details.ListDetails.FormerId;
import org.sobercompass.core.findings.details.ListDetails.NotHandedOn;
import org.sobercompass.core.findings.details.ListDetails.OfSystem;
import org.sobercompass.core.findings.details.ListDetails.OpenToAll;
import org.sobercompass.core.findings.details.ListDetails.Order;
import org.sobercompass.core.findings.details.ListDetails.PersonOwns;
import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.remark.ListedEntry;

/** What is said of lists of files, databases and directory objects. */
final class ListWords {
  private ListWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(OfSystem.class, ListWords::ofSystem)
        .on(OpenToAll.class, ListWords::openToAll)
        .on(FormerId.class, ListWords::formerId)
        .on(CoveredEntry.class, ListWords::coveredEntry)
        .on(NotHandedOn.class, ListWords::notHandedOn)
        .on(Order.class, ListWords::order)
        .on(PersonOwns.class, ListWords::personOwns);
  }

  /** An entry of a list: whose it is, and what it says. */
  static String entry(ListedEntry entry) {
    return entry.trustee() + ": " + entry.rights();
  }

  /** What a system remarks on its own facts: why it weighs what it does is what it is. */
  private static Said ofSystem(Naming names, OfSystem about) {
    Remark remark = about.remark();
    Place place = new Place(names, about.system(), remark.resource());
    RemarkWords.Text text = FindingWords.REMARKS.of(place, remark.about());
    List<String> why = new ArrayList<>(List.of(names.kind().words()));
    String also = "";
    if (remark.also() > 0) {
      String same = "the same on " + Words.count(remark.also(), "further path", "further paths");
      why.add(same);
      also = "; " + same;
    }
    return new Said(why, text.sentence() + also, text.advice());
  }

  private static Said openToAll(Naming names, OpenToAll about) {
    String why =
        about.siblings() == 0
            ? "the workspace calls it sensitive"
            : about.closed() + " of " + about.siblings() + " beside it are not";
    return new Said(
        List.of(why),
        "everyone can read " + about.path() + " of " + names.system(about.system()) + "; " + why,
        "let those read it who need it, or say in the workspace that it is open");
  }

  private static Said formerId(Naming names, FormerId about) {
    return new Said(
        List.of(
            Words.count(about.entries(), "entry names", "entries name") + " it",
            "whoever ran the earlier directory could have given it to anybody"),
        about.bearer()
            + " still has access through "
            + about.sid()
            + ", an id kept from a former directory",
        "name "
            + about.bearer()
            + " itself in these entries, then take the former id away from it");
  }

  private static String also(int objects) {
    return objects == 1
        ? ""
        : "; the same on " + Words.count(objects - 1, "further object", "further objects");
  }

  private static Said coveredEntry(Naming names, CoveredEntry about) {
    return new Said(
        List.of("nothing is denied in the list, so without it the other gives the same"),
        "an entry on "
            + about.object()
            + " changes nothing: another gives the same ("
            + entry(about.entry())
            + ")"
            + also(about.objects()),
        "take it out");
  }

  private static Said notHandedOn(Naming names, NotHandedOn about) {
    return new Said(
        List.of(
            Words.count(about.missing(), "entry", "entries") + " of the list above did not arrive"),
        about.object()
            + " did not get what "
            + about.above()
            + " hands on ("
            + entry(about.first())
            + ")"
            + also(about.objects()),
        "write the list of " + about.above() + " again, so that it is handed on again");
  }

  private static Said order(Naming names, Order about) {
    return new Said(
        List.of(
            "in the usual order "
                + Words.count(about.accounts(), "account", "accounts")
                + " could do other things"),
        "the list of "
            + about.object()
            + " is not in the usual order, and what is allowed and denied depends on it"
            + also(about.objects()),
        "write the list again with what denies first, after looking who would lose what");
  }

  private static Said personOwns(Naming names, PersonOwns about) {
    int more = about.objects() - 1;
    return new Said(
        List.of(
            "an owner may change the permissions, whatever the list says",
            Words.count(about.below(), "object", "objects") + " below"),
        names.subject(about.account())
            + " owns "
            + about.object()
            + (more == 0 ? "" : " and " + Words.count(more, "further object", "further objects"))
            + " and may give rights on "
            + (more == 0 ? "it" : "them")
            + " to anybody",
        "give the ownership to the administrators of the directory");
  }
}
