package org.sobercompass.core.comparison;

import java.util.Locale;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;

/**
 * An account or group that is new, gone, or called otherwise; by its immutable id.
 *
 * @param kind what differs
 * @param of account or group
 * @param key the key
 * @param was what it was called, or its DN; empty of a new one
 * @param is what it is called, or its DN; empty of one that is gone
 */
public record SubjectChange(Kind kind, SubjectKind of, Key key, String was, String is) {
  /** What differs. */
  public enum Kind {
    NEW,
    GONE,
    RENAMED,
    MOVED;

    private final String word = name().toLowerCase(Locale.ROOT);

    /** The word for it. */
    public String word() {
      return word;
    }
  }
}
