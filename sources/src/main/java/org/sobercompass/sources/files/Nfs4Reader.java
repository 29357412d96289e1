package org.sobercompass.sources.files;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.FileFacts;

/**
 * Reads NFSv4 lists (RFC 7530 section 6) as text: {@code # file:}, {@code # owner:}, {@code #
 * group:}, then {@code A|D:flags:who:rights}, one entry a line. Who is {@code OWNER@}, {@code
 * GROUP@}, {@code EVERYONE@}, or a name with or without a domain; with flag {@code g} a group.
 */
final class Nfs4Reader {
  private static final String RIGHTS = "rwaxdDtTnNcCoy";
  private static final int[] BITS = {
    0x1, 0x2, 0x4, 0x20, 0x1_0000, 0x40, 0x80, 0x100, 0x8, 0x10, 0x2_0000, 0x4_0000, 0x8_0000,
    0x10_0000
  };

  private final String name;
  private final PosixNames names;
  private final FileFacts.Builder into;
  private final PathText paths;
  private final Problems problems;

  Nfs4Reader(String name, PosixNames names, FileFacts.Builder into, Problems problems) {
    this.name = name;
    this.names = names;
    this.into = into;
    this.paths = new PathText(into.paths());
    this.problems = problems;
  }

  void read(Path file) {
    new Blocks(name, problems).read(file, this::block);
  }

  private void block(byte[] path, String body, int line) {
    int node = paths.node(path);
    if (node < 0) {
      problems.error(Place.of(name, line), "the path leads out of its tree", "a path without ..");
      return;
    }
    int list = parse(body, line);
    if (!into.put(node, body.contains("# folder"), list)) {
      problems.error(Place.of(name, line), "the path stands twice", "each path once");
    }
  }

  private int parse(String body, int line) {
    List<Ace> entries = new ArrayList<>();
    IntList trustees = new IntList();
    String owner = "";
    String group = "";
    int errors = problems.errors();
    int at = line;
    for (String text : body.split("\n")) {
      at++;
      if (text.startsWith("# owner: ")) {
        owner = decoded(text.substring(9));
      } else if (text.startsWith("# group: ")) {
        group = decoded(text.substring(9));
      } else if (!text.startsWith("#")) {
        entry(decoded(text), at, owner, group, entries, trustees);
      }
    }
    if (owner.isEmpty() || group.isEmpty() || entries.isEmpty()) {
      problems.error(
          Place.of(name, line),
          "the list has no " + (owner.isEmpty() ? "owner" : group.isEmpty() ? "group" : "entries"),
          "# owner:, # group:, and at least one entry; a file may be cut off");
    }
    if (problems.errors() > errors) {
      return FileFacts.UNREAD;
    }
    Descriptor descriptor =
        new Descriptor(
            Descriptor.DACL_PRESENT,
            Optional.of(owner),
            Optional.of(group),
            Optional.of(entries),
            Optional.empty());
    return into.list(descriptor, names.user(plain(owner)), trustees.toArray());
  }

  private void entry(
      String text, int line, String owner, String group, List<Ace> entries, IntList trustees) {
    String[] parts = text.split(":", -1);
    if (parts.length != 4) {
      wrong(line, 1, text, "no entry", "TYPE:FLAGS:WHO:RIGHTS");
      return;
    }
    Optional<AceType> type = type(parts[0]);
    int flags = flags(parts[1], line, parts[0].length() + 2);
    int mask = mask(parts[3], line, text.length() - parts[3].length() + 1);
    if (type.isEmpty()) {
      wrong(line, 1, parts[0], "no type of entry", "A, D, U or L");
      return;
    }
    if (flags < 0 || mask < 0) {
      return;
    }
    entries.add(Ace.of(type.get(), flags, mask, parts[2] + (parts[1].contains("g") ? " (g)" : "")));
    trustees.add(trustee(parts[2], parts[1].contains("g"), owner, group));
  }

  private int trustee(String who, boolean isGroup, String owner, String group) {
    return switch (who) {
      case "OWNER@" -> names.user(plain(owner));
      case "GROUP@" -> names.group(plain(group));
      case "EVERYONE@" -> Trustees.EVERYONE;
      default -> isGroup ? names.group(plain(who)) : names.user(plain(who));
    };
  }

  /** A name without its domain. */
  private static String plain(String who) {
    int at = who.indexOf('@');
    return at > 0 ? who.substring(0, at) : who;
  }

  private static Optional<AceType> type(String letter) {
    return switch (letter) {
      case "A" -> Optional.of(AceType.ALLOW);
      case "D" -> Optional.of(AceType.DENY);
      case "U" -> Optional.of(AceType.AUDIT);
      case "L" -> Optional.of(AceType.ALARM);
      default -> Optional.empty();
    };
  }

  private int flags(String text, int line, int column) {
    int flags = 0;
    for (int i = 0; i < text.length(); i++) {
      switch (text.charAt(i)) {
        case 'f' -> flags |= Ace.OBJECTS;
        case 'd' -> flags |= Ace.CHILDREN;
        case 'n' -> flags |= Ace.NEXT_ONLY;
        case 'i' -> flags |= Ace.BELOW_ONLY;
        case 'I' -> flags |= Ace.INHERITED;
        case 'g', 'S', 'F' -> {}
        default -> {
          wrong(line, column + i, text, "no flags", "letters of f d n i I g S F");
          return -1;
        }
      }
    }
    return flags;
  }

  private int mask(String text, int line, int column) {
    int mask = 0;
    for (int i = 0; i < text.length(); i++) {
      int at = RIGHTS.indexOf(text.charAt(i));
      if (at < 0) {
        wrong(line, column + i, text, "no rights", "letters of " + RIGHTS);
        return -1;
      }
      mask |= BITS[at];
    }
    return mask;
  }

  private void wrong(int line, int column, String text, String what, String expected) {
    problems.error(Place.of(name, line, column), Problem.quote(text) + " is " + what, expected);
  }

  private static String decoded(String text) {
    byte[] raw = PathText.unescaped(text.strip().getBytes(StandardCharsets.ISO_8859_1));
    return new String(raw, StandardCharsets.UTF_8);
  }
}
