package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.DelegationDetails.Claimed;
import org.sobercompass.core.findings.details.DelegationDetails.Given;
import org.sobercompass.core.findings.details.DelegationDetails.ToEmptyGroup;
import org.sobercompass.core.findings.details.DelegationDetails.ToEveryone;
import org.sobercompass.core.findings.details.DelegationDetails.ToMany;
import org.sobercompass.core.findings.details.DelegationDetails.ToNobody;
import org.sobercompass.core.findings.details.DelegationDetails.ToPerson;
import org.sobercompass.core.findings.details.Details;

/** What is said of what was delegated in lists of directory objects. */
final class DelegationWords {
  private DelegationWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(ToPerson.class, DelegationWords::toPerson)
        .on(ToEveryone.class, DelegationWords::toEveryone)
        .on(ToMany.class, DelegationWords::toMany)
        .on(ToEmptyGroup.class, DelegationWords::toEmptyGroup)
        .on(ToNobody.class, DelegationWords::toNobody)
        .on(Claimed.class, DelegationWords::claimed);
  }

  /** What is delegated, where, and on how many objects more. */
  private static String what(Given most, int objects) {
    String more =
        objects == 1
            ? ""
            : ", and more on " + Words.count(objects - 1, "further object", "further objects");
    return most.may() + ", on " + place(most.object(), most.directory()) + more;
  }

  /** An object, or the whole directory. */
  static String place(String object, String directory) {
    return object.isEmpty() ? "the whole directory " + directory : object;
  }

  private static List<String> why(Given most, int objects) {
    List<String> why = new ArrayList<>(List.of(strength(most)));
    if (objects > 1) {
      why.add("on " + Words.count(objects, "object", "objects"));
    }
    return why;
  }

  private static List<String> why(Given most, int objects, String last) {
    List<String> why = why(most, objects);
    why.add(last);
    return why;
  }

  private static String strength(Given most) {
    String reach =
        most.below() == 0
            ? ""
            : ", with " + Words.count(most.below(), "object", "objects") + " below";
    return switch (most.weight()) {
          case 2 -> "who can do that has the object itself";
          case 1 -> "it gives much";
          default -> "it gives little";
        }
        + reach;
  }

  private static Said toPerson(Naming names, ToPerson about) {
    List<String> why = new ArrayList<>(List.of("it follows the person, not the task"));
    why.addAll(why(about.most(), about.objects()));
    return new Said(
        why,
        "delegated to a person instead of a group: "
            + what(about.most(), about.objects())
            + ", to "
            + about.most().trustee(),
        "give it to a group of those who do the task, and take these entries out");
  }

  private static Said toEveryone(Naming names, ToEveryone about) {
    String reached = "it reaches " + Words.count(about.reached(), "account", "accounts");
    return new Said(
        why(about.most(), about.objects(), reached),
        "delegated to " + about.most().trustee() + ": " + what(about.most(), about.objects()),
        "give it to the groups that need it, and take these entries out");
  }

  private static Said toMany(Naming names, ToMany about) {
    String share =
        about.inside() + " of the " + about.accounts() + " accounts of " + about.most().directory();
    return new Said(
        why(about.most(), about.objects(), share),
        "delegated to a group with "
            + Words.count(about.inside(), "member", "members")
            + ": "
            + what(about.most(), about.objects())
            + ", to "
            + about.most().trustee(),
        "give it to a group of those who do the task, and take these entries out");
  }

  private static Said toEmptyGroup(Naming names, ToEmptyGroup about) {
    return new Said(
        why(about.most(), about.objects()),
        "the group "
            + about.most().trustee()
            + " is empty and is delegated: "
            + what(about.most(), about.objects())
            + "; its next member gets that",
        "take these entries out, or put somebody in");
  }

  private static Said toNobody(Naming names, ToNobody about) {
    return new Said(
        why(about.most(), about.objects()),
        "delegated to "
            + about.most().sid()
            + ", who is in no directory: "
            + what(about.most(), about.objects())
            + "; whoever gets that id next gets the right",
        "take these entries out");
  }

  private static Said claimed(Naming names, Claimed about) {
    Given most = about.most();
    boolean one = about.entries() == 1;
    return new Said(
        List.of("it counts, and no list above shows it", strength(most)),
        place(most.object(), most.directory())
            + " has "
            + (one ? "an entry that claims" : "entries that claim")
            + " to be inherited, and nothing above hands "
            + (one ? "it" : "them")
            + " on ("
            + most.trustee()
            + ": "
            + most.may()
            + ")",
        "take " + (one ? "it" : "them") + " out, or give the same in so many words");
  }
}
