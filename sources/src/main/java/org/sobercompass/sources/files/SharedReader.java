package org.sobercompass.sources.files;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.files.FileFacts;
import org.sobercompass.sources.descriptor.DescriptorCodec;
import org.sobercompass.sources.text.CsvReader;

/**
 * Reads paths with descriptors: {@code path,kind,list} as CSV or JSON lines, the list as SDDL or as
 * the binary form in base64. A list that many paths have is parsed once; one that cannot be read
 * leaves its path undecided and is told.
 */
final class SharedReader {
  private static final List<String> COLUMNS = List.of("path", "kind", "list");

  private final String name;
  private final Optional<String> domain;
  private final SidNames names;
  private final FileFacts.Builder into;
  private final PathText paths;
  private final Problems problems;
  private final Map<String, Integer> known = new HashMap<>();

  SharedReader(
      String name,
      Optional<String> domain,
      SidNames names,
      FileFacts.Builder into,
      Problems problems) {
    this.name = name;
    this.domain = domain;
    this.names = names;
    this.into = into;
    this.paths = new PathText(into.paths());
    this.problems = problems;
  }

  void read(Path file) {
    if (name.toLowerCase(Locale.ROOT).endsWith(".jsonl")) {
      new JsonRows(name, problems).read(file, this::row);
    } else {
      new CsvReader(name, COLUMNS, COLUMNS, problems)
          .read(file, row -> row(row.get("path"), row.get("kind"), row.get("list"), row.place()));
    }
  }

  private void row(String path, String kind, String list, Place place) {
    String slashes = path.replace('\\', '/');
    int node = paths.node(slashes.getBytes(StandardCharsets.UTF_8));
    if (node < 0) {
      problems.error(
          place, "the path " + Problem.quote(path) + " leads out of its tree", "a path without ..");
      return;
    }
    boolean folder = kind.equalsIgnoreCase("folder");
    if (!folder && !kind.equalsIgnoreCase("file")) {
      problems.unknown(
          place,
          Problem.quote(kind) + " is neither folder nor file",
          "folder or file",
          kind,
          List.of("folder", "file"));
    }
    Integer number = known.get(list);
    if (number == null) {
      number = parse(list, place).map(this::list).orElse(FileFacts.UNREAD);
      known.put(list, number);
    }
    if (!into.put(node, folder, number)) {
      problems.error(place, "the path " + Problem.quote(path) + " stands twice", "each path once");
    }
  }

  /** A descriptor as SDDL or base64; a problem when it is neither. */
  Optional<Descriptor> parse(String list, Place place) {
    if (!list.contains("D:") && (list.isEmpty() || list.indexOf(':') >= 0)) {
      problems.warning(
          place,
          "there is no list: it could not be read, or was not asked for",
          "D: and entries, or D:NO_ACCESS_CONTROL where there is none; until then the path is"
              + " undecided");
      return Optional.empty();
    }
    try {
      boolean text = list.indexOf(':') >= 0;
      return Optional.of(
          text ? Sddl.read(list, domain) : DescriptorCodec.read(Base64.getDecoder().decode(list)));
    } catch (MalformedException e) {
      problems.warning(
          place,
          "the list cannot be read at its "
              + (list.indexOf(':') >= 0 ? "column " : "byte ")
              + e.at()
              + ": "
              + e.getMessage(),
          e.expected() + "; until then the path is undecided");
    } catch (IllegalArgumentException e) {
      problems.warning(
          place,
          "the list " + Problem.quote(list) + " is neither SDDL nor base64",
          "O:...G:...D:..., or the binary form in base64; until then the path is undecided");
    }
    return Optional.empty();
  }

  private int list(Descriptor descriptor) {
    int owner = descriptor.owner().map(names::trustee).orElse(-1);
    return into.list(descriptor, owner, trustees(descriptor, owner));
  }

  /** The trustees of the entries of a descriptor; the owner's where an entry means whoever owns. */
  int[] trustees(Descriptor descriptor, int owner) {
    return descriptor.entries().stream()
        .map(Ace::trustee)
        .mapToInt(
            sid ->
                sid.isEmpty()
                    ? -1
                    : sid.equals(WellKnown.OWNER_RIGHTS) ? owner : names.trustee(sid))
        .toArray();
  }
}
