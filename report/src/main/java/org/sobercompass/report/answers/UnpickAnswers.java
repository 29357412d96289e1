package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Change;
import org.sobercompass.report.data.AnswerTable;

/** Ways to end something, side by side. Immutable; not thread-safe while it answers. */
public final class UnpickAnswers {
  private final AnswerContext ask;
  private final Assessment assessment;
  private final AdviceWords words;

  /** Answers about removals of what is judged. */
  public UnpickAnswers(AnswerContext ask, Assessment assessment) {
    this.ask = ask;
    this.assessment = assessment;
    this.words = new AdviceWords(assessment, ask.zone());
  }

  /**
   * Each way with what it takes away besides.
   *
   * @param what what they end, in words
   * @param ways the removals, the least first
   */
  public AnswerTable unpick(String what, List<Removal> ways) {
    AnswerTable.Builder sheet =
        ask.begin(
            "unpick/1",
            "way",
            "changes",
            "permissions lost",
            "admin actions lost",
            "accounts",
            "permissions gained",
            "proof");
    List<Way> all = all(ways);
    for (int i = 0; i < all.size(); i++) {
      Way way = all.get(i);
      sheet.row(
          i + 1, way.changes, way.lost, way.actsLost, way.accounts, way.gained, proof(ways, i));
    }
    return finish(what, ways, sheet);
  }

  /** The same for a terminal: what each way takes away in words. */
  public AnswerTable brief(String what, List<Removal> ways) {
    AnswerTable.Builder sheet =
        ask.begin("unpick-brief/1", "way", "changes", "takes away", "proof");
    List<Way> all = all(ways);
    for (int i = 0; i < all.size(); i++) {
      sheet.row(i + 1, all.get(i).changes, takesAway(all.get(i)), proof(ways, i));
    }
    return finish(what, ways, sheet);
  }

  /** One way, and what it comes to. */
  private record Way(List<String> changes, int lost, int actsLost, int accounts, int gained) {}

  private List<Way> all(List<Removal> ways) {
    return ways.stream().filter(way -> !way.changes().isEmpty()).map(this::way).toList();
  }

  private Way way(Removal removal) {
    List<Change> changes = removal.changes();
    Effects effects = Effects.of(assessment.model(), changes);
    ActEffects acts = ActEffects.of(assessment, changes);
    BitSet accounts = new BitSet();
    effects.ends().forEach(effect -> accounts.set(effect.account()));
    acts.ends().forEach(act -> accounts.set(act.account()));
    return new Way(
        words.changes(changes).stream().map(FindingAnswers::capital).toList(),
        effects.ends().size(),
        acts.ends().size(),
        accounts.cardinality(),
        effects.gives().size());
  }

  private static String takesAway(Way way) {
    List<String> parts = new ArrayList<>();
    if (way.lost > 0) {
      parts.add(AnswerContext.count(way.lost, "permission", "permissions"));
    }
    if (way.actsLost > 0) {
      parts.add(AnswerContext.count(way.actsLost, "admin action", "admin actions"));
    }
    String all =
        parts.isEmpty()
            ? "nothing"
            : String.join(" and ", parts)
                + " of "
                + AnswerContext.count(way.accounts, "account", "accounts");
    return way.gained > 0 ? all + "; gives " + way.gained : all;
  }

  private static String proof(List<Removal> ways, int number) {
    return number == 0 ? ways.get(0).result().words() : "another way";
  }

  private AnswerTable finish(String what, List<Removal> ways, AnswerTable.Builder sheet) {
    Removal.Result result = ways.get(0).result();
    String changes =
        AnswerContext.count(ways.get(0).changes().size(), "removal ends", "removals end");
    sheet.heading(
        switch (result) {
          case PROVED_LEAST -> changes + " " + what + "; nothing less does.";
          case BEST_FOUND -> changes + " " + what + "; less may do.";
          case NONE_ENDS_IT ->
              "No removal ends " + what + ": it comes by what cannot be taken out.";
          case NONE_ALLOWED ->
              "No removal ends " + what + " that leaves alone what must stay (findings: removals).";
          case GAVE_UP -> "No removal was found that ends " + what + "; there may be one.";
        });
    return ask.finish(sheet);
  }
}
