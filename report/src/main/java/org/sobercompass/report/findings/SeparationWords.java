package org.sobercompass.report.findings;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.findings.details.SeparationDetails.Close;
import org.sobercompass.core.findings.details.SeparationDetails.Conflict;
import org.sobercompass.core.findings.details.SeparationDetails.ConflictingRole;
import org.sobercompass.core.findings.details.SeparationDetails.Missing;
import org.sobercompass.core.findings.details.SeparationDetails.Near;
import org.sobercompass.core.findings.details.SeparationDetails.RoleOf;
import org.sobercompass.core.findings.details.SeparationDetails.Rule;
import org.sobercompass.core.findings.details.SeparationDetails.Together;

/** What is said of separation of duties. */
final class SeparationWords {
  private SeparationWords() {}

  static void add(ByType<Naming, Details, Said> to) {
    to.on(Conflict.class, SeparationWords::conflict)
        .on(Close.class, SeparationWords::close)
        .on(ConflictingRole.class, SeparationWords::conflictingRole);
  }

  private static String says(Rule rule) {
    return "the rule " + rule.id() + " says " + rule.weight();
  }

  private static Said conflict(Naming names, Conflict about) {
    Rule rule = about.rule();
    int accounts = about.who().count();
    List<String> why = new ArrayList<>();
    why.add(says(rule));
    why.add(Words.count(accounts, "account is", "accounts are") + " concerned");
    if (rule.near() != Near.ANYWHERE) {
      why.add(
          rule.near() == Near.AT_ONE_NODE
              ? "held at one node"
              : "held at nodes one above the other");
    }
    if (about.strongest() > 0) {
      String sides = about.strongest() == 1 ? " sides is" : " sides are";
      why.add(about.strongest() + " of the " + rule.sides() + sides + " of the strongest kind");
    }
    if (about.assignments() > 0) {
      why.add("it comes by " + Words.count(about.assignments(), "assignment", "assignments"));
    }
    String who =
        accounts == 1 || about.in() == Together.PERSON
            ? names.subject(about.who().first()) + " holds"
            : accounts + " accounts hold";
    return new Said(
        why,
        who + " rights that must be kept apart: " + rule.name() + "; " + together(names, about),
        advice(names, about));
  }

  /** What brings the sides together. */
  private static String together(Naming names, Conflict about) {
    return switch (about.in()) {
      case ROLE -> role(names, about.role().orElseThrow()) + " has both by itself";
      case EVERYONE -> "everyone gets both";
      case GROUP -> "every member of " + names.label(about.subject()) + " gets both";
      case UNIT -> "every account in " + names.label(about.subject()) + " gets both";
      case ACCOUNT -> "this account has both by itself";
      case PERSON -> "they come together in " + about.ofPerson() + " accounts of one person";
    };
  }

  private static String role(Naming names, RoleOf role) {
    return "the role "
        + names.view(role.system()).system().roles().get(role.role()).name()
        + " of "
        + names.system(role.system());
  }

  private static String advice(Naming names, Conflict about) {
    return switch (about.in()) {
      case ROLE -> "split the role, so that each part can be given to somebody else";
      case EVERYONE -> "give one side to the groups that need it, instead of everyone";
      case GROUP -> "take one side away from the group " + names.label(about.subject());
      case UNIT -> "take one side away from the unit " + names.label(about.subject());
      case ACCOUNT, PERSON -> "take one side away from the account: end one of its routes";
    };
  }

  private static Said close(Naming names, Close about) {
    Set<String> missing = new LinkedHashSet<>();
    about.missing().forEach(one -> missing.add(missing(names, one)));
    List<String> why = new ArrayList<>();
    why.add(says(about.rule()));
    why.add("not a conflict yet: one step less");
    why.addAll(missing);
    return new Said(
        why,
        names.subject(about.account())
            + " holds one of the rights that must be kept apart and is close to the other: "
            + about.rule().name()
            + (missing.isEmpty() ? "" : "; " + missing.iterator().next()),
        "take this right away before the other is added, or decide that the other is never added");
  }

  private static String missing(Naming names, Missing missing) {
    if (missing instanceof Missing.ActUnknown act) {
      return "it is not known whether it can " + act.action();
    }
    if (missing instanceof Missing.HoldingUnknown holding) {
      return "in " + names.system(holding.system()) + " it is not known whether it is held";
    }
    if (missing instanceof Missing.Blocked blocked) {
      return "in "
          + names.system(blocked.system())
          + ": "
          + String.join(", ", blocked.standing().reasons());
    }
    return "it could give itself the other side";
  }

  private static Said conflictingRole(Naming names, ConflictingRole about) {
    return new Said(
        List.of(says(about.rule()), "nobody holds it today"),
        role(names, about.role())
            + " contains rights that must be kept apart: "
            + about.rule().name()
            + "; nobody holds it yet",
        "split the role before somebody is given it, or delete it");
  }
}
