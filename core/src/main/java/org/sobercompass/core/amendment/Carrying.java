package org.sobercompass.core.amendment;

import java.time.Clock;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.IntConsumer;
import org.sobercompass.core.amendment.Journal.Event;
import org.sobercompass.core.amendment.Journal.State;
import org.sobercompass.core.problem.OutsideException;

/**
 * Carries records out on a live system, and takes them back. What is about to be made is in the
 * journal before it is tried, and what came of it before the next is tried. After an interruption
 * at any point the same call goes on: of what was begun the system itself is asked whether it was
 * made. Not thread-safe.
 */
public final class Carrying {
  /** So many records are begun in the journal at once, since each time is safe on disk. */
  private static final int AT_ONCE = 64;

  private final LiveTarget target;
  private final Journal journal;
  private final Clock clock;
  private final boolean goOn;
  private final IntConsumer progress;
  private final List<Work.Failure> failed = new ArrayList<>();
  private int made;
  private int before;
  private int wasSo;
  private String stopped = "";

  /**
   * Work on one system; use once.
   *
   * @param goOn whether to go on after a record that cannot be made
   * @param progress told after each record how many were dealt with
   */
  public Carrying(
      LiveTarget target, Journal journal, Clock clock, boolean goOn, IntConsumer progress) {
    this.target = target;
    this.journal = journal;
    this.clock = clock;
    this.goOn = goOn;
    this.progress = progress;
  }

  /** Makes all records that are not made yet, in order. */
  public Work carryOut(List<AmendmentRecord> records) {
    List<AmendmentRecord> open = new ArrayList<>();
    for (AmendmentRecord record : records) {
      State state = journal.state(record.number());
      if (state == State.MADE) {
        before++;
      } else if (state == State.WAS_SO) {
        wasSo++;
      } else {
        open.add(record);
      }
    }
    return run(open, records.size(), false);
  }

  /**
   * Takes back all records that were made here, the last first. What was so already before it was
   * carried out stays.
   */
  public Work undo(List<AmendmentRecord> records) {
    List<AmendmentRecord> ours = new ArrayList<>();
    for (AmendmentRecord record : records) {
      State state = journal.state(record.number());
      if (state.isOurs()) {
        ours.add(record);
      } else if (state == State.WAS_SO) {
        wasSo++;
      } else {
        before++;
      }
    }
    Collections.reverse(ours);
    return run(ours, records.size(), true);
  }

  private Work run(List<AmendmentRecord> records, int asked, boolean undo) {
    try {
      for (int from = 0; from < records.size() && stopped.isEmpty(); from += AT_ONCE) {
        window(records.subList(from, Math.min(records.size(), from + AT_ONCE)), undo);
      }
    } finally {
      journal.close();
    }
    return new Work(asked, made, before, wasSo, failed, stopped);
  }

  private void window(List<AmendmentRecord> records, boolean undo) {
    List<Boolean> asks =
        records.stream().map(record -> isUnsure(journal.state(record.number()))).toList();
    journal.begin(clock.instant(), records, undo);
    for (int i = 0; i < records.size(); i++) {
      AmendmentRecord record = records.get(i);
      if (stopped.isEmpty()) {
        one(record, asks.get(i), undo);
        progress.accept(made + before + wasSo + failed.size());
      } else {
        note(record, undo, Event.LEFT, "");
      }
    }
  }

  /** Whether the system may stand already as is wanted, by our own doing. */
  private static boolean isUnsure(State state) {
    return state.isOurs() && state != State.MADE;
  }

  private void one(AmendmentRecord record, boolean asks, boolean undo) {
    try {
      AmendmentRecord wanted = undo ? record.inverse() : record;
      if (asks && target.standing(wanted) == Standing.AFTER) {
        note(record, undo, Event.MADE, "found so after an interruption");
        made++;
        return;
      }
      LiveTarget.Result result = target.make(wanted);
      switch (result.outcome()) {
        case MADE -> {
          note(record, undo, Event.MADE, result.words());
          made++;
        }
        case NOT_AS_COUNTED_ON -> otherwise(record, wanted, undo);
        case REFUSED -> fail(record, undo, Event.REFUSED, result.words());
        case LOST -> stopped = result.words();
      }
    } catch (OutsideException e) {
      stopped = e.problem().what();
    }
  }

  /** The system does not stand as the record counts on. */
  private void otherwise(AmendmentRecord record, AmendmentRecord wanted, boolean undo) {
    if (target.standing(wanted) == Standing.AFTER) {
      note(record, undo, Event.WAS_SO, "");
      wasSo++;
    } else {
      fail(record, undo, Event.CHANGED_SINCE, target.found(wanted));
    }
  }

  private void fail(AmendmentRecord record, boolean undo, Event event, String why) {
    note(record, undo, event, why);
    failed.add(new Work.Failure(record, why));
    if (!goOn) {
      stopped = "stopped at the first that could not be made";
    }
  }

  private void note(AmendmentRecord record, boolean undo, Event event, String words) {
    journal.note(new Journal.Line(clock.instant(), record.number(), undo, event, words));
  }
}
