package org.sobercompass.core.access;

/** Is told how far long work is. Calls may come from any thread, but not from two at once. */
public interface Progress {
  /** Nobody is told. */
  Progress NONE =
      new Progress() {
        @Override
        public void begin(String stage) {
          // Nobody wants to know.
        }

        @Override
        public void at(int done, int all) {
          // Nobody wants to know.
        }
      };

  /** A stage of the work begins, and the one before it is over. */
  void begin(String stage);

  /**
   * So many things of a stage are done, of so many. A stage may go over all of them several times,
   * each time from the start.
   */
  void at(int done, int all);
}
