package org.sobercompass.core.removal;

import org.sobercompass.core.system.Change;

/** What has to be known of entries and admin roles to weigh their removals. */
public interface Delegated {
  /** Nothing is delegated. */
  Delegated NOTHING =
      new Delegated() {
        @Override
        public int accounts(Change.OfDirectory removal) {
          return 0;
        }

        @Override
        public int carried(int subject) {
          return 0;
        }

        @Override
        public String key(Change.OfDirectory removal) {
          return removal.toString();
        }
      };

  /** How many accounts lose something at most by a removal. */
  int accounts(Change.OfDirectory removal);

  /** How many entries and admin roles name a subject itself. */
  int carried(int subject);

  /** A stable key of a removal. */
  String key(Change.OfDirectory removal);
}
