package org.sobercompass.report.findings;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.details.Strength;
import org.sobercompass.core.findings.details.Who;
import org.sobercompass.core.system.Grant;

/**
 * The names of what a finding is about, in the model in which it was found.
 *
 * @param model what the numbers refer to
 * @param kind the kind of the finding
 */
record Naming(AccessModel model, FindingKind kind) {
  SystemView view(int system) {
    return model.systems().get(system);
  }

  /** An application by name. */
  String system(int system) {
    return view(system).system().name();
  }

  /** A subject by display name and login. */
  String subject(int subject) {
    return Words.subject(model.facts(), subject);
  }

  /** A group or unit by its label. */
  String label(int subject) {
    return model.facts().label(subject);
  }

  /** The name of a role that is granted. */
  String role(int system, Grant grant) {
    return view(system).system().roles().get(grant.role()).name();
  }

  String right(int system, int right) {
    return view(system).rights().text(right);
  }

  List<String> rights(int system, List<Integer> rights) {
    return rights.stream().map(right -> right(system, right)).toList();
  }

  /** "the role X of Application to Y at Z". */
  String describe(int system, Grant grant) {
    SystemView view = view(system);
    String place = Words.place(view, grant);
    String where =
        view.resources().size() == 1
            ? ""
            : place.equals("everywhere") ? ", everywhere" : " at " + place;
    return "the role "
        + role(system, grant)
        + " of "
        + system(system)
        + " to "
        + Words.trustee(model.facts(), grant)
        + where;
  }

  /** Where an assignment is stated, what it is, and from when until when. */
  String line(int system, Grant grant) {
    String by = grant.grantedBy().isEmpty() ? "" : ", given by " + grant.grantedBy();
    String why = grant.reason().isEmpty() ? "" : ", because: " + grant.reason();
    String off = grant.on() ? "" : ", switched off";
    return grant.place()
        + ": "
        + describe(system, grant)
        + window(grant.from(), grant.until())
        + off
        + by
        + why;
  }

  /** A window, as instants in UTC: there is no zone here. */
  static String window(long from, long until) {
    String begins = from == Long.MIN_VALUE ? "" : ", from " + Instant.ofEpochSecond(from);
    String ends = until == Long.MAX_VALUE ? "" : ", before " + Instant.ofEpochSecond(until);
    return begins + ends;
  }

  /** One account by name, several by their number. */
  String who(Who who) {
    return who.count() == 1 ? subject(who.first()) : who.count() + " accounts";
  }

  /** A chain of names. */
  static String chain(List<String> names) {
    return String.join(" → ", names);
  }

  String chainOf(List<Integer> subjects) {
    return chain(subjects.stream().map(this::subject).toList());
  }

  /** Steps by which a power comes within reach. */
  List<String> steps(List<Reach.Step> steps) {
    List<String> parts = new ArrayList<>();
    for (Reach.Step step : steps) {
      String to = subject(step.to());
      parts.add(step.action().map(action -> action.name() + ": " + to).orElse("is in " + to));
    }
    return parts;
  }

  /** How much a role gives, as a reason for a weight. */
  static String strength(Strength strength) {
    int strongest = strength.strongest();
    return strongest > 0
        ? "it gives " + Words.count(strongest, "right", "rights") + " of the strongest kind"
        : strength.isAboveLowest()
            ? "it gives more than the lowest level"
            : "it gives the lowest level only";
  }
}
