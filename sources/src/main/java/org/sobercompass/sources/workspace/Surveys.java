package org.sobercompass.sources.workspace;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.survey.SurveyFile;

/**
 * The surveys of a workspace, in its folder {@code surveys}. A survey is unpacked and checked once
 * and kept beside in {@code .compass}, which may be deleted at any time.
 */
public final class Surveys {
  /** How the name of a survey ends. */
  public static final String SUFFIX = ".survey.zip";

  private static final int KEPT = 3;
  private static final DateTimeFormatter NAME =
      DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HHmmss'Z'", Locale.ROOT).withZone(ZoneOffset.UTC);

  private Surveys() {}

  /** Where a survey that ended then is put. */
  public static Path place(Path root, Instant ended) {
    return root.resolve("surveys").resolve(NAME.format(ended) + SUFFIX);
  }

  /** Of those of one second the number after it counts; the first has none. */
  private static final Comparator<Path> LATEST_FIRST =
      Comparator.comparing((Path file) -> stem(file).replaceFirst("Z-[0-9]+$", "Z"))
          .thenComparing(file -> stem(file).length())
          .thenComparing(Surveys::stem)
          .reversed();

  private static String stem(Path file) {
    String name = file.getFileName().toString();
    return name.substring(0, name.length() - SUFFIX.length());
  }

  /** When a survey ended, by its name; empty where somebody gave it another name. */
  public static Optional<Instant> taken(Path survey) {
    String time = stem(survey).replaceFirst("Z-[0-9]+$", "Z");
    try {
      return Optional.of(NAME.parse(time, Instant::from));
    } catch (DateTimeParseException e) {
      return Optional.empty();
    }
  }

  /** All surveys of a workspace, the latest first (their names begin with their time). */
  public static List<Path> all(Path root) {
    Path folder = root.resolve("surveys");
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (var files = Files.list(folder)) {
      return files
          .filter(file -> file.getFileName().toString().endsWith(SUFFIX))
          .sorted(LATEST_FIRST)
          .toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The latest survey of a workspace, unpacked. */
  public static Optional<SurveyFile> latest(Path root) {
    return all(root).stream().findFirst().map(Surveys::open);
  }

  /**
   * A survey, unpacked and checked. It is unpacked once; after that what was unpacked is held
   * against the archive each time (length and CRC-32 of every file), and unpacked again when it
   * differs.
   */
  public static SurveyFile open(Path archive) {
    Path base = archive.toAbsolutePath().normalize();
    Path cache = base.resolveSibling(".compass");
    if (!Files.isRegularFile(base) || !Files.isWritable(base.resolveSibling("."))) {
      return SurveyFile.unpack(archive, OwnFiles.scratch("survey"));
    }
    try {
      Path folder =
          cache.resolve(
              base.getFileName()
                  + "-"
                  + Files.size(base)
                  + "-"
                  + Files.getLastModifiedTime(base).toMillis());
      Optional<SurveyFile> kept = SurveyFile.reopen(archive, folder);
      if (kept.isPresent()) {
        return kept.get();
      }
      OwnFiles.discard(folder); // what is there is not what the archive holds
      OwnFiles.folder(cache);
      Path beside = OwnFiles.part(folder);
      try {
        OwnFiles.folder(beside);
        SurveyFile.unpack(archive, beside);
        OwnFiles.putFolder(beside, folder);
      } finally {
        OwnFiles.discard(beside);
      }
      prune(cache);
      return SurveyFile.reopen(archive, folder)
          .orElseGet(() -> SurveyFile.unpack(archive, OwnFiles.scratch("survey")));
    } catch (IOException e) {
      throw OwnFiles.failed(cache, e);
    }
  }

  /** The SHA-256 of a survey's file, in hexadecimal. */
  public static String digest(Path archive) {
    return SurveyFile.digest(archive);
  }

  private static void prune(Path cache) throws IOException {
    try (var folders = Files.list(cache)) {
      folders
          .filter(folder -> !folder.getFileName().toString().contains(".part."))
          .sorted(Comparator.comparing((Path f) -> f.toFile().lastModified()).reversed())
          .skip(KEPT)
          .forEach(OwnFiles::discard);
    }
  }
}
