package org.sobercompass.cli;

import java.io.PrintWriter;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.function.LongSupplier;
import org.sobercompass.core.access.Progress;

/**
 * Tells on standard error how far long work is: on a terminal in one line that is written over and
 * wiped before anything else is said, elsewhere, if asked, in a line every few seconds. Says
 * nothing of work that is done within a second.
 */
final class ProgressLine implements Progress {
  private static final double SECOND = 1e9;
  private static final double LINE_EVERY = 5;
  private static final double OVER_EVERY = 0.2;

  private final PrintWriter err;
  private final boolean terminal;
  private final boolean asked;
  private final LongSupplier clock;
  private final Map<String, Long> took = new LinkedHashMap<>();
  private final long start;
  private String stage = "";
  private long stageBegan;
  private long passBegan;
  private long told;
  private int before;
  private int width;
  private boolean answered;

  /**
   * @param terminal whether standard error is one
   * @param asked whether it is wanted anyway, and what took how long at the end
   * @param clock nanoseconds
   */
  ProgressLine(PrintWriter err, boolean terminal, boolean asked, LongSupplier clock) {
    this.err = err;
    this.terminal = terminal;
    this.asked = asked;
    this.clock = clock;
    this.start = clock.getAsLong();
    this.stageBegan = start;
  }

  @Override
  public synchronized void begin(String next) {
    long now = clock.getAsLong();
    close(now);
    stage = next;
    stageBegan = now;
    passBegan = now;
    before = 0;
  }

  private void close(long now) {
    if (!stage.isEmpty()) {
      took.merge(stage, now - stageBegan, Long::sum);
    }
  }

  @Override
  public synchronized void at(int done, int all) {
    long now = clock.getAsLong();
    if (done < before) {
      passBegan = now;
    }
    before = done;
    double every = terminal ? OVER_EVERY : LINE_EVERY;
    boolean wanted = terminal ? !answered : asked;
    if (wanted && now - stageBegan > SECOND && now - told > every * SECOND && done > 0) {
      told = now;
      double rate = done / Math.max(1e-3, (now - passBegan) / SECOND);
      say(
          String.format(
              Locale.ROOT,
              "%,d of %,d, %,.0f a second, %.0f s left: %s",
              done,
              all,
              rate,
              (all - done) / rate,
              stage));
    }
  }

  private void say(String line) {
    if (terminal) {
      String shown =
          line.length() < Terminal.width() ? line : line.substring(0, Terminal.width() - 1);
      err.print("\r" + shown + " ".repeat(Math.max(0, width - shown.length())));
      width = shown.length();
      err.flush();
    } else {
      err.println(line);
    }
  }

  /**
   * From now on the answer is printed.
   *
   * @param here on the same terminal, so that a line would stand in it
   */
  synchronized void answer(boolean here) {
    wipe();
    answered |= here;
  }

  /** Makes room for what else is said. */
  synchronized void wipe() {
    if (width > 0) {
      err.print("\r" + " ".repeat(width) + "\r");
      err.flush();
      width = 0;
    }
  }

  /** The work is over: says what took how long, if asked. */
  synchronized void end() {
    wipe();
    long now = clock.getAsLong();
    close(now);
    stage = "";
    if (asked) {
      took.forEach(
          (what, nanos) -> {
            if (nanos >= SECOND / 100) {
              err.printf(Locale.ROOT, "%8.2f s  %s%n", nanos / SECOND, what);
            }
          });
      err.printf(Locale.ROOT, "%8.2f s  in all%n", (now - start) / SECOND);
    }
  }
}
