package org.sobercompass.cli;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * What the command prints to. Nothing that a terminal would act on goes through but line ends, tabs
 * and, where colour is on, our own colour codes; and what cannot be written (a full disk, a closed
 * pipe) ends the command instead of being lost.
 */
final class Output extends Writer {
  private static final char ESCAPE = '\u001b';

  private final Writer out;
  private final String name;
  private final boolean colour;
  private boolean failed;

  private Output(FileDescriptor descriptor, String name, boolean colour) {
    this.out =
        new OutputStreamWriter(
            new FileOutputStream(descriptor),
            StandardCharsets.UTF_8
                .newEncoder()
                .onMalformedInput(java.nio.charset.CodingErrorAction.REPLACE)
                .onUnmappableCharacter(java.nio.charset.CodingErrorAction.REPLACE));
    this.name = name;
    this.colour = colour;
  }

  static PrintWriter standard() {
    return new PrintWriter(
        new java.io.BufferedWriter(
            new Output(FileDescriptor.out, "standard output", Terminal.colour()), 1 << 16));
  }

  static PrintWriter error() {
    return new PrintWriter(new Output(FileDescriptor.err, "standard error", false), true);
  }

  @Override
  public void write(char[] text, int from, int length) throws IOException {
    int begin = from;
    for (int i = from; i < from + length; i++) {
      if (Plain.isUnsafe(text[i]) && !passes(text[i])) {
        put(text, begin, i - begin);
        put(new char[] {'\uFFFD'}, 0, 1);
        begin = i + 1;
      }
    }
    put(text, begin, from + length - begin);
  }

  private boolean passes(char c) {
    return c == '\n' || c == '\t' || c == '\r' || (c == ESCAPE && colour);
  }

  private void put(char[] text, int from, int length) {
    try {
      out.write(text, from, length);
    } catch (IOException e) {
      throw lost(e);
    }
  }

  @Override
  public void flush() {
    try {
      out.flush();
    } catch (IOException e) {
      throw lost(e);
    }
  }

  @Override
  public void close() {
    flush();
  }

  /** Said once: whoever catches it may print, and that must not fail again. */
  private RuntimeException lost(IOException e) {
    boolean first = !failed;
    failed = true;
    return first
        ? new OutsideException(
            Problem.error(
                Place.of(name),
                "cannot be written: " + OwnFiles.reason(e),
                "room, and somebody who reads to the end"))
        : new Closed();
  }

  /** The output failed before, and that was told. */
  static final class Closed extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }
}
