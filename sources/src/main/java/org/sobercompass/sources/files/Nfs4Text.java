package org.sobercompass.sources.files;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.system.files.Nfs4Entry;

/**
 * Whole lists of NFSv4 as text, an entry a line, in the order in which they decide. With the owner
 * and the owning group before them where those change.
 *
 * @param owner the owner, where the text says one
 * @param group the owning group, where the text says one
 * @param entries in their order
 */
record Nfs4Text(Optional<String> owner, Optional<String> group, List<Nfs4Entry> entries) {
  private static final String OWNER = "# owner: ";
  private static final String GROUP = "# group: ";

  /** Of what was read, with the owner and group where they are asked for. */
  static String of(Descriptor descriptor, boolean owned) {
    List<String> lines = new ArrayList<>();
    if (owned) {
      lines.add(OWNER + descriptor.owner().orElse(""));
      lines.add(GROUP + descriptor.group().orElse(""));
    }
    for (Ace ace : descriptor.entries()) {
      lines.add(Nfs4Entry.text(ace));
    }
    return String.join("\n", lines);
  }

  /**
   * Reads a list as {@link #of} writes it.
   *
   * @throws IllegalArgumentException when a line is no entry
   */
  static Nfs4Text read(String text) {
    Optional<String> owner = Optional.empty();
    Optional<String> group = Optional.empty();
    List<Nfs4Entry> entries = new ArrayList<>();
    for (String line : text.lines().toList()) {
      if (line.startsWith(OWNER)) {
        owner = Optional.of(line.substring(OWNER.length()));
      } else if (line.startsWith(GROUP)) {
        group = Optional.of(line.substring(GROUP.length()));
      } else {
        entries.add(entry(line));
      }
    }
    return new Nfs4Text(owner, group, List.copyOf(entries));
  }

  private static Nfs4Entry entry(String line) {
    try {
      return Nfs4Entry.of(line);
    } catch (MalformedException e) {
      throw new IllegalArgumentException(line, e);
    }
  }

  /** Whether two say the same; a host may write a name with its domain or without. */
  static boolean isSame(String text, String otherText) {
    Nfs4Text one = read(text);
    Nfs4Text other = read(otherText);
    return one.owner.map(Nfs4Entry::plain).equals(other.owner.map(Nfs4Entry::plain))
        && one.group.map(Nfs4Entry::plain).equals(other.group.map(Nfs4Entry::plain))
        && plain(one.entries).equals(plain(other.entries));
  }

  private static List<Nfs4Entry> plain(List<Nfs4Entry> entries) {
    return entries.stream()
        .map(
            e ->
                new Nfs4Entry(e.type(), e.flags(), e.mask(), Nfs4Entry.plain(e.who()), e.isGroup()))
        .toList();
  }

  /** As text again. */
  @Override
  public String toString() {
    List<String> lines = new ArrayList<>();
    owner.ifPresent(who -> lines.add(OWNER + who));
    group.ifPresent(who -> lines.add(GROUP + who));
    entries.forEach(entry -> lines.add(Nfs4Entry.text(entry.ace())));
    return String.join("\n", lines);
  }
}
