package org.sobercompass.sources.files;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Entries of 1003.1e lists as text. */
final class PosixText {
  private static final String OWNER = "# owner: ";
  private static final String GROUP = "# group: ";
  private static final String FLAGS = "# flags: ";

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

  /** Who owns a path, by what {@code getfacl} says of it: the lines with owner and group. */
  static List<String> owners(String body) {
    return body.lines().map(String::strip).filter(PosixText::isOwner).toList();
  }

  private static boolean isOwner(String line) {
    return line.startsWith(OWNER) || line.startsWith(GROUP);
  }

  /**
   * The line with set-user-id, set-group-id and sticky, where one of them is set: without it {@code
   * setfacl --restore} takes them away.
   */
  static List<String> flags(String body) {
    return body.lines().map(String::strip).filter(line -> line.startsWith(FLAGS)).toList();
  }

  /** A list that begins with its owners, with another of them. */
  static List<String> owned(List<String> list, String text) {
    String line = text.startsWith("owner:") ? OWNER : GROUP;
    String who = text.substring(text.indexOf(':') + 1);
    return list.stream().map(l -> l.startsWith(line) ? line + who : l).toList();
  }

  /** A list without a default entry. */
  static List<String> withoutDefault(List<String> list, String text) {
    String who = text.substring(0, text.lastIndexOf(':') + 1);
    return list.stream().filter(entry -> !entry.startsWith(who)).toList();
  }

  /** Whether a list names somebody otherwise than by number. */
  static boolean isOfNames(List<String> list) {
    return list.stream()
        .anyMatch(
            line ->
                line.matches(".*(user|group):[^:0-9][^:]*:.*")
                    || isOwner(line) && !line.matches(".*: [0-9]+"));
  }

  private static boolean decides(String entry) {
    return !entry.startsWith("#") && !entry.startsWith("default:") && !entry.startsWith("mask:");
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

  /**
   * A list with one more entry, as it is said. The entry of the owner, of the owning group or of
   * others gets the permissions; a default list that was not there gets the three that every list
   * has; the mask lets what is new through.
   */
  static List<String> with(List<String> entries, String more) {
    String prefix = more.startsWith("default:") ? "default:" : "";
    List<String> list = new ArrayList<>(entries);
    boolean none = list.stream().noneMatch(entry -> entry.startsWith(prefix + "user::"));
    if (none) {
      for (String who : List.of("user::", "group::", "other::")) {
        entries.stream()
            .filter(entry -> entry.startsWith(who))
            .forEach(entry -> list.add(prefix + entry));
      }
    }
    String who = more.substring(0, more.lastIndexOf(':') + 1);
    boolean named = more.matches("(default:)?(user|group):[^:]+:.*");
    list.removeIf(entry -> entry.startsWith(who));
    list.add(more);
    String mask = prefix + "mask::";
    Optional<String> was = list.stream().filter(entry -> entry.startsWith(mask)).findFirst();
    if (named || (was.isPresent() && who.equals(prefix + "group::"))) {
      String base =
          was.orElseGet(
              () ->
                  list.stream()
                      .filter(entry -> entry.startsWith(prefix + "group::"))
                      .findFirst()
                      .orElse("---"));
      list.removeIf(entry -> entry.startsWith(mask));
      list.add(mask + both(base, more));
    }
    return list;
  }

  /** The permissions that one of two entries has. */
  private static String both(String one, String other) {
    StringBuilder both = new StringBuilder();
    for (int i = 3; i > 0; i--) {
      char a = one.charAt(one.length() - i);
      both.append(a == '-' ? other.charAt(other.length() - i) : a);
    }
    return both.toString();
  }

  /** Whether two lists have the same entries, in any order. */
  static boolean isSame(String one, String other) {
    return Set.copyOf(one.lines().toList()).equals(Set.copyOf(other.lines().toList()));
  }
}
