package org.sobercompass.sources.files;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.FileFacts;
import org.sobercompass.core.system.files.Nfs4Entry;

/**
 * Reads NFSv4 lists (RFC 7530 section 6) as text: {@code # file:}, {@code # owner:}, {@code #
 * group:}, then {@code A|D:flags:who:rights}, one entry a line. Who is {@code OWNER@}, {@code
 * GROUP@}, {@code EVERYONE@}, or a name with or without a domain; with flag {@code g} a group.
 */
final class Nfs4Reader {
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
    try {
      Nfs4Entry entry = Nfs4Entry.of(text);
      entries.add(entry.ace());
      trustees.add(trustee(entry.who(), entry.isGroup(), owner, group));
    } catch (MalformedException e) {
      problems.error(Place.of(name, line, e.at()), e.getMessage(), e.expected());
    }
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

  private static String decoded(String text) {
    byte[] raw = PathText.unescaped(text.strip().getBytes(StandardCharsets.ISO_8859_1));
    return new String(raw, StandardCharsets.UTF_8);
  }
}
