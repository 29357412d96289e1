package org.sobercompass.sources.directory;

import java.io.IOException;
import java.io.InputStream;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;

/**
 * Stands between a file and the LDIF library and lets through only what is safe to parse: a value
 * that names a file or address ({@code attr:< ...}) is refused, because the library would open it;
 * a logical line longer than {@link #LONGEST} is cut; bytes that are not UTF-8 are told. Each is an
 * error, so nothing is answered from what went through. Folded lines are seen unfolded (RFC 2849
 * note 2), and a carriage return ends a line by itself, as it does for the library. One pass over
 * the bytes, O(1) memory.
 */
public final class LdifGate extends InputStream {
  /** The longest logical line in bytes. */
  static final int LONGEST = 16 << 20;

  private static final String RESULT = "result:";

  private static final int NAME = 0;
  private static final int COLON = 1;
  private static final int VALUE = 2;
  private static final int COMMENT = 3;

  private final InputStream in;
  private final String name;
  private final Problems problems;
  private int state = NAME;
  private boolean lineStart = true;
  private boolean afterReturn;
  private int line = 1;
  private int length;
  private boolean tooLong;
  private int pending;
  private int firstPending;
  private boolean badUtf8;

  /** Whether the last line was empty; a line feed after a carriage return ends no other line. */
  private boolean blank;

  private boolean ended;

  /** Whether the line is the export tool's own last one. */
  private boolean result;

  /** How many logical lines there were that are no comments; only the first matters. */
  private long records;

  /** Over a stream; problems are told with this name of the file. */
  public LdifGate(InputStream in, String name, Problems problems) {
    this.in = in;
    this.name = name;
    this.problems = problems;
  }

  @Override
  public int read() throws IOException {
    byte[] one = new byte[1];
    int got = read(one, 0, 1);
    return got < 0 ? -1 : one[0] & 0xff;
  }

  @Override
  public int read(byte[] buffer, int from, int most) throws IOException {
    while (true) {
      int got = in.read(buffer, from, most);
      if (got <= 0) {
        end();
        return got;
      }
      int kept = pass(buffer, from, got);
      if (kept > 0) {
        return kept;
      }
    }
  }

  /** What ends inside a line or an entry may have been cut off. */
  private void end() {
    if (ended || records == 0) {
      return;
    }
    ended = true;
    Place place = Place.of(name, line);
    if (!lineStart) {
      problems.error(
          place,
          "the file ends inside a line: it may be cut off",
          "the whole export; each line, the last one too, has an end (RFC 2849)");
    } else if (!blank && state != COMMENT && !(result && state >= VALUE)) {
      problems.warning(
          place,
          "the file ends without the empty line that follows an entry: it may be cut off, and its"
              + " last entry may lack values",
          "the whole export");
    }
  }

  private int pass(byte[] buffer, int from, int count) {
    int out = from;
    for (int i = from; i < from + count; i++) {
      if (out == i && state >= VALUE && !lineStart && !tooLong && pending == 0) {
        int end = plain(buffer, i, Math.min(from + count, i + LONGEST - length));
        length += end - i;
        out = end;
        i = end;
        if (i >= from + count) {
          break;
        }
      }
      byte b = buffer[i];
      if (b < 0 || pending > 0) {
        utf8(b);
      }
      if (b == '\n' || b == '\r') {
        lineEnd(b);
        buffer[out++] = b;
        continue;
      }
      if (afterReturn) {
        line++;
        afterReturn = false;
      }
      if (lineStart) {
        begin(b);
      }
      boolean foldSpace = lineStart && b == ' ';
      lineStart = false;
      if (++length > LONGEST) {
        tooLong();
        continue;
      }
      buffer[out++] = foldSpace || state >= VALUE ? b : inspect(b);
    }
    return out - from;
  }

  private void lineEnd(byte b) {
    boolean second = b == '\n' && afterReturn;
    line += b == '\n' || afterReturn ? 1 : 0;
    blank = second ? blank : lineStart;
    afterReturn = b == '\r';
    lineStart = true;
  }

  /** The end of a run of ASCII inside a value: nothing in it needs a look. */
  private static int plain(byte[] buffer, int from, int to) {
    int at = from;
    while (at < to && buffer[at] > '\r') {
      at++;
    }
    return at;
  }

  /**
   * The first byte of a line: a space goes on with the logical line before, else a new one starts.
   */
  private void begin(byte b) {
    if (b != ' ') {
      state = b == '#' ? COMMENT : NAME;
      records += b == '#' ? 0 : 1;
      length = 0;
      result = true;
      tooLong = false;
    }
  }

  private byte inspect(byte b) {
    if (state == NAME) {
      state = b == ':' ? COLON : NAME;
      result = length <= RESULT.length() && result && RESULT.charAt(length - 1) == b;
      boolean capital = records == 1 && b >= 'A' && b <= 'Z';
      return capital ? (byte) (b + ('a' - 'A')) : b; // "Version: 1" too; the library knows one form
    }
    state = VALUE;
    if (b == '<') {
      problems.error(
          Place.of(name, line),
          "a value names a file or address (attribute:<), which is never opened",
          "the value itself, in base64 if need be");
      return ' ';
    }
    return b;
  }

  private void tooLong() {
    if (!tooLong) {
      tooLong = true;
      problems.error(
          Place.of(name, line), "the line is too long", "at most " + (LONGEST >> 20) + " MiB");
    }
  }

  /** Checks the lengths and continuation bytes of UTF-8 (RFC 3629), without the rarest cases. */
  private void utf8(byte b) {
    boolean continues = (b & 0xc0) == 0x80;
    if (pending > 0 && continues) {
      boolean first = firstPending != 0;
      if (first && !allowedSecond(firstPending, b & 0xff)) {
        badUtf8();
      }
      firstPending = 0;
      pending--;
      return;
    }
    if (pending > 0) {
      badUtf8();
      pending = 0;
    }
    if (b < 0) {
      int lead = b & 0xff;
      pending =
          lead >= 0xf0 && lead <= 0xf4
              ? 3
              : lead >= 0xe0 && lead < 0xf0 ? 2 : lead >= 0xc2 && lead < 0xe0 ? 1 : 0;
      firstPending = lead;
      if (pending == 0) {
        badUtf8();
      }
    }
  }

  private static boolean allowedSecond(int lead, int second) {
    return switch (lead) {
      case 0xe0 -> second >= 0xa0;
      case 0xed -> second <= 0x9f;
      case 0xf0 -> second >= 0x90;
      case 0xf4 -> second <= 0x8f;
      default -> true;
    };
  }

  private void badUtf8() {
    if (!badUtf8) {
      badUtf8 = true;
      problems.error(
          Place.of(name, line), "the bytes are not UTF-8 (first seen here)", "LDIF in UTF-8");
    }
  }

  @Override
  public void close() throws IOException {
    in.close();
  }
}
