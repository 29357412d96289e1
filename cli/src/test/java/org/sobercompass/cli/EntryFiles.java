package org.sobercompass.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.CRC32;
import org.sobercompass.core.proposal.Step;

/**
 * Takes entries out of the demo's collected files as an administrator would on the system: with
 * what they handed on below. Written apart from the product's own readers.
 */
final class EntryFiles {
  /** The systems that have entries of lists; of others the product writes the rows itself. */
  static final Set<String> LISTS =
      Set.of("fernstore", "fieldshare", "fieldbook", "directory desks");

  private static final Pattern ACE = Pattern.compile("\\([^)]*\\)");

  private final Path root;

  EntryFiles(Path root) {
    this.root = root;
  }

  /**
   * Makes a removal; the id of an entry says the place, its number in the list, and the trustee.
   */
  void remove(Step.Entry entry) throws IOException {
    Matcher id = Pattern.compile("(.*) (\\d+)(?: (\\S*))?").matcher(entry.entry());
    if (!id.matches()) {
      throw new IllegalArgumentException(entry.entry());
    }
    String place = id.group(1).strip();
    int number = Integer.parseInt(id.group(2));
    switch (entry.system()) {
      case "fernstore" -> posix(place, number, id.group(3));
      case "fieldshare" -> shared(place, number - 1);
      case "fieldbook" -> database(place);
      case "directory desks" -> directory(place.replaceFirst("^desks ", ""), number);
      default -> throw new IllegalArgumentException(entry.system());
    }
  }

  private List<String> lines(String file) throws IOException {
    return new ArrayList<>(Files.readAllLines(root.resolve(file)));
  }

  private void write(String file, List<String> lines) throws IOException {
    Files.writeString(root.resolve(file), String.join("\n", lines) + "\n");
  }

  /** What others may is set to nothing; the line of a named user goes. */
  private void posix(String path, int number, String user) throws IOException {
    List<String> lines = lines("files/fernstore.getfacl");
    int at = lines.indexOf("# file: " + path) + 1;
    while (lines.get(at).startsWith("#")) {
      at++;
    }
    List<String> own = new ArrayList<>();
    for (int i = at; i < lines.size() && !lines.get(i).isEmpty(); i++) {
      own.add(lines.get(i));
    }
    boolean other = user == null || user.isEmpty();
    String begins = other ? "other:" : "user:";
    List<String> fitting =
        own.stream().filter(l -> l.startsWith(begins) && !l.startsWith("user::")).toList();
    if (fitting.size() != 1) {
      throw new IllegalArgumentException(path + " " + number + ": " + fitting);
    }
    int line = at + own.indexOf(fitting.get(0));
    if (other) {
      lines.set(line, "other::---");
    } else {
      lines.remove(line);
    }
    write("files/fernstore.getfacl", lines);
  }

  private void shared(String path, int number) throws IOException {
    List<String> lines = lines("files/fieldshare.csv");
    List<String> cut = new ArrayList<>();
    String gone = "";
    for (int i = 1; i < lines.size(); i++) {
      String[] parts = lines.get(i).split(",", 3);
      boolean below = !gone.isEmpty() && parts[0].startsWith(path + "/");
      boolean shut = cut.stream().anyMatch(c -> parts[0].equals(c) || parts[0].startsWith(c + "/"));
      if (parts[0].equals(path) && gone.isEmpty() && !parts[1].equals("share")) {
        gone = aces(parts[2]).get(number);
        lines.set(i, parts[0] + "," + parts[1] + "," + without(parts[2], number));
      } else if (below && !shut && parts[2].contains("D:P")) {
        cut.add(parts[0]);
      } else if (below && !shut) {
        lines.set(i, parts[0] + "," + parts[1] + "," + withoutInherited(parts[2], gone));
      }
    }
    write("files/fieldshare.csv", lines);
  }

  private void directory(String dn, int number) throws IOException {
    List<String> lines = lines("directory/desks.ldif");
    String gone = "";
    String at = "";
    for (int i = 0; i < lines.size(); i++) {
      String line = lines.get(i);
      if (line.startsWith("dn: ")) {
        at = line.substring(4).toLowerCase(java.util.Locale.ROOT);
      } else if (line.startsWith("nTSecurityDescriptor: ") && at.equals(dn)) {
        gone = aces(line).get(number);
        lines.set(i, without(line, number));
      }
    }
    at = "";
    for (int i = 0; i < lines.size(); i++) {
      String line = lines.get(i);
      if (line.startsWith("dn: ")) {
        at = line.substring(4).toLowerCase(java.util.Locale.ROOT);
      } else if (line.startsWith("nTSecurityDescriptor: ") && at.endsWith("," + dn)) {
        lines.set(i, withoutInherited(line, gone));
      }
    }
    write("directory/desks.ldif", lines);
  }

  private static List<String> aces(String sddl) {
    return ACE.matcher(sddl).results().map(r -> r.group()).toList();
  }

  private static String without(String sddl, int number) {
    List<String> aces = aces(sddl);
    List<String> left = new ArrayList<>(aces);
    left.remove(number);
    return sddl.substring(0, sddl.indexOf(aces.get(0))) + String.join("", left);
  }

  /** Without what came from an entry above: inherited, with its rights for its trustee. */
  private static String withoutInherited(String sddl, String entry) {
    String[] above = entry.substring(1, entry.length() - 1).split(";", -1);
    List<String> aces = aces(sddl);
    for (int i = 0; i < aces.size(); i++) {
      String[] own = aces.get(i).substring(1, aces.get(i).length() - 1).split(";", -1);
      boolean same = own[0].equals(above[0]) && own[2].equals(above[2]) && own[5].equals(above[5]);
      if (same && own[1].contains("ID")) {
        return without(sddl, i);
      }
    }
    return sddl;
  }

  /** A grant of a relation, by the role that the place ends with; nobody named is everybody. */
  private void database(String place) throws IOException {
    Matcher named = Pattern.compile("/fieldbook/([a-z_]+)/([a-z_]+)(?: (\\S+))?").matcher(place);
    if (!named.matches()) {
      throw new IllegalArgumentException(place);
    }
    String role = named.group(3) == null ? "" : named.group(3);
    List<String> lines = lines("files/fieldbook.jsonl");
    String from =
        "\"kind\":\"relation\",\"schema\":\"" + named.group(1) + "\",\"name\":\"" + named.group(2);
    for (int i = 0; i < lines.size(); i++) {
      if (lines.get(i).contains(from + "\"")) {
        lines.set(i, lines.get(i).replaceFirst(",\"" + role + "=[^\"]*\"", ""));
      }
    }
    lines.remove(lines.size() - 1);
    CRC32 sum = new CRC32();
    sum.update((String.join("\n", lines) + "\n").getBytes(StandardCharsets.UTF_8));
    lines.add(
        String.format(
            "{\"kind\":\"end\",\"lines\":%d,\"crc32\":\"%08x\"}", lines.size(), sum.getValue()));
    write("files/fieldbook.jsonl", lines);
  }
}
