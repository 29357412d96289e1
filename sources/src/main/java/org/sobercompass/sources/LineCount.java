package org.sobercompass.sources;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.core.problem.Completeness;

/**
 * How many entries an export has, and how many of them bear each attribute, counted by its lines;
 * what they hold is checked when they are read.
 *
 * @param entries how many entries
 * @param returned how many bear an attribute (lower case)
 */
public record LineCount(int entries, Map<String, Integer> returned) {

  /** Counts an LDIF file (RFC 2849). O(bytes). */
  public static LineCount ofLdif(Path ldif) {
    Map<String, Integer> returned = new TreeMap<>();
    Map<String, String> names = new HashMap<>();
    Set<String> met = new HashSet<>();
    int entries = 0;
    try (BufferedReader in = Files.newBufferedReader(ldif, StandardCharsets.ISO_8859_1)) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        int colon = line.indexOf(':');
        boolean isName = colon > 0 && line.charAt(0) != ' ' && line.charAt(0) != '#';
        if (isName) {
          String name = names.computeIfAbsent(line.substring(0, colon), LineCount::plain);
          if (name.equals("dn")) {
            entries++;
            met.clear();
          } else if (!name.equals("version") && met.add(name)) {
            returned.merge(name, 1, Integer::sum);
          }
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return new LineCount(entries, returned);
  }

  /** Counts the lines of a file that are not blank. O(bytes). */
  public static LineCount ofLines(Path file) {
    try (var lines = Files.lines(file, StandardCharsets.ISO_8859_1)) {
      return new LineCount((int) lines.filter(line -> !line.isBlank()).count(), Map.of());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static String plain(String written) {
    int option = written.indexOf(';');
    return (option < 0 ? written : written.substring(0, option)).toLowerCase(Locale.ROOT);
  }

  /** The same by attribute; an export does not say what was withheld. */
  public List<Completeness> completeness(String source) {
    List<Completeness> all = new ArrayList<>();
    returned.forEach((name, count) -> all.add(new Completeness(source, name, entries, count, 0)));
    return all;
  }
}
