package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.audit.Door;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.core.system.Change;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.findings.FindingWords;

/** What a proposal would do, in words and tables. Immutable; not thread-safe while it answers. */
public final class PreviewAnswers {
  /** Of more steps the effects of each by itself are not worked out. */
  private static final int MOST_ALONE = 50;

  /** Of more effects a terminal shows sums. */
  private static final int MOST_ROWS = 60;

  private final AnswerContext ask;
  private final AdviceWords words;
  private final Facts facts;
  private final Assessment assessment;

  /** Answers about proposals that are laid over what is judged. */
  public PreviewAnswers(AnswerContext ask, Assessment assessment) {
    this.ask = ask;
    this.assessment = assessment;
    this.words = new AdviceWords(assessment, ask.zone());
    this.facts = ask.model().facts();
  }

  /** What one change is, in words. */
  public String words(Change change) {
    return words.changes(List.of(change)).get(0);
  }

  /** For a terminal: who gains and loses what, without keys; then findings, then the changes. */
  public List<AnswerTable> brief(Bound bound, Preview preview) {
    AnswerTable.Builder first = effects(preview);
    first.heading(new PreviewSentence(ask).of(bound, preview));
    List<AnswerTable> all = new ArrayList<>(List.of(first.build()));
    AnswerTable.Builder findings =
        AnswerTable.of("preview-findings/1", "finding", "weight", "kind", "what");
    preview.begin().forEach(f -> brief("begins", f, findings));
    preview.end().forEach(f -> brief("ends", f, findings));
    if (findings.size() > 0) {
      all.add(findings.heading("Findings:").build());
    }
    AnswerTable.Builder states = AnswerTable.of("preview-states/1", "what", "state");
    preview.expected().forEach(e -> states.row(name(e), state(e)));
    doors(preview).forEach(states::row);
    if (states.size() > 0) {
      all.add(states.heading("Expectations, and who is shut out or let in:").build());
    }
    AnswerTable.Builder steps =
        AnswerTable.of("preview-steps/1", "step", "change", "by itself")
            .heading(
                bound.made().isEmpty() ? "No step changes anything:" : "The changes, in order:");
    List<String> lines = words.changes(bound.changes());
    for (int i = 0; i < lines.size(); i++) {
      steps.row(
          bound.made().get(i).step() + 1, FindingAnswers.capital(lines.get(i)), alone(bound, i));
    }
    for (Bound.Note note : bound.notes()) {
      steps.note("Step " + (note.step() + 1) + ": " + note.what() + ".");
    }
    all.add(ask.finish(steps));
    return all;
  }

  /** Each effect by itself; summed up where there are too many for a terminal. */
  private AnswerTable.Builder effects(Preview preview) {
    AnswerTable.Builder who =
        ask.begin(
            "preview-brief/1", "effect", "login", "name", "application", "permission", "where");
    brief("+ gains", preview.effects().gives(), preview.acts().gives(), who);
    brief("- loses", preview.effects().ends(), preview.acts().ends(), who);
    int rows = who.size();
    return rows <= MOST_ROWS
        ? who
        : new PreviewSums(ask)
            .byPermission(preview)
            .note(rows + " effects, summed up by permission; -f csv has each.");
  }

  /** The effects summed up by account. */
  public AnswerTable byAccount(Bound bound, Preview preview) {
    return summed(new PreviewSums(ask).byAccount(preview), bound, preview);
  }

  /** The effects summed up by permission. */
  public AnswerTable byPermission(Bound bound, Preview preview) {
    return summed(new PreviewSums(ask).byPermission(preview), bound, preview);
  }

  private AnswerTable summed(AnswerTable.Builder sheet, Bound bound, Preview preview) {
    sheet.heading(new PreviewSentence(ask).of(bound, preview));
    return ask.finish(sheet);
  }

  /** The settings of the same system that are made before: a new role gives nothing without. */
  private static List<Change> settingsBefore(Bound bound, int at) {
    int system = system(bound.made().get(at).change());
    return bound.made().subList(0, at).stream()
        .map(Bound.Made::change)
        .filter(
            change ->
                system >= 0
                    && change instanceof Change.Redefined other
                    && other.system() == system
                    && other.how().settings().findAny().isPresent())
        .toList();
  }

