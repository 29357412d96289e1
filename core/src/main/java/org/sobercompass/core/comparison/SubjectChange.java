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
 * @param name what it is called, or was if it is gone
 * @param was what it was called, or below what it stood; empty of a new one
 * @param is what it is called, or below what it stands; empty of one that is gone
 */
public record SubjectChange(
    Kind kind, SubjectKind of, Key key, String name, String was, String is) {
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
