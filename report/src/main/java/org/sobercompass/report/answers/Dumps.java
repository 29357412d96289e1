package org.sobercompass.report.answers;

import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.report.data.RowWriter;

/**
 * All holdings or all memberships of a model, streamed: chunks of a thousand accounts are computed
 * and written to text in parallel and handed on in order. Memory does not grow with the answer.
 */
public final class Dumps {
  /** The columns of a holding. */
  public static final List<String> HOLDINGS = AccountAnswers.HOLDING_COLUMNS;

  /** The columns of a membership: an account in a group, directly or nested. */
  public static final List<String> MEMBERSHIPS =
      List.of("account", "login", "group", "group name", "direct");

  private static final int CHUNK = 64;

  private final AccessModel model;
  private final Facts facts;
  private final int most;

  /** Streams from this model. */
  public Dumps(AccessModel model) {
    this(model, Integer.MAX_VALUE);
  }

  /** Streams the first accounts of this model only. */
  public Dumps(AccessModel model, int accounts) {
    this.most = accounts;
    this.model = model;
    this.facts = model.facts();
  }

  /** Hands on all rows, on the calling thread, in order. */
  public void rows(String what, Consumer<List<Object>> rows) {
    model.widest().prepare();
    model
        .bulk()
        .inChunksOf(CHUNK)
        .upTo(most)
        .inOrder((asker, range) -> chunk(what, asker, range), list -> list.forEach(rows));
  }

  /** Writes all rows as JSON lines. */
  public void jsonl(String what, Writer out) {
    model.widest().prepare();
    BiFunction<Asker, Bulk.Range, String> lines =
        what.equals("holdings") ? new HoldingLines(model)::of : this::membershipLines;
    model.bulk().inChunksOf(CHUNK).upTo(most).inOrder(lines, text -> append(out, text));
  }

  private String membershipLines(Asker asker, Bulk.Range range) {
    StringWriter text = new StringWriter(1 << 16);
    try (RowWriter writer = RowWriter.jsonl(text, MEMBERSHIPS)) {
      chunk("memberships", asker, range).forEach(row -> writer.row(row.toArray()));
    }
    return text.toString();
  }

  private static void append(Writer out, CharSequence text) {
    try {
      out.append(text);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The rows of a run of accounts, holdings or memberships. */
  public List<List<Object>> chunk(String what, Asker asker, Bulk.Range range) {
    List<List<Object>> rows = new ArrayList<>();
    for (int account = range.from(); account < range.to(); account++) {
      if (what.equals("holdings")) {
        holdings(asker, account, rows);
      } else {
        memberships(account, rows);
      }
    }
    return rows;
  }

  private void holdings(Asker asker, int account, List<List<Object>> rows) {
    String key = facts.key(account).text();
    String login = facts.login(account);
    for (Holding holding : asker.holdings(account)) {
      SystemView view = model.systems().get(holding.system());
      rows.add(
          List.of(
              key,
              login,
              view.id(),
              view.rights().text(holding.right()),
              view.resources().id(holding.resource()),
              holding.reach().word(),
              holding.excluded().stream().map(view.resources()::id).collect(Collectors.toList()),
              holding.state().word(),
              holding.reasons()));
    }
  }

  private void memberships(int account, List<List<Object>> rows) {
    SubjectSet subjects = new SubjectSet();
    model.widest().walker().subjects(account, subjects);
    int[] groups = subjects.sure().toArray();
    java.util.Arrays.sort(groups);
    String key = facts.key(account).text();
    for (int group : groups) {
      if (group != account) {
        rows.add(
            List.of(
                key,
                facts.login(account),
                facts.key(group).text(),
                facts.label(group),
                isDirect(account, group)));
      }
    }
  }

  private boolean isDirect(int account, int group) {
    if (facts.container(account) == group) {
      return true;
    }
    for (int i = 0; i < model.graph().upCount(account); i++) {
      if (model.graph().upGroup(account, i) == group && model.graph().upVia(account, i).isSure()) {
        return true;
      }
    }
    return false;
  }
}
