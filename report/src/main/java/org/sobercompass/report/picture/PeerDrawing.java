package org.sobercompass.report.picture;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Peers;

/**
 * What peers hold in one system: a bar for each permission says how many of them hold it; who holds
 * what hardly any other does is named beside it.
 */
public final class PeerDrawing {
  private static final double ROW = 24;
  private static final double BAR = 220;
  private static final double NAMES = 420;
  private static final int MOST = 40;

  private PeerDrawing() {}

  /**
   * SVG of what peers hold; empty when they hold nothing.
   *
   * @param about the account that is looked at, or -1
   * @param percent up to this share a permission is rare
   */
  public static String draw(
      Facts facts, SystemView view, Peers.Shared shared, int about, int percent) {
    List<Integer> rights = rights(view, shared);
    if (rights.isEmpty()) {
      return "";
    }
    List<Integer> shown = rights.subList(0, Math.min(MOST, rights.size()));
    double left = Svg.width(shown.stream().map(view.rights()::text).toList(), 300) + 16;
    double width = left + BAR + 90 + NAMES;
    Svg out =
        new Svg("What peers hold in " + view.system().name(), width, 26 + shown.size() * ROW + 30);
    out.text("left strong", 0, 14, view.system().name() + ", " + shared.peers().size() + " peers");
    for (int i = 0; i < shown.size(); i++) {
      row(out, facts, view, shared, shown.get(i), about, percent, left, 26 + i * ROW);
    }
    String more = rights.size() > MOST ? (rights.size() - MOST) + " more are not drawn    " : "";
    out.text(
        "left quiet",
        0,
        26 + shown.size() * ROW + 20,
        more + "▲ held by at most " + percent + " % of them    ◀ held by this account");
    return out.end();
  }

  /** Those that anybody holds, the rarest first; of levels only the highest held. */
  private static List<Integer> rights(SystemView view, Peers.Shared shared) {
    BitSet contained = new BitSet();
    for (BitSet own : shared.held()) {
      own.stream().forEach(right -> view.rights().contains(right).forEach(contained::set));
    }
    List<Integer> rights = new ArrayList<>();
    for (int right = 0; right < view.rights().size(); right++) {
      boolean told = shared.holders()[right] > 0 && !view.rights().isMinor(right);
      if (told && (!contained.get(right) || differs(view, shared, right))) {
        rights.add(right);
      }
    }
    rights.sort(
        Comparator.<Integer>comparingInt(right -> shared.holders()[right])
            .thenComparing(right -> view.rights().text(right)));
    return rights;
  }

  /** Whether more hold a right than hold one that contains it. */
  private static boolean differs(SystemView view, Peers.Shared shared, int right) {
    for (int other = 0; other < view.rights().size(); other++) {
      if (view.rights().contains(other).contains(right)
          && shared.holders()[other] == shared.holders()[right]) {
        return false;
      }
    }
    return true;
  }

  private static void row(
      Svg out,
      Facts facts,
      SystemView view,
      Peers.Shared shared,
      int right,
      int about,
      int percent,
      double left,
      double y) {
    int all = shared.peers().size();
    int holders = shared.holders()[right];
    boolean rare = shared.isRare(right, percent);
    out.text("left", 0, y + 17, Svg.fit(view.rights().text(right), left - 8));
    out.rect("plain", left, y + 5, BAR, ROW - 10, 0);
    out.rect(rare ? "highbar" : "markbar", left, y + 5, BAR * holders / all, ROW - 10, 0);
    out.text("left", left + BAR + 8, y + 17, holders + " of " + all);
    List<String> names = new ArrayList<>();
    boolean own = false;
    for (int i = 0; i < all; i++) {
      if (shared.held().get(i).get(right)) {
        own |= shared.peers().get(i) == about;
        names.add(facts.label(shared.peers().get(i)));
      }
    }
    String text = (rare ? "▲ " + String.join(", ", names) : "") + (own ? "  ◀" : "");
    out.text(rare ? "left high" : "left", left + BAR + 80, y + 17, Svg.fit(text.strip(), NAMES));
  }
}
