package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.GroupDetails.Circle;
import org.sobercompass.core.findings.details.GroupDetails.DeepNesting;
import org.sobercompass.core.findings.details.GroupDetails.MissingMembers;

/** What is said of groups that carry rights. */
final class GroupWords {
  private GroupWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(Circle.class, GroupWords::circle)
        .on(MissingMembers.class, GroupWords::missingMembers)
        .on(DeepNesting.class, GroupWords::deepNesting);
  }

  private static Said circle(Naming names, Circle about) {
    int first = about.groups().get(0);
    int last = about.groups().get(about.groups().size() - 1);
    return new Said(
        List.of("whoever may edit one of them hands out the rights of all"),
        "groups contain each other and carry rights: " + chain(names, about.groups()),
        "take "
            + names.label(last)
            + " out of "
            + names.label(first)
            + ", after looking who would lose what");
  }

  /** A circle of groups, back to the first. */
  static String chain(Naming names, List<Integer> groups) {
    List<String> labels = new ArrayList<>(groups.stream().map(names::label).toList());
    labels.add(labels.get(0));
    return Naming.chain(labels);
  }

  private static Said missingMembers(Naming names, MissingMembers about) {
    return new Said(
        List.of("whoever gets that name next gets the rights of the group"),
        "the group "
            + names.label(about.group())
            + " carries rights and lists "
            + Words.count(
                about.missing(), "member that does not exist", "members that do not exist"),
        "take the missing members out of the group");
  }

  private static Said deepNesting(Naming names, DeepNesting about) {
    String group = names.label(about.group());
    return new Said(
        List.of(
            "up to " + about.deepest() + " memberships one after the other",
            "more than " + about.limit()),
        Words.count(about.accounts(), "account gets", "accounts get")
            + " the rights of "
            + group
            + " in "
            + String.join(", ", about.systems().stream().map(names::system).toList())
            + " through "
            + about.deepest()
            + " nested memberships",
        "put them, or a group of them, into " + group + " itself");
  }
}
