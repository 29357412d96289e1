package org.sobercompass.sources.files;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.files.FileFacts;
import org.sobercompass.core.system.files.PosixList;
import org.sobercompass.sources.disk.Ending;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.text.TextFiles;

/**
 * Reads what {@code getfacl -R} writes: 1003.1e lists as long text, with owner, group and flags. A
 * list that many paths have is parsed once. O(bytes).
 */
final class GetfaclReader {
  /** Says that what is told of a path is its mode, and that there may be a list behind it. */
  static final String MODE_ONLY = "# mode only";

  /** Says that a path is a symbolic link, and where to; it has no list of its own. */
  static final String LINK = "# link: ";

  /** The first line of what this program collected: such a file has a last line too. */
  static final String COLLECTED = "# collected by sober, form 1";

  /** Says that a path is there and its list could not be read. */
  static final String UNREAD = "# unread";

  private final String name;
  private final PosixNames names;
  private final FileFacts.Builder into;
  private final PathText paths;
  private final Problems problems;
  private int links;
  private String firstLink = "";

  /** The lists, by number, that only folders have. */
  private final BitSet folders = new BitSet();

  GetfaclReader(String name, PosixNames names, FileFacts.Builder into, Problems problems) {
    this.name = name;
    this.names = names;
    this.into = into;
    this.paths = new PathText(into.paths());
    this.problems = problems;
  }

  void read(Path file) {
    ending(file);
    new Blocks(name, problems).read(file, this::block);
    links();
  }

  void read(InputStream in) throws IOException {
    new Blocks(name, problems).read(in, this::block);
    links();
  }

  /** What this program collected must be whole; what others wrote ends with an empty line. */
  private void ending(Path file) {
    if (!Files.isRegularFile(file)) {
      return;
    }
    try {
      boolean ours = TextFiles.startsWith(file, COLLECTED + "\n");
      boolean ends = Ending.check(file, name, Ending.Form.COMMENT, problems);
      if (ours && !ends) {
        problems.error(
            Place.of(name),
            "the file is cut off: its last line, which says how long it is, is missing",
            "the file as `sober collect files` wrote it; collect it again");
      } else if (!ends && !TextFiles.endsWith(file, "\n\n")) {
        problems.warning(
            Place.of(name),
            "the file does not end with the empty line that getfacl writes after each path: it"
                + " may be cut off",
            "the whole output of getfacl");
      }
    } catch (IOException e) {
      problems.error(Place.of(name), "the file cannot be read: " + OwnFiles.reason(e), "");
    }
  }

  private void links() {
    if (links > 0) {
      problems.warning(
          Place.of(name),
          (links == 1 ? "1 symbolic link is" : links + " symbolic links are")
              + " not followed, such as "
              + firstLink,
          "questions about what a link leads to, where its rights are");
    }
  }

  private void block(byte[] path, String body, int line) {
    if (body.startsWith(LINK)) {
      links++;
      if (firstLink.isEmpty()) {
        firstLink = quoted(path) + " to " + Problem.quote(decoded(body.substring(LINK.length())));
      }
      return;
    }
    int node = paths.node(path);
    if (node < 0) {
      problems.error(
          Place.of(name, line),
          "the path " + quoted(path) + " leads out of its tree",
          "a path without ..");
      return;
    }
    int list = into.knownList(body);
    if (list == FileFacts.UNREAD && !body.startsWith(UNREAD)) {
      list = parse(body, line, path);
    }
    boolean folder = list < 0 ? isFolder(body) : folders.get(list);
    if (!into.put(node, folder, list)) {
      problems.error(
          Place.of(name, line), "the path " + quoted(path) + " stands twice", "each path once");
    }
  }

  /** Only folders have default entries; a collector may say it too. */
  private static boolean isFolder(String body) {
    return body.contains("\ndefault:") || body.contains("# folder\n");
  }

  private static String quoted(byte[] path) {
    return Problem.quote(new String(PathText.clean(path), StandardCharsets.UTF_8));
  }

  private int parse(String body, int line, byte[] path) {
    Parse parse = new Parse(line);
    for (String text : body.split("\n")) {
      parse.line++;
      parse.take(text);
    }
    if (parse.failed) {
      return FileFacts.UNREAD;
    }
    String lacks = parse.lacks();
    if (!lacks.isEmpty()) {
      problems.error(
          Place.of(name, line),
          "the list of " + quoted(path) + " has no " + lacks + ": it is cut off, or no list",
          "owner, group, user::, group:: and other::, and a mask where users or groups are named");
      return FileFacts.UNREAD;
    }
    int made = into.list(body, parse.made());
    folders.set(made, isFolder(body));
    return made;
  }