  private static int system(Change change) {
    return change.fold(membership -> -1, Change.OfSystem::system, subject -> -1);
  }

  /** What a step does after the settings that it counts on; not worked out where there are many. */
  private String alone(Bound bound, int at) {
    if (bound.made().size() > MOST_ALONE) {
      return "";
    }
    List<Change> one = List.of(bound.made().get(at).change());
    if (!standsAlone(one)) {
      return "not by itself";
    }
    List<Change> settings = settingsBefore(bound, at);
    Assessment then = settings.isEmpty() ? assessment : assessment.with(settings);
    Effects effects = Effects.of(then.model(), one);
    ActEffects acts = ActEffects.of(then, one);
    int gives = effects.gives().size() + acts.gives().size();
    int ends = effects.ends().size() + acts.ends().size();
    if (gives + ends == 0) {
      AccessModel after = then.model().with(one);
      return PreviewSentence.isForLater(then.model(), after, one.get(0))
          ? "nothing yet"
          : "nothing";
    }
    return String.join(
        ", ",
        Stream.of(gives > 0 ? "+" + gives : "", ends > 0 ? "-" + ends : "")
            .filter(part -> !part.isEmpty())
            .toList());
  }

  /** An entry may come only where another was taken out. */
  private boolean standsAlone(List<Change> one) {
    try {
      assessment.model().with(one);
      return true;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }

  private static String name(Preview.Expected expected) {
    return expected.after().expectation().name();
  }

  private static String state(Preview.Expected expected) {
    return switch (expected.after().verdict()) {
      case YES -> "is met then";
      case NO -> "is not met any more: " + expected.after().sentence();
      case UNDECIDED -> "cannot be decided then";
    };
  }

  private String name(Door door) {
    return Words.subject(facts, door.account());
  }

  /** One row an account: where it is shut out, and where it is let in. */
  private Map<String, String> doors(Preview preview) {
    Map<String, List<String>> shut = new LinkedHashMap<>();
    Map<String, List<String>> open = new LinkedHashMap<>();
    for (Door door : preview.doors()) {
      (door.shut() ? shut : open)
          .computeIfAbsent(name(door), n -> new ArrayList<>())
          .add(ask.model().systems().get(door.system()).system().name());
    }
    Map<String, String> all = new LinkedHashMap<>();
    shut.forEach(
        (who, where) -> all.put(who, "can use nothing any more in " + String.join(", ", where)));
    open.forEach(
        (who, where) ->
            all.merge(
                who,
                "can use something for the first time in " + String.join(", ", where),
                (a, b) -> a + "; " + b));
    return all;
  }

  private String state(Door door) {
    String system = ask.model().systems().get(door.system()).system().name();
    return door.shut()
        ? "can use nothing in " + system + " any more"
        : "can use something in " + system + " for the first time";
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
        FindingAnswers.capital(FindingWords.sentence(finding)));
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
    states(preview, sheet);
    sheet.heading(new PreviewSentence(ask).of(bound, preview));
    for (Bound.Note note : bound.notes()) {
      sheet.note("Step " + (note.step() + 1) + ": " + note.what() + ".");
    }
    return ask.finish(sheet);
  }

  /** Expectations that are met or not met any more, and who is shut out or let in. */
  private void states(Preview preview, AnswerTable.Builder sheet) {
    for (Preview.Expected expected : preview.expected()) {
      String id = "expectation:" + expected.after().expectation().id();
      String sentence = name(expected) + " " + state(expected);
      sheet.row("expectation", "", "", "", "", "", "", id, FindingAnswers.capital(sentence));
    }
    for (Door door : preview.doors()) {
      sheet.row(
          door.shut() ? "shut out" : "let in",
          facts.key(door.account()).text(),
          facts.login(door.account()),
          facts.label(door.account()),
          ask.model().systems().get(door.system()).id(),
          "",
          "",
          "",
          name(door) + " " + state(door));
    }
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
        FindingAnswers.capital(FindingWords.sentence(finding)));
  }
}
