package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.report.data.AnswerTable;

/** What a proposal would do, in words and tables. Immutable; not thread-safe while it answers. */
public final class PreviewAnswers {
  private final AnswerContext ask;
  private final AdviceWords words;
  private final Facts facts;

  /** Answers about proposals that are laid over what is judged. */
  public PreviewAnswers(AnswerContext ask, Assessment assessment) {
    this.ask = ask;
    this.words = new AdviceWords(assessment, ask.zone());
    this.facts = ask.model().facts();
  }

  /** For a terminal: who gains and loses what, without keys; then findings, then the changes. */
  public List<AnswerTable> brief(Bound bound, Preview preview) {
    AnswerTable.Builder who =
        ask.begin(
            "preview-brief/1", "effect", "login", "name", "application", "permission", "where");
    brief("+ gains", preview.effects().gives(), preview.acts().gives(), who);
    brief("- loses", preview.effects().ends(), preview.acts().ends(), who);
    who.heading(heading(bound, preview));
    List<AnswerTable> all = new ArrayList<>(List.of(who.build()));
    AnswerTable.Builder findings =
        AnswerTable.of("preview-findings/1", "finding", "weight", "kind", "what");
    preview.begin().forEach(f -> brief("begins", f, findings));
    preview.end().forEach(f -> brief("ends", f, findings));
    if (findings.size() > 0) {
      all.add(findings.heading("Findings:").build());
    }
    AnswerTable.Builder steps =
        AnswerTable.of("preview-steps/1", "step", "change")
            .heading(
                bound.made().isEmpty() ? "No step changes anything:" : "The changes, in order:");
    List<String> lines = words.changes(bound.changes());
    for (int i = 0; i < lines.size(); i++) {
      steps.row(bound.made().get(i).step() + 1, FindingAnswers.capital(lines.get(i)));
    }
    for (Bound.Note note : bound.notes()) {
      steps.note("Step " + (note.step() + 1) + ": " + note.what() + ".");
    }
    all.add(ask.finish(steps));
    return all;
  }

  private void brief(String word, List<Effect> effects, List<Act> acts, AnswerTable.Builder sheet) {
    for (Effect e : effects) {
      SystemView view = ask.model().systems().get(e.system());
      sheet.row(
          word,
          facts.login(e.account()),
          facts.label(e.account()),
          view.system().name(),
          view.rights().text(e.right()),
          view.resources().name(e.resource()));
    }
    for (Act a : acts) {
      sheet.row(
          word,
          facts.login(a.account()),
          facts.label(a.account()),
          "",
          a.action().name(),
          a.label());
    }
  }

  private static void brief(String word, Finding finding, AnswerTable.Builder sheet) {
    sheet.row(
        word,
        finding.weight().word(),
        finding.kind().id(),
        FindingAnswers.capital(finding.sentence()));
  }

  /**
   * Who gains and loses what, and which findings begin and end, one row each.
   *
   * @param bound the proposal over the model
   * @param preview what it would do
   */
  public AnswerTable preview(Bound bound, Preview preview) {
    AnswerTable.Builder sheet =
        ask.begin(
            "preview/1",
            "effect",
            "account",
            "login",
            "name",
            "application",
            "permission",
            "where",
            "finding",
            "sentence");
    preview.begin().forEach(f -> finding("finding begins", f, sheet));
    preview.effects().gives().forEach(e -> effect("gains", e, sheet));
    preview.effects().ends().forEach(e -> effect("loses", e, sheet));
    preview.acts().gives().forEach(a -> act("gains", a, sheet));
    preview.acts().ends().forEach(a -> act("loses", a, sheet));
    preview.end().forEach(f -> finding("finding ends", f, sheet));
    sheet.heading(heading(bound, preview));
    for (Bound.Note note : bound.notes()) {
      sheet.note("Step " + (note.step() + 1) + ": " + note.what() + ".");
    }
    return ask.finish(sheet);
  }

  /**
   * Ways to end a holding, side by side, each with what it takes away besides.
   *
   * @param what the holding in words
   * @param ways the removals, the least first
   * @param effects what each would do, in the same order
   */
  public AnswerTable unpick(String what, List<Removal> ways, List<Effects> effects) {
    AnswerTable.Builder sheet =
        ask.begin(
            "unpick/1",
            "way",
            "changes",
            "permissions lost",
            "accounts",
            "permissions gained",
            "proof");
    for (int i = 0; i < ways.size() && !ways.get(i).changes().isEmpty(); i++) {
      Effects own = effects.get(i);
      sheet.row(
          i + 1,
          words.changes(ways.get(i).changes()).stream().map(FindingAnswers::capital).toList(),
          own.ends().size(),
          own.ends().stream().map(Effect::account).distinct().count(),
          own.gives().size(),
          i == 0 ? ways.get(0).result().words() : "another way");
    }
    Removal.Result result = ways.get(0).result();
    String changes =
        AnswerContext.count(ways.get(0).changes().size(), "removal ends", "removals end");
    sheet.heading(
        switch (result) {
          case PROVED_LEAST -> changes + " " + what + "; nothing less does.";
          case BEST_FOUND -> changes + " " + what + "; less may do.";
          case NONE_ENDS_IT ->
              "No removal ends " + what + ": it comes by what cannot be taken out.";
          case GAVE_UP -> "No removal was found that ends " + what + "; there may be one.";
        });
    return ask.finish(sheet);
  }

