package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.audit.Door;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Verdict;

/** What a preview comes to, in one sentence. Immutable. */
final class PreviewSentence {
  private final AnswerContext ask;

  PreviewSentence(AnswerContext ask) {
    this.ask = ask;
  }

  /** The first sentence of a preview. */
  String of(Bound bound, Preview preview) {
    long wrong =
        bound.notes().stream().filter(Bound.Note::isWrong).map(Bound.Note::step).distinct().count();
    String cannot = AnswerContext.count((int) wrong, "step cannot be made", "steps cannot be made");
    if (bound.changes().isEmpty()) {
      return wrong > 0 ? cannot + ": " + why(bound) + "." : "Nothing is to be changed.";
    }
    return wrong > 0
        ? cannot + ": " + why(bound) + ". Of the others: " + effects(bound, preview)
        : FindingAnswers.capital(effects(bound, preview));
  }

  private String effects(Bound bound, Preview preview) {
    if (preview.changesNothing()) {
      AccessModel after = ask.model().with(bound.changes());
      boolean later =
          bound.changes().stream().allMatch(change -> isForLater(ask.model(), after, change));
      return AnswerContext.count(bound.changes().size(), "change", "changes")
          + (later
              ? " for what is made later; nothing would be different for anybody today."
              : ", and nothing would be different for anybody.");
    }
    List<String> parts = new ArrayList<>();
    parts.add(side(preview.effects().gives(), preview.acts().gives(), "gains", "gain"));
    parts.add(side(preview.effects().ends(), preview.acts().ends(), "loses", "lose"));
    int begin = preview.begin().size();
    int conflicts = (int) preview.begin().stream().filter(PreviewSentence::isConflict).count();
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
    parts.addAll(states(preview));
    return String.join("; ", parts) + ".";
  }

  /** Whether a change is of what a list says for what is made later, and of nothing else. */
  static boolean isForLater(AccessModel before, AccessModel after, Change change) {
    return change.fold(
        membership -> false,
        own ->
            own.byKind(
                added -> false,
                removed -> false,
                redefined ->
                    redefined
                        .how()
                        .byKind(
                            scope -> false,
                            register -> false,
                            role -> false,
                            item -> isForLater((item.added() ? after : before), own, item),
                            setting -> false)),
        subject -> false);
  }

  private static boolean isForLater(
      AccessModel model, Change.OfSystem of, Redefinition.ListItem item) {
    AccessSystem system = model.view(of.system()).system();
    return !system.isExclusive(item.text()) && system.hasItem(item.resource(), item.text());
  }

  /** Which expectations are not met any more, and who is shut out. */
  private static List<String> states(Preview preview) {
    List<String> parts = new ArrayList<>();
    long broken =
        preview.expected().stream().filter(e -> e.after().verdict() == Verdict.NO).count();
    if (broken > 0) {
      parts.add(
          AnswerContext.count(
              (int) broken,
              "expectation is not met any more",
              "expectations are not met any more"));
    }
    int shut = doors(preview, Door::account);
    if (shut > 0) {
      parts.add(
          AnswerContext.count(shut, "account is", "accounts are")
              + " shut out of "
              + AnswerContext.count(doors(preview, Door::system), "application", "applications"));
    }
    return parts;
  }

  /** Why the first of the steps that cannot be made cannot. */
  private static String why(Bound bound) {
    return bound.notes().stream()
        .filter(Bound.Note::isWrong)
        .map(Bound.Note::what)
        .findFirst()
        .orElse("");
  }

  private static int doors(Preview preview, Function<Door, Integer> what) {
    return (int) preview.doors().stream().filter(Door::shut).map(what).distinct().count();
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
