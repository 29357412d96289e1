package org.sobercompass.core.amendment;

/**
 * A live system, reached and signed in to, that can be asked and changed. Not thread-safe.
 *
 * <p>A change is made only where the system still stands as the record counts on; the system itself
 * decides that where it can, so that a change made meanwhile by somebody else is never overwritten.
 */
public interface LiveTarget extends AutoCloseable {
  /** As whom the system knows us. */
  String identity();

  /** Where it is and how the way there is protected, in words. */
  String reached();

  /**
   * How the system stands to a record now.
   *
   * @throws org.sobercompass.core.problem.OutsideException when it cannot be asked any more
   */
  Standing standing(AmendmentRecord record);

  /**
   * What is there now in place of what the record counts on, in words; asked when it stands as
   * neither.
   */
  String found(AmendmentRecord record);

  /** Makes a record, whole or not at all. */
  Result make(AmendmentRecord record);

  @Override
  void close();

  /** How it went. */
  enum Outcome {
    /** It was made. */
    MADE,
    /** The system does not stand as the record counts on; nothing was changed. */
    NOT_AS_COUNTED_ON,
    /** The system refused; nothing was changed. */
    REFUSED,
    /** The way to the system broke: it may have been made or not. */
    LOST
  }

  /**
   * How making a record went.
   *
   * @param words why, where it was not made
   */
  record Result(Outcome outcome, String words) {
    /** It was made. */
    public static final Result MADE = new Result(Outcome.MADE, "");
  }
}
