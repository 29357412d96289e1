package org.sobercompass.core.amendment;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What was done with the records of an amendment, line by line as it happened. A line that
 * something begins is kept before anything is changed; so a record without one was not touched. Not
 * thread-safe.
 */
public final class Journal {
  private final List<Line> lines = new ArrayList<>();
  private final Map<Integer, State> states = new HashMap<>();
  private final Map<Integer, State> earlier = new HashMap<>();
  private final Keeping keeping;

  /** What happened. */
  public enum Event {
    /** It is about to be made. */
    BEGINS,
    /** It was made. */
    MADE,
    /** It was so already, by somebody else. */
    WAS_SO,
    /** The system stood otherwise than the record counts on; nothing was changed. */
    CHANGED_SINCE,
    /** The system refused; nothing was changed. */
    REFUSED,
    /** It was not begun after all, since the work stopped before it. */
    LEFT
  }

  /** How a record stands by the journal. */
  public enum State {
    /** Nothing was done with it, or it was taken back. */
    OPEN,
    /** It was begun, and it is not known whether it was made. */
    BEGUN,
    /** It was made. */
    MADE,
    /** It was so already; nothing is to be taken back. */
    WAS_SO,
    /** It could not be made. */
    FAILED,
    /** Taking it back was begun, and it is not known whether that was made. */
    UNDO_BEGUN,
    /** It was made, and taken back. */
    UNDONE,
    /** It was made, and could not be taken back. */
    NOT_UNDONE;

    /** Whether the system has, or may have, what the record makes, by our doing. */
    public boolean isOurs() {
      return this == BEGUN || this == MADE || this == UNDO_BEGUN || this == NOT_UNDONE;
    }
  }

  /**
   * One line.
   *
   * @param at when
   * @param record the number of the record
   * @param undo whether it is about taking it back
   * @param words what is to be said of it, or empty
   */
  public record Line(Instant at, int record, boolean undo, Event event, String words) {}

  /** Keeps lines where they outlive this process. */
  public interface Keeping {
    /** Keeps lines. They are safe from the end of this process when this returns. */
    void keep(List<Line> lines);

    /** Makes all kept lines safe from the end of the machine too. */
    void force();
  }

  /** A journal with what happened before. */
  public Journal(List<Line> before, Keeping keeping) {
    this.keeping = keeping;
    before.forEach(this::take);
  }

  private void take(Line line) {
    lines.add(line);
    int record = line.record();
    State before = earlier.getOrDefault(record, State.OPEN);
    if (line.event() == Event.BEGINS) {
      earlier.put(record, state(record));
    }
    states.put(record, next(before, line));
  }

  /**
   * How a record stands after a line.
   *
   * @param before how it stood when what the line is about began
   */
  private static State next(State before, Line line) {
    return switch (line.event()) {
      case BEGINS -> line.undo() ? State.UNDO_BEGUN : State.BEGUN;
      case MADE -> line.undo() ? State.UNDONE : State.MADE;
      case WAS_SO -> line.undo() ? State.UNDONE : State.WAS_SO;
      // What was made here once stays ours to be taken back.
      case CHANGED_SINCE, REFUSED ->
          line.undo() || (before.isOurs() && before != State.BEGUN)
              ? State.NOT_UNDONE
              : State.FAILED;
      case LEFT -> before;
    };
  }

  /** All lines, in order. */
  public List<Line> lines() {
    return List.copyOf(lines);
  }

  /** How a record stands. */
  public State state(int record) {
    return states.getOrDefault(record, State.OPEN);
  }

  /** Says that records begin, so that this outlives everything before anything is changed. */
  void begin(Instant at, List<AmendmentRecord> records, boolean undo) {
    List<Line> begun =
        records.stream().map(r -> new Line(at, r.number(), undo, Event.BEGINS, "")).toList();
    keeping.keep(begun);
    keeping.force();
    begun.forEach(this::take);
  }

  /** Says what came of a record. */
  void note(Line line) {
    keeping.keep(List.of(line));
    take(line);
  }

  /** Makes all lines safe. */
  void close() {
    keeping.force();
  }
}
