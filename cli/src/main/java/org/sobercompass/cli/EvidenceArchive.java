package org.sobercompass.cli;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.LocalDateTime;
import java.util.HexFormat;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.data.AnswerTableWriter;
import org.sobercompass.report.data.Format;

/**
 * The files of an archive for an auditor, in the order of their names: tables as CSV, texts as they
 * are, a file that says what each is, and their digests. The same files give the same archive.
 */
final class EvidenceArchive {
  private static final LocalDateTime FIXED = LocalDateTime.of(2000, 1, 1, 0, 0);

  private final Map<String, byte[]> files = new TreeMap<>();
  private final Map<String, String> about = new TreeMap<>();

  /**
   * Adds a table as CSV; what stands above and below it goes into the file that says what it is.
   */
  void table(String name, String what, AnswerTable table) {
    StringWriter csv = new StringWriter();
    PrintWriter out = new PrintWriter(csv);
    AnswerTableWriter.write(table, Format.csv, 0, false, out);
    out.flush();
    text(name + ".csv", csv.toString());
    StringBuilder says = new StringBuilder(what).append(".\n");
    if (!table.heading().isEmpty()) {
      says.append("    ").append(table.heading()).append('\n');
    }
    table
        .facts()
        .forEach((fact, value) -> says.append("    ").append(fact + ": " + value).append('\n'));
    table.notes().forEach(note -> says.append("    ").append(note).append('\n'));
    about.put(name + ".csv", says.toString());
  }

  /** Adds a text. */
  void text(String name, String text) {
    files.put(name, text.getBytes(StandardCharsets.UTF_8));
  }

  /** Writes the archive. */
  void write(OutputStream to) throws IOException {
    text("README.txt", readMe());
    StringBuilder digests = new StringBuilder();
    files.forEach((name, bytes) -> digests.append(digest(bytes) + "  " + name + "\n"));
    text("SHA256SUMS", digests.toString());
    ZipOutputStream zip = new ZipOutputStream(to, StandardCharsets.UTF_8);
    for (Map.Entry<String, byte[]> file : files.entrySet()) {
      ZipEntry entry = new ZipEntry(file.getKey());
      entry.setTimeLocal(FIXED);
      zip.putNextEntry(entry);
      zip.write(file.getValue());
      zip.closeEntry();
    }
    zip.finish();
  }

  private String readMe() {
    StringBuilder text =
        new StringBuilder(
            "Who can do what, and what was found wrong with it: evidence made from one survey.\n"
                + "sha256sum -c SHA256SUMS checks that nothing was changed. The same survey gives"
                + " the same archive.\n\n"
                + "page.html: the whole organization, to read in a browser.\n\n"
                + "rules/: the text by which it was judged: sources, applications, thresholds, what"
                + " must be kept apart, waivers.\n");
    about.forEach((name, says) -> text.append('\n').append(name).append(": ").append(says));
    return text.toString();
  }

  private static String digest(byte[] bytes) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }
}
