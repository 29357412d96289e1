package org.sobercompass.sources.files;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;

/** Entries of 1003.1e lists as text. */
final class PosixText {
  private PosixText() {}

  /** What was read with one character a byte, as the text it is. */
  static String text(String bytes) {
    return new String(bytes.getBytes(StandardCharsets.ISO_8859_1), StandardCharsets.UTF_8);
  }

  /** The entries of what {@code getfacl} says of one path: no comments, no effective rights. */
  static List<String> entries(String body) {
    return body.lines()
        .map(line -> line.replaceFirst("\\s*#.*", "").strip())
        .filter(line -> !line.isEmpty())
        .toList();
  }

  private static boolean decides(String entry) {
    return !entry.startsWith("default:") && !entry.startsWith("mask:");
  }

  /** The entries that decide, in the order in which systems look at them (1003.1e 23.1.5). */
  private static List<String> inOrder(List<String> entries) {
    List<String> sorted = new ArrayList<>(entries.stream().filter(PosixText::decides).toList());
    sorted.sort(Comparator.comparingInt(PosixText::rank));
    return sorted;
  }

  private static int rank(String entry) {
    if (entry.startsWith("user::")) {
      return 0;
    }
    if (entry.startsWith("user:")) {
      return 1;
    }
    return entry.startsWith("group::") ? 2 : entry.startsWith("group:") ? 3 : 4;
  }

  /**
   * A list without some entries. Of owner, owning group and others the permissions go, since their
   * entries must stand.
   *
   * @param gone by their order, from 0
   */
  static List<String> without(List<String> entries, Set<Integer> gone) {
    List<String> ordered = inOrder(entries);
    List<String> left = new ArrayList<>();
    for (String entry : entries) {
      int at = decides(entry) ? ordered.indexOf(entry) : -1;
      boolean named = entry.matches("(user|group):[^:]+:.*");
      if (!gone.contains(at)) {
        left.add(entry);
      } else if (!named) {
        left.add(entry.substring(0, entry.lastIndexOf(':') + 1) + "---");
      }
    }
    return left;
  }

  /** Whether two lists have the same entries, in any order. */
  static boolean isSame(String one, String other) {
    return Set.copyOf(one.lines().toList()).equals(Set.copyOf(other.lines().toList()));
  }
}
