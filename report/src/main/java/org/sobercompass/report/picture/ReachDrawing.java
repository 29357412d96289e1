package org.sobercompass.report.picture;

import java.util.BitSet;
import java.util.List;
import java.util.function.Function;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.report.picture.LayeredDrawing.Shape;

/**
 * Chains within reach of a power: who could come to it, by what is done to whom, step after step.
 * Between two boxes stands what is done. Not thread-safe.
 */
public final class ReachDrawing {
  private static final int ACCOUNTS = 40;

  private final Facts facts;
  private final Function<Reach.Step, String> words;

  /**
   * Of the subjects of some facts.
   *
   * @param words what a step does, without to whom; nothing for a membership
   */
  public ReachDrawing(Facts facts, Function<Reach.Step, String> words) {
    this.facts = facts;
    this.words = words;
  }

  /** SVG of the chains to a power; empty when nobody could come to it. */
  public String draw(NamedPower power, Reach reach) {
    LayeredDrawing drawing = new LayeredDrawing();
    BitSet within = reach.answer().within();
    int drawn = 0;
    for (int account = within.nextSetBit(0);
        account >= 0 && drawn < ACCOUNTS;
        account = within.nextSetBit(account + 1)) {
      chain(drawing, account, reach.chain(account), power);
      drawn++;
    }
    return drawing.isEmpty() ? "" : drawing.draw("Who could come to " + power.name());
  }

  private void chain(
      LayeredDrawing drawing, int account, List<Reach.Step> chain, NamedPower power) {
    String before = subject(drawing, account);
    for (Reach.Step step : chain) {
      String done = words.apply(step);
      String to = subject(drawing, step.to());
      if (done.isEmpty()) {
        drawing.arrow(before, to, false);
      } else {
        String act = "a" + done + step.to();
        drawing.box(act, Shape.ROLE, "what it can do", done);
        drawing.arrow(before, act, false);
        drawing.arrow(act, to, false);
      }
      before = to;
    }
    drawing.box("power", Shape.PERMISSION, "power", power.name());
    drawing.arrow(before, "power", false);
  }

  private String subject(LayeredDrawing drawing, int subject) {
    String id = "s" + subject;
    boolean account = facts.kind(subject) == SubjectKind.ACCOUNT;
    drawing.box(
        id,
        account ? Shape.ACCOUNT : Shape.GROUP,
        facts.kind(subject).words(),
        facts.label(subject));
    return id;
  }
}
