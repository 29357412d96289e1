package org.sobercompass.sources.survey;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * Puts a survey together and writes it whole: beside, then moved into place. Entries have one fixed
 * time, so that the same content is the same file. Not thread-safe.
 */
public final class SurveyWriter {
  private static final LocalDateTime FIXED = LocalDateTime.of(2000, 1, 1, 0, 0);

  private final List<SurveyPart> parts = new ArrayList<>();
  private final SortedMap<String, Path> files = new TreeMap<>();

  /** Adds a part whose entries stand in {@code content}; its file name is the part's. */
  public void part(SurveyPart part, Path content) {
    parts.add(part);
    files.put(part.file(), content);
  }

  /** Adds the schema of a part; its file name is {@link SurveyPart#schema()}. */
  public void schema(SurveyPart part, Path content) {
    part.schema().ifPresent(name -> files.put(name, content));
  }

  /** Adds a catalogue of the program the survey is taken with. */
  public void catalogue(String name, Path content) {
    files.put(SurveyFile.CATALOGUES + name, content);
  }

  /** Adds a file of the workspace the survey is taken with. */
  public void workspaceFile(String name, Path content) {
    files.put(SurveyFile.WORKSPACE + name, content);
  }

  /**
   * Writes the archive.
   *
   * @return the SHA-256 of the whole archive, in hexadecimal
   */
  public String write(Path target) {
    StringBuilder digest = new StringBuilder();
    OwnFiles.write(target, out -> digest.append(write(out)));
    return digest.toString();
  }

  /**
   * Writes a new archive and never replaces one.
   *
   * @param target the wanted place; where a survey is already, a number is put behind the name
   */
  public Written writeNew(Path target, String ending) {
    StringBuilder digest = new StringBuilder();
    Path file = OwnFiles.writeNew(target, ending, out -> digest.append(write(out)));
    return new Written(file, digest.toString());
  }

  /**
   * A survey that was written.
   *
   * @param digest the SHA-256 of the whole archive, in hexadecimal
   */
  public record Written(Path file, String digest) {}

  private String write(OutputStream target) throws IOException {
    Digests.Counting whole = new Digests.Counting(new Open(target));
    try (ZipOutputStream zip = new ZipOutputStream(new BufferedOutputStream(whole, 1 << 16))) {
      zip.setLevel(Deflater.BEST_SPEED);
      List<Manifest.Item> items = new ArrayList<>();
      for (Map.Entry<String, Path> file : files.entrySet()) {
        items.add(copy(file.getKey(), file.getValue(), zip));
      }
      entry(Manifest.NAME, zip);
      Manifest manifest = new Manifest(Manifest.FORM, sorted(), items);
      zip.write(ManifestText.readable(manifest).getBytes(StandardCharsets.UTF_8));
      zip.closeEntry();
    }
    return whole.hex();
  }

  private List<SurveyPart> sorted() {
    return parts.stream().sorted(java.util.Comparator.comparing(SurveyPart::name)).toList();
  }

  private static Manifest.Item copy(String name, Path content, ZipOutputStream zip)
      throws IOException {
    entry(name, zip);
    Digests.Counting out = new Digests.Counting(new Open(zip));
    try (InputStream in = open(content)) {
      in.transferTo(out);
    }
    zip.closeEntry();
    return new Manifest.Item(name, out.count(), out.hex());
  }

  private static InputStream open(Path content) {
    try {
      return Files.newInputStream(content);
    } catch (IOException e) {
      throw new OutsideException(
          Problem.error(
              Place.of(content.toString()),
              "cannot be read: " + OwnFiles.reason(e),
              "a file that stays while a survey is taken; no survey was written"));
    }
  }

  private static void entry(String name, ZipOutputStream zip) throws IOException {
    ZipEntry entry = new ZipEntry(name);
    entry.setTimeLocal(FIXED);
    zip.putNextEntry(entry);
  }

  /** Passes everything on but the closing. */
  private static final class Open extends OutputStream {
    private final OutputStream out;

    Open(OutputStream out) {
      this.out = out;
    }

    @Override
    public void write(int b) throws IOException {
      out.write(b);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
      out.write(bytes, from, length);
    }
  }
}
