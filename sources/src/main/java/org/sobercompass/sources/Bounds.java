package org.sobercompass.sources;

import java.time.Duration;
import java.util.function.LongSupplier;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;

/**
 * How much is taken from a source over the wire, in whole: a server that never ends must not keep
 * us for ever, or fill the disk. Not thread-safe.
 */
public final class Bounds {
  /** The most entries of one source. */
  public static final long ENTRIES = 50_000_000;

  /** The most bytes of one source: as much as a survey may unpack to. */
  public static final long BYTES = 16L << 30;

  /** The longest that one source may take. */
  public static final Duration LONGEST = Duration.ofHours(12);

  /** The most answers in a row without an entry. */
  public static final int EMPTY = 1000;

  private final long mostEntries;
  private final long mostBytes;
  private final Duration longest;
  private final LongSupplier nanos;
  private final long begin;
  private long entries;
  private long bytes;
  private int empty;

  /** The usual bounds, beginning now. */
  public Bounds() {
    this(ENTRIES, BYTES, LONGEST, System::nanoTime);
  }

  /** Bounds by a clock in nanoseconds, beginning now. */
  public Bounds(long entries, long bytes, Duration longest, LongSupplier nanos) {
    this.mostEntries = entries;
    this.mostBytes = bytes;
    this.longest = longest;
    this.nanos = nanos;
    this.begin = nanos.getAsLong();
  }

  /**
   * Counts an entry, or a value of a long list, with its bytes.
   *
   * @param place the source
   * @throws OutsideException when a bound is passed
   */
  public void came(Place place, long moreBytes) {
    entries++;
    bytes += moreBytes;
    empty = 0;
    check(place);
  }

  /**
   * Counts an answer in which nothing came; only so many may follow one another.
   *
   * @throws OutsideException when a bound is passed
   */
  public void nothing(Place place) {
    empty++;
    check(place);
  }

  private void check(Place place) {
    if (entries > mostEntries) {
      throw passed(place, "more than " + mostEntries + " entries came");
    }
    if (bytes > mostBytes) {
      throw passed(place, "more than " + (mostBytes >> 20) + " MiB came");
    }
    if (empty > EMPTY) {
      throw passed(place, "more than " + EMPTY + " answers in a row held nothing");
    }
    if (nanos.getAsLong() - begin > longest.toNanos()) {
      throw passed(place, "it took longer than " + longest.toMinutes() + " minutes");
    }
  }

  private static OutsideException passed(Place place, String what) {
    return new OutsideException(
        Problem.error(
            place,
            "reading was given up: " + what,
            "a source that ends, or a smaller part of it; what came until then was thrown away"));
  }
}