  /** The lines of one block. */
  private final class Parse {
    private int line;
    private boolean failed;
    private int owner = -1;
    private int group = -1;
    private int special;
    private int ownerMay = -1;
    private int groupMay = -1;
    private int otherMay = -1;
    private int mask = -1;
    private final IntList users = new IntList();
    private final IntList userMay = new IntList();
    private final IntList groups = new IntList();
    private final IntList groupsMay = new IntList();
    private final List<String> defaults = new ArrayList<>();
    private boolean modeOnly;

    Parse(int line) {
      this.line = line;
    }

    void take(String text) {
      if (text.startsWith("# owner: ")) {
        owner = names.user(decoded(text.substring(9)));
      } else if (text.startsWith("# group: ")) {
        group = names.group(decoded(text.substring(9)));
      } else if (text.startsWith("# flags: ")) {
        flags(text.substring(9));
      } else if (text.startsWith("default:")) {
        defaults.add(decoded(text.substring(8)).replaceAll("\\s.*", ""));
      } else if (text.equals(MODE_ONLY)) {
        modeOnly = true;
      } else if (!text.startsWith("#") && !text.isEmpty()) {
        int comment = text.indexOf('#');
        entry((comment < 0 ? text : text.substring(0, comment)).stripTrailing());
      }
    }

    private void flags(String text) {
      if (!text.matches("[s-][s-][t-]")) {
        wrong(text, "no flags", "three of s, s, t or -");
        return;
      }
      special =
          (text.charAt(0) == 's' ? 4 : 0)
              | (text.charAt(1) == 's' ? 2 : 0)
              | (text.charAt(2) == 't' ? 1 : 0);
    }

    private void entry(String text) {
      int last = text.lastIndexOf(':');
      int first = text.indexOf(':');
      int may = last < 0 ? -1 : may(text.substring(last + 1));
      if (may < 0 || first == last) {
        wrong(text, "no entry", "user:NAME:rwx, group:NAME:rwx, mask::rwx or other::rwx");
        return;
      }
      String who = decoded(text.substring(first + 1, last));
      switch (text.substring(0, first)) {
        case "user" -> user(who, may);
        case "group" -> group(who, may);
        case "mask" -> mask = once(text, mask, may);
        case "other" -> otherMay = once(text, otherMay, may);
        default -> wrong(text, "no entry", "user, group, mask or other");
      }
    }

    private void user(String who, int may) {
      if (who.isEmpty()) {
        ownerMay = once("user::", ownerMay, may);
      } else {
        twice("user:" + who, users.contains(names.user(who)));
        users.add(names.user(who));
        userMay.add(may);
      }
    }

    private void group(String who, int may) {
      if (who.isEmpty()) {
        groupMay = once("group::", groupMay, may);
      } else {
        twice("group:" + who, groups.contains(names.group(who)));
        groups.add(names.group(who));
        groupsMay.add(may);
      }
    }

    private int once(String text, int before, int may) {
      twice(text, before >= 0);
      return may;
    }

    private void twice(String text, boolean isThere) {
      if (isThere) {
        wrong(text, "there twice", "each entry once in a list (1003.1e)");
      }
    }

    private int may(String text) {
      if (!text.matches("[r-][w-][x-]")) {
        return -1;
      }
      return (text.charAt(0) == 'r' ? 4 : 0)
          | (text.charAt(1) == 'w' ? 2 : 0)
          | (text.charAt(2) == 'x' ? 1 : 0);
    }

    private void wrong(String text, String what, String expected) {
      failed = true;
      problems.error(Place.of(name, line), Problem.quote(text) + " is " + what, expected);
    }

    String lacks() {
      boolean named = !users.isEmpty() || !groups.isEmpty();
      return owner < 0
          ? "owner"
          : group < 0
              ? "group"
              : ownerMay < 0
                  ? "user::"
                  : groupMay < 0
                      ? "group::"
                      : otherMay < 0 ? "other::" : named && mask < 0 ? "mask::" : "";
    }

    PosixList made() {
      return new PosixList(
          new PosixList.Parts(
              owner,
              group,
              names.trustees().find("u:0"),
              ownerMay,
              groupMay,
              otherMay,
              mask,
              special,
              users.toArray(),
              userMay.toArray(),
              groups.toArray(),
              groupsMay.toArray(),
              defaults,
              modeOnly ? groupMay : 0));
    }
  }

  /** Bytes, one a character, as text; escapes taken back. */
  private static String decoded(String text) {
    byte[] raw = PathText.unescaped(text.strip().getBytes(StandardCharsets.ISO_8859_1));
    return new String(raw, StandardCharsets.UTF_8);
  }
}
