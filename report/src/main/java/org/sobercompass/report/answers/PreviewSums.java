package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.ActEffects.Act;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.removal.Effects.Effect;
import org.sobercompass.report.data.AnswerTable;

/** What a proposal would do, summed up by account or by permission. Immutable. */
final class PreviewSums {
  /** So many names are shown of each. */
  private static final int SHOWN = 4;

  private final AnswerContext ask;
  private final Facts facts;

  PreviewSums(AnswerContext ask) {
    this.ask = ask;
    this.facts = ask.model().facts();
  }

  /** One thing that an account gains or loses. */
  private record Cell(boolean gains, int account, String application, String what, String where) {}

  private List<Cell> cells(Preview preview) {
    List<Cell> all = new ArrayList<>();
    preview.effects().gives().forEach(effect -> all.add(cell(true, effect)));
    preview.effects().ends().forEach(effect -> all.add(cell(false, effect)));
    preview.acts().gives().forEach(act -> all.add(cell(true, act)));
    preview.acts().ends().forEach(act -> all.add(cell(false, act)));
    return all;
  }

  private Cell cell(boolean gains, Effect effect) {
    SystemView view = ask.model().systems().get(effect.system());
    return new Cell(
        gains,
        effect.account(),
        view.system().name(),
        view.rights().text(effect.right()),
        view.resources().name(effect.resource()));
  }

  private static Cell cell(boolean gains, Act act) {
    return new Cell(gains, act.account(), "", act.action().name(), act.label());
  }

  private static String word(boolean gains) {
    return gains ? "gains" : "loses";
  }

  /** One row an account, with in how many things it gains or loses, and where. */
  AnswerTable.Builder byAccount(Preview preview) {
    AnswerTable.Builder sheet =
        ask.begin(
            "preview-accounts/1", "effect", "key", "login", "name", "permissions", "applications");
    Map<String, List<Cell>> sums = new TreeMap<>();
    for (Cell cell : cells(preview)) {
      String key = (cell.gains ? "0 " : "1 ") + facts.key(cell.account).text();
      sums.computeIfAbsent(key, k -> new ArrayList<>()).add(cell);
    }
    for (List<Cell> cells : sums.values()) {
      Cell one = cells.get(0);
      Set<String> where = new TreeSet<>();
      cells.forEach(cell -> where.add(cell.application.isEmpty() ? cell.where : cell.application));
      sheet.row(
          word(one.gains),
          facts.key(one.account).text(),
          facts.login(one.account),
          facts.label(one.account),
          cells.size(),
          some(where));
    }
    return sheet;
  }

  /** One row a permission at a place, with how many accounts gain or lose it. */
  AnswerTable.Builder byPermission(Preview preview) {
    AnswerTable.Builder sheet =
        ask.begin(
            "preview-permissions/1",
            "effect",
            "application",
            "permission",
            "where",
            "accounts",
            "who");
    Map<String, List<Cell>> sums = new TreeMap<>();
    for (Cell cell : cells(preview)) {
      String key =
          (cell.gains ? "0\t" : "1\t") + cell.application + "\t" + cell.what + "\t" + cell.where;
      sums.computeIfAbsent(key, k -> new ArrayList<>()).add(cell);
    }
    for (List<Cell> cells : sums.values()) {
      Cell one = cells.get(0);
      Set<String> who = new TreeSet<>();
      cells.forEach(cell -> who.add(facts.login(cell.account)));
      sheet.row(word(one.gains), one.application, one.what, one.where, cells.size(), some(who));
    }
    return sheet;
  }

  private static String some(Set<String> all) {
    String shown = String.join(", ", all.stream().limit(SHOWN).toList());
    return all.size() > SHOWN ? shown + " and " + (all.size() - SHOWN) + " more" : shown;
  }
}
