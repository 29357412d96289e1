package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.crosswalk.CrosswalkLine;
import org.sobercompass.core.crosswalk.CrosswalkTable;
import org.sobercompass.core.crosswalk.CrosswalkTable.Row;
import org.sobercompass.core.crosswalk.Matched;
import org.sobercompass.core.crosswalk.Ruling;
import org.sobercompass.core.crosswalk.Sureness;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.report.data.AnswerTable;

/** Who of one directory is who of another. Not thread-safe. */
public final class CrosswalkAnswers {
  /** The columns that are in the way in a terminal. */
  public static final List<String> BESIDE =
      List.of(
          "from name",
          "to name",
          "decision",
          "by",
          "on",
          "comment",
          "agreed",
          "from id",
          "to id",
          "check");

  private final AnswerContext ask;
  private final AccessModel model;
  private final Facts facts;
  private final CrosswalkWords words;
  private final Asker asker;

  /** Answers on a model. */
  public CrosswalkAnswers(AnswerContext ask) {
    this.ask = ask;
    this.model = ask.model();
    this.facts = model.facts();
    this.words = new CrosswalkWords(facts);
    this.asker = model.asker();
  }

  /** All rows, as the table is kept. */
  public AnswerTable table(CrosswalkTable table, Matched matched) {
    AnswerTable.Builder rows =
        ask.begin("crosswalk/1", CrosswalkLine.COLUMNS.toArray(String[]::new));
    table.rows().forEach(row -> row(row, rows));
    rows.heading(heading(table));
    doubts(matched).forEach(rows::note);
    CrosswalkWords.rules(matched.accounts().rules(), table.from(), table.to()).forEach(rows::note);
    return ask.whole().finish(rows);
  }

  /** What of the decided lines does not hold any more, a sentence each. */
  public static List<String> doubts(Matched matched) {
    return matched.doubts().stream().map(doubt -> CrosswalkWords.doubt(doubt) + ".").toList();
  }

  private void row(Row row, AnswerTable.Builder rows) {
    CrosswalkLine line = row.line();
    rows.row(
        line.kind().keyKind().word(),
        line.fromName(),
        name(line.from()),
        line.toName(),
        line.to().map(this::name).orElse(""),
        CrosswalkWords.sure(row),
        row.candidate().map(c -> (Object) c.score()).orElse(""),
        words.why(row),
        brings(line),
        line.ruling().word(),
        line.by(),
        line.on().map(Object::toString).orElse(""),
        line.comment(),
        line.agreed(),
        line.from().id(),
        line.to().map(Key::id).orElse(""),
        line.check());
  }

  private String name(Key key) {
    return facts.find(key).map(facts::label).orElse("");
  }

  /** How many rights an account has in each system: what would come with it. */
  private String brings(CrosswalkLine line) {
    Integer account = facts.find(line.from()).orElse(-1);
    if (account < 0 || line.kind() != SubjectKind.ACCOUNT || line.ruling() == Ruling.NEVER) {
      return "";
    }
    Map<String, Integer> counts = new LinkedHashMap<>();
    for (SystemView view : model.systems()) {
      List<Holding> held = asker.holdings(view, account);
      // What nobody has to sign in for comes with nothing.
      if (!held.isEmpty() && !view.admission().isOpen()) {
        counts.merge(view.system().name(), held.size(), Integer::sum);
      }
    }
    List<String> parts = new ArrayList<>();
    counts.forEach((system, count) -> parts.add(count + " in " + system));
    return parts.isEmpty() ? "no rights" : String.join(", ", parts);
  }

  /** How many are whose counterpart, in a sentence. */
  public String heading(CrosswalkTable table) {
    Map<String, Integer> counts = new LinkedHashMap<>();
    counts.put("accepted", 0);
    for (Sureness sure : Sureness.values()) {
      counts.put(sure.word(), 0);
    }
    Map<Key, String> accounts = new LinkedHashMap<>();
    for (Row row : table.rows()) {
      if (row.line().kind() == SubjectKind.ACCOUNT) {
        String word =
            row.line().ruling() == Ruling.SAME
                ? "accepted"
                : row.sure().map(Sureness::word).orElse("");
        accounts.merge(row.line().from(), word, (a, b) -> a.isEmpty() ? b : a);
      }
    }
    accounts.values().forEach(word -> counts.computeIfPresent(word, (k, count) -> count + 1));
    List<String> parts = new ArrayList<>();
    counts.forEach(
        (word, count) -> {
          if (count > 0) {
            parts.add(count + " " + (word.equals("none") ? "without a counterpart" : word));
          }
        });
    return AnswerContext.count(accounts.size(), "account", "accounts")
        + " of "
        + table.from()
        + " matched with "
        + table.to()
        + ": "
        + String.join(", ", parts)
        + ".";
  }
}
