package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldif.LDIFAddChangeRecord;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFReader;
import com.unboundid.ldif.LDIFRecord;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.TextFiles;

/**
 * Reads an LDIF export into facts, entry by entry: nothing of an entry stays but what is kept. The
 * library parses on a thread of its own while this one keeps.
 */
public final class LdifSource {
  private static final int PARSERS = 1;

  private final String name;
  private final DirectoryKind kind;
  private final FactsSource into;
  private final Problems problems;
  private final Optional<DirectorySchema> schema;

  /**
   * A reader by the usual attribute types and classes.
   *
   * @see #LdifSource(String, DirectoryKind, Optional, FactsSource, Problems)
   */
  public LdifSource(String name, DirectoryKind kind, FactsSource into, Problems problems) {
    this(name, kind, Optional.empty(), into, problems);
  }

  /**
   * A reader.
   *
   * @param name how the user names the file
   * @param kind which classes and attributes to look at
   * @param schema the schema of the directory, where it is known
   * @param into takes the facts
   */
  public LdifSource(
      String name,
      DirectoryKind kind,
      Optional<DirectorySchema> schema,
      FactsSource into,
      Problems problems) {
    this.schema = schema;
    schema.ifPresent(known -> into.schema(known.rules()));
    into.loginAttribute(kind.logins().isEmpty() ? "" : kind.logins().get(0));
    this.name = name;
    this.kind = kind;
    this.into = into;
    this.problems = problems;
  }

  /** Reads a whole file. */
  public void read(Path file) {
    TextFiles.stream(file, name, problems, this::read);
  }

  /** Reads a stream to its end; it is not closed. */
  public void read(InputStream in) throws IOException {
    EntryFacts entries = new EntryFacts(name, kind, schema, into, problems);
    int read = entries(in, name, problems, entries::take);
    entries.finish();
    if (read == 0) {
      problems.warning(
          Place.of(name), "the file holds no entry", "an export of accounts and groups");
    }
  }

  /**
   * Takes entries that are to be created. Members come by changes of their own, so a group without
   * any hides none.
   */
  public void readCreated(List<Entry> created) {
    EntryFacts entries = new EntryFacts(name, kind, schema, into, problems);
    created.forEach(entries::takeCreated);
  }

  /**
   * Hands on all entries of a stream, one by one; records that add one count as entries.
   *
   * @param shown how the user names the file
   * @return how many records there were
   */
  public static int entries(InputStream in, String shown, Problems problems, Consumer<Entry> take)
      throws IOException {
    int read = 0;
    try (LDIFReader reader = new LDIFReader(new LdifGate(in, shown, problems), PARSERS)) {
      boolean more = true;
      while (more) {
        try {
          LDIFRecord record = next(reader, shown, problems);
          more = record != null;
          if (record != null) {
            read++;
            hand(record, shown, problems, take);
          }
        } catch (LDIFException e) {
          more = tell(e, shown, problems);
        }
      }
    }
    return read;
  }

  /** The next record; null at the end. Some inputs make the library itself fail. */
  private static @Nullable LDIFRecord next(LDIFReader reader, String shown, Problems problems)
      throws IOException, LDIFException {
    try {
      return reader.readLDIFRecord();
    } catch (RuntimeException e) {
      problems.error(Place.of(shown), "this is not LDIF", "entries as in RFC 2849");
      return null;
    }
  }

  private static void hand(
      LDIFRecord record, String shown, Problems problems, Consumer<Entry> take) {
    if (record instanceof Entry entry) {
      if (entry.hasAttribute("dn")) {
        problems.error(
            Place.of(shown).entry(entry.getDN()),
            "another entry begins inside this one: "
                + Problem.quote("dn: " + entry.getAttributeValue("dn")),
            "an empty line between two entries");
      }
      take.accept(entry);
    } else if (record instanceof LDIFAddChangeRecord add) {
      take.accept(add.getEntryToAdd());
    } else {
      problems.error(
          Place.of(shown).entry(record.getDN()),
          "this is a change of an entry, not an entry",
          "an export, or changetype: add");
    }
  }

  /** False when the reader cannot go on. */
  private static boolean tell(LDIFException e, String shown, Problems problems) {
    Place place = Place.of(shown, (int) e.getLineNumber());
    var lines = e.getDataLines();
    String first = lines == null || lines.isEmpty() ? "" : lines.get(0);
    boolean failed = lines != null && lines.stream().anyMatch(l -> l.matches("result: [1-9].*"));
    if (failed) {
      problems.error(
          place,
          "the export tool stopped before the end: "
              + Problem.quote(
                  lines.stream().filter(l -> l.startsWith("result:")).findFirst().get()),
          "an export that ended with result: 0");
    } else if (first.startsWith("search:")
        || first.startsWith("result:")
        || first.startsWith("ref:")) {
      problems.warning(
          place, "skipped " + Problem.quote(first) + ", which is the export tool's own", "");
    } else {
      problems.error(
          place,
          "this is not LDIF: " + wrong(lines == null ? List.of() : lines, first),
          "an entry as in RFC 2849");
    }
    return e.mayContinueReading();
  }

  /** What is wrong with the lines of a record, in words of our own. */
  private static String wrong(List<String> lines, String first) {
    if (!first.toLowerCase(Locale.ROOT).startsWith("dn:")) {
      return "the entry does not begin with dn:, but with " + Problem.quote(first);
    }
    for (String line : lines) {
      int colon = line.indexOf(':');
      if (colon < 1 && !line.startsWith("#")) {
        return Problem.quote(line) + " has no name and colon before its value";
      }
      if (line.startsWith("::", Math.max(colon, 0)) && !isBase64(line.substring(colon + 2))) {
        return "the value of " + Problem.quote(line.substring(0, colon)) + " is no base64";
      }
    }
    return "the entry " + Problem.quote(first) + " cannot be read";
  }

  private static boolean isBase64(String text) {
    try {
      Base64.getDecoder().decode(text.strip());
      return true;
    } catch (IllegalArgumentException e) {
      return false;
    }
  }
}
