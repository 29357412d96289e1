package org.sobercompass.report.answers;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.IntStream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Bulk;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.report.data.Json;

/**
 * Holdings as JSON lines, by the million. A line is put together from pieces that were encoded once
 * (the account, the permission, the node), because the generator's work for each of nine names and
 * values was measured at four fifths of the time. A test holds each line to what the other formats
 * are made from. Thread-safe.
 */
final class HoldingLines {
  private static final List<String> COLUMNS = AccountAnswers.HOLDING_COLUMNS;

  private final Facts facts;
  private final List<Pieces> systems;

  /** The encoded pieces of one system. */
  private record Pieces(byte[][] rights, byte[][] nodes, byte[][] quotedNodes) {}

  HoldingLines(AccessModel model) {
    facts = model.facts();
    systems = model.systems().stream().map(HoldingLines::pieces).toList();
  }

  private static Pieces pieces(SystemView view) {
    List<String> nodes =
        IntStream.range(0, view.resources().size()).mapToObj(view.resources()::id).toList();
    String system = "," + pair(2, view.id());
    return new Pieces(
        all(view.rights().texts().stream().map(right -> system + "," + pair(3, right)).toList()),
        all(nodes.stream().map(node -> "," + pair(4, node)).toList()),
        all(nodes.stream().map(Json::quote).toList()));
  }

  private static byte[][] all(List<String> texts) {
    return texts.stream().map(HoldingLines::utf8).toArray(byte[][]::new);
  }

  private static byte[] utf8(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  private static String name(int column) {
    return Json.quote(COLUMNS.get(column)) + ":";
  }

  private static String pair(int column, String value) {
    return name(column) + Json.quote(value);
  }

  /** All lines of a run of accounts, each with its end. */
  String of(Asker asker, Bulk.Range range) {
    ByteArrayOutputStream out = new ByteArrayOutputStream(1 << 20);
    for (int account = range.from(); account < range.to(); account++) {
      String key = facts.key(account).text();
      byte[] begin = utf8("{" + pair(0, key) + "," + pair(1, facts.login(account)));
      for (Holding holding : asker.holdings(account)) {
        Pieces pieces = systems.get(holding.system());
        out.writeBytes(begin);
        out.writeBytes(pieces.rights[holding.right()]);
        out.writeBytes(pieces.nodes[holding.resource()]);
        end(holding, pieces, out);
      }
    }
    return out.toString(StandardCharsets.UTF_8);
  }

  private static final byte[] REACH = utf8("," + name(5) + '"');
  private static final byte[] EXCLUDED = utf8("\"," + name(6) + '[');
  private static final byte[] STATE = utf8("]," + name(7) + '"');
  private static final byte[] REASONS = utf8("\"," + name(8) + '[');
  private static final byte[] END = utf8("]}\n");

  /** The reach, what is excluded, the state and its reasons. */
  private static void end(Holding holding, Pieces pieces, ByteArrayOutputStream out) {
    out.writeBytes(REACH);
    out.writeBytes(utf8(holding.reach().word()));
    out.writeBytes(EXCLUDED);
    boolean first = true;
    for (int node : holding.excluded()) {
      comma(first, out);
      out.writeBytes(pieces.quotedNodes[node]);
      first = false;
    }
    out.writeBytes(STATE);
    out.writeBytes(utf8(holding.state().word()));
    out.writeBytes(REASONS);
    first = true;
    for (String reason : holding.reasons()) {
      comma(first, out);
      out.writeBytes(utf8(Json.quote(reason)));
      first = false;
    }
    out.writeBytes(END);
  }

  private static void comma(boolean first, ByteArrayOutputStream out) {
    if (!first) {
      out.write(',');
    }
  }
}
