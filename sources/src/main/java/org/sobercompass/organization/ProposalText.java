package org.sobercompass.organization;

import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;

/** Proposals as YAML that {@link ProposalFile} reads: stable keys, with names for people. */
final class ProposalText {
  private final AccessModel model;

  ProposalText(AccessModel model) {
    this.model = model;
  }

  /** The text of a file. */
  String of(Proposal proposal) {
    StringBuilder text =
        new StringBuilder(
            "# A proposal. sober preview shows what it would do, also on a newer survey.\n");
    if (!proposal.name().isEmpty()) {
      text.append("name: ").append(quoted(proposal.name())).append('\n');
    }
    text.append("changes:\n");
    for (Step step : proposal.steps()) {
      text.append("  - ").append(line(step)).append('\n');
    }
    return text.toString();
  }

  private String line(Step step) {
    return step.fold(
        join -> "join: " + membership(join.member(), join.group()),
        leave -> "leave: " + membership(leave.member(), leave.group()),
        assign -> "assign: " + assignment(assign.what()),
        withdraw -> "withdraw: " + assignment(withdraw.what()));
  }

  private String membership(Key member, Key group) {
    return "{member: "
        + quoted(member.text())
        + ", group: "
        + quoted(group.text())
        + ", name: "
        + quoted(name(member) + " in " + name(group))
        + "}";
  }

  private String assignment(Assignment what) {
    return "{application: "
        + quoted(what.application())
        + ", role: "
        + quoted(what.role())
        + ", to: "
        + quoted(what.subject().text())
        + ", at: "
        + quoted(what.node())
        + (what.below() ? "" : ", below: no")
        + what.from().map(at -> ", from: " + at).orElse("")
        + what.until().map(at -> ", until: " + at).orElse("")
        + ", name: "
        + quoted(name(what.subject()))
        + "}";
  }

  private String name(Key key) {
    return model.facts().find(key).map(s -> Words.subject(model.facts(), s)).orElse(key.text());
  }

  /** A double-quoted scalar of YAML. */
  private static String quoted(String text) {
    StringBuilder out = new StringBuilder("\"");
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '"' || c == '\\') {
        out.append('\\').append(c);
      } else if (c < ' ' || c == 0x7f) {
        out.append(String.format("\\x%02x", (int) c));
      } else {
        out.append(c);
      }
    }
    return out.append('"').toString();
  }
}