  private void effect(String word, Effect effect, AnswerTable.Builder sheet) {
    SystemView view = ask.model().systems().get(effect.system());
    sheet.row(
        word,
        facts.key(effect.account()).text(),
        facts.login(effect.account()),
        facts.label(effect.account()),
        view.id(),
        view.rights().text(effect.right()),
        view.resources().id(effect.resource()),
        "",
        "");
  }

  private void act(String word, Act act, AnswerTable.Builder sheet) {
    sheet.row(
        word,
        facts.key(act.account()).text(),
        facts.login(act.account()),
        facts.label(act.account()),
        "",
        act.action().name(),
        act.label(),
        "",
        "");
  }

  private static void finding(String word, Finding finding, AnswerTable.Builder sheet) {
    sheet.row(
        word,
        "",
        "",
        "",
        finding.system(),
        "",
        "",
        finding.key().text(),
        FindingAnswers.capital(finding.sentence()));
  }

  private String heading(Bound bound, Preview preview) {
    long wrong =
        bound.notes().stream().filter(Bound.Note::isWrong).map(Bound.Note::step).distinct().count();
    String cannot = AnswerContext.count((int) wrong, "step cannot be made", "steps cannot be made");
    if (bound.changes().isEmpty()) {
      return wrong > 0 ? cannot + "." : "Nothing is to be changed.";
    }
    return wrong > 0
        ? cannot + "; of the others: " + effects(bound, preview)
        : FindingAnswers.capital(effects(bound, preview));
  }

  private String effects(Bound bound, Preview preview) {
    if (preview.changesNothing()) {
      return AnswerContext.count(bound.changes().size(), "change", "changes")
          + ", and nothing would be different for anybody.";
    }
    List<String> parts = new ArrayList<>();
    parts.add(side(preview.effects().gives(), preview.acts().gives(), "gains", "gain"));
    parts.add(side(preview.effects().ends(), preview.acts().ends(), "loses", "lose"));
    int begin = preview.begin().size();
    int conflicts = (int) preview.begin().stream().filter(PreviewAnswers::isConflict).count();
    int end = preview.end().size();
    if (conflicts > 0) {
      parts.add(AnswerContext.count(conflicts, "conflict begins", "conflicts begin"));
    }
    if (begin > conflicts) {
      String other = conflicts > 0 ? "other " : "";
      parts.add(
          AnswerContext.count(
              begin - conflicts, other + "finding begins", other + "findings begin"));
    }
    if (end > 0) {
      parts.add(AnswerContext.count(end, "finding ends", "findings end"));
    }
    if (begin + end == 0) {
      parts.add("no finding begins or ends");
    }
    return String.join("; ", parts) + ".";
  }

  private static boolean isConflict(Finding finding) {
    return finding.kind() == FindingKind.SEPARATION_OF_DUTIES;
  }

  private String side(List<Effect> effects, List<Act> acts, String one, String many) {
    BitSet accounts = new BitSet();
    Map<String, Integer> systems = new TreeMap<>();
    for (Effect effect : effects) {
      accounts.set(effect.account());
      systems.merge(ask.model().systems().get(effect.system()).system().name(), 1, Integer::sum);
    }
    acts.forEach(act -> accounts.set(act.account()));
    if (accounts.isEmpty()) {
      return "nobody " + one + " anything";
    }
    List<String> what = new ArrayList<>();
    systems.forEach(
        (name, count) ->
            what.add(
                (what.isEmpty()
                        ? AnswerContext.count(count, "permission", "permissions")
                        : String.valueOf(count))
                    + " in "
                    + name));
    if (!acts.isEmpty()) {
      what.add(AnswerContext.count(acts.size(), "admin action", "admin actions"));
    }
    int last = what.size() - 1;
    String all =
        last == 0
            ? what.get(0)
            : String.join(", ", what.subList(0, last)) + " and " + what.get(last);
    return AnswerContext.count(accounts.cardinality(), "account ", "accounts ").strip()
        + " "
        + (accounts.cardinality() == 1 ? one : many)
        + " "
        + all;
  }
}
