package org.sobercompass.core.problem;

/**
 * Where something stands: a file (as the user named it, relative to the workspace), line and column
 * from 1 (0 when unknown), and the name of the entry (a DN, a role) when there is one.
 */
public record Place(String file, int line, int column, String entry) implements Comparable<Place> {

  /** A whole file. */
  public static Place of(String file) {
    return new Place(file, 0, 0, "");
  }

  /** A line of a file. */
  public static Place of(String file, int line) {
    return new Place(file, line, 0, "");
  }

  /** A line and column of a file. */
  public static Place of(String file, int line, int column) {
    return new Place(file, line, column, "");
  }

  /** The same place with the name of the entry that stands there. */
  public Place entry(String name) {
    return new Place(file, line, column, name);
  }

  @Override
  public int compareTo(Place other) {
    int by = file.compareTo(other.file);
    by = by != 0 ? by : Integer.compare(line, other.line);
    by = by != 0 ? by : Integer.compare(column, other.column);
    return by != 0 ? by : entry.compareTo(other.entry);
  }

  /** {@code file:line:column (entry)}, leaving out what is unknown. */
  @Override
  public String toString() {
    StringBuilder out = new StringBuilder(file);
    if (line > 0) {
      out.append(':').append(line);
      if (column > 0) {
        out.append(':').append(column);
      }
    }
    if (!entry.isEmpty()) {
      out.append(out.isEmpty() ? "" : " ").append('(').append(entry).append(')');
    }
    return out.toString();
  }
}
