package org.sobercompass.core.problem;

import java.util.List;

/**
 * Something that was not read, so that what depends on it is not known. A gap goes with every
 * answer that it could change.
 *
 * @param kind what was not read
 * @param sources the directories or systems it was not read of
 * @param missing of how many objects it was not read; 0 where all of them are meant
 * @param of how many there are
 */
public record Gap(Kind kind, List<String> sources, int missing, int of) {
  /** Copies. */
  public Gap {
    sources = List.copyOf(sources);
  }

  /** That the access rules of directories were not read. */
  public static Gap rules(List<String> directories) {
    return new Gap(Kind.RULES, directories, 0, 0);
  }

  /** What was not read. */
  public enum Kind {
    /** The access rules of a directory: they stand in its configuration, which is not read yet. */
    RULES,
    /** The access control lists of some objects of a directory. */
    LISTS,
    /** The access control lists of some files, folders or tables. */
    FILE_LISTS
  }

  /** Whether it could have been read, so that somebody can mend it. */
  public boolean isMendable() {
    return kind != Kind.RULES;
  }

  /** What was not read and what that means, one sentence without a full stop. */
  public String words() {
    String names = String.join(", ", sources);
    return switch (kind) {
      case RULES ->
          "the access rules of "
              + names
              + " were not read: who can act on what is in them is undecided, beyond what admin"
              + " roles give";
      case LISTS, FILE_LISTS ->
          missing
              + " of "
              + of
              + " access control lists of "
              + names
              + " were not read; what depends on them is undecided";
    };
  }

  /** How it can be mended. */
  public String mend() {
    return kind == Kind.RULES
        ? "nothing for now; admin roles over admin scopes are known"
        : "read as somebody who may see them all";
  }
}
