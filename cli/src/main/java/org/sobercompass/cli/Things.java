package org.sobercompass.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.comparison.Reading;
import org.sobercompass.core.findings.PowerfulGrants;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.organization.Names;
import org.sobercompass.report.answers.PreviewAnswers;
import org.sobercompass.report.answers.TimelineAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.page.Section;
import org.sobercompass.report.page.Thing;
import org.sobercompass.report.picture.TimeDrawing;

/** What a page is about, as it is typed: a kind, then the names that kind takes, any number. */
final class Things {
  /** How many names each kind takes. */
  private static final Map<String, Integer> KINDS = new LinkedHashMap<>();

  static {
    for (String one :
        List.of("account", "group", "unit", "application", "permission", "scope", "proposal")) {
      KINDS.put(one, 1);
    }
    KINDS.put("changes", 1);
    KINDS.put("role", 2);
    KINDS.put("node", 2);
    KINDS.put("carry", 2);
    KINDS.put("timeline", 0);
  }

  private final Inputs inputs;

  Things(Inputs inputs) {
    this.inputs = inputs;
  }

  /**
   * Resolves what was typed.
   *
   * @throws UsageException when a kind is none, or has too few names
   */
  List<Thing> of(List<String> typed) {
    List<Thing> things = new ArrayList<>();
    for (int at = 0; at < typed.size(); ) {
      String kind = typed.get(at);
      Integer takes = KINDS.get(kind);
      if (takes == null) {
        throw new UsageException(
            "there is no page of "
                + kind
                + Spelling.hint(kind, List.copyOf(KINDS.keySet()))
                + "\nexpected "
                + String.join(", ", KINDS.keySet())
                + ", each with its name");
      }
      if (kind.equals("changes")
          && (at + 1 == typed.size() || KINDS.containsKey(typed.get(at + 1)))) {
        takes = 0;
      }
      if (at + takes >= typed.size()) {
        throw new UsageException(
            kind
                + " takes "
                + (takes == 1 ? "a name" : "an application and a name")
                + ", as in: sober report page.html "
                + (takes == 1 ? kind + " NAME" : kind + " orders NAME"));
      }
      things.add(thing(kind, typed.subList(at + 1, at + 1 + takes)));
      at += 1 + takes;
    }
    return things;
  }

  private Thing thing(String kind, List<String> names) {
    Names known = inputs.names();
    return switch (kind) {
      case "account" -> new Thing.Account(known.account(names.get(0)));
      case "group" -> new Thing.Group(known.group(names.get(0)));
      case "unit" -> new Thing.Unit(known.subject("unit " + names.get(0)));
      case "application" -> new Thing.Application(known.application(names.get(0)));
      case "scope" -> new Thing.Scope(known.acts().scope(names.get(0)));
      case "permission" -> {
        Asked.Use use = known.permission(names.get(0));
        yield new Thing.Permission(use.view(), use.right(), use.question().resource());
      }
      case "role" -> {
        SystemView view = known.application(names.get(0));
        yield new Thing.Role(view, known.role(view, names.get(1)));
      }
      case "node" -> {
        SystemView view = known.application(names.get(0));
        yield new Thing.Place(view, known.node(view, names.get(1)));
      }
      case "changes" -> {
        List<AnswerTable> parts = new SurveyComparison(inputs, List.of(), false).tables(names);
        yield new Thing.Answered("What changed", parts, List.of(), "sober compare surveys -f csv");
      }
      case "carry" -> carry(names.get(0), names.get(1));
      case "timeline" -> timeline();
      default -> proposal(names.get(0));
    };
  }

  private Thing carry(String from, String to) {
    Matching matching = new Matching(inputs, from, to);
    CarryPlan plan = CarryPlan.USUAL.leaving(new PowerfulGrants(inputs.assessment()));
    CarryingOver over = new CarryingOver(inputs, matching, plan, false, false);
    return new Thing.Answered(
        "Carried over from " + from + " to " + to,
        over.whole(inputs, matching),
        List.of(),
        "sober carry " + from + " " + to + " -f csv");
  }

  private Thing timeline() {
    Map<String, Reading> readings = new SurveyComparison(inputs, List.of(), false).readings();
    AnswerTable table = TimelineAnswers.of(inputs.judgedAsk(), readings);
    Section.Picture picture =
        new Section.Picture(
            "Findings by weight, and powerful accounts.",
            TimeDrawing.draw(readings, inputs.workspace().zone()));
    return new Thing.Answered(
        "Over time", List.of(table), List.of(picture), "sober compare timeline");
  }

  private Thing proposal(String file) {
    Path typed = Path.of(file);
    Path path = Files.exists(typed) ? typed : inputs.root.resolve(typed);
    Bound bound = inputs.organization().proposal(path, file).on(inputs.assessment().model());
    List<AnswerTable> parts =
        new PreviewAnswers(inputs.judgedAsk(), inputs.assessment())
            .brief(bound, inputs.organization().preview(bound.changes()));
    return new Thing.Answered(
        "The proposal " + file, parts, List.of(), "sober preview " + file + " -f csv");
  }
}
