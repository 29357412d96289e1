package org.sobercompass.sources.workspace;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
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

  /** All surveys of a workspace, the latest first (their names begin with their time). */
  public static List<Path> all(Path root) {
    Path folder = root.resolve("surveys");
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (var files = Files.list(folder)) {
      return files
          .filter(file -> file.getFileName().toString().endsWith(SUFFIX))
          .sorted(Comparator.comparing((Path file) -> file.getFileName().toString()).reversed())
          .toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** The latest survey of a workspace, unpacked. */
  public static Optional<SurveyFile> latest(Path root) {
    return all(root).stream().findFirst().map(Surveys::open);
  }

  /** A survey, unpacked and checked now unless it was before and has not changed since. */
  public static SurveyFile open(Path archive) {
    try {
      Path base = archive.toAbsolutePath().normalize();
      Path cache = base.resolveSibling(".compass");
      if (!Files.isRegularFile(base) || !Files.isWritable(base.resolveSibling("."))) {
        return SurveyFile.unpack(archive, Files.createTempDirectory("sober-survey"));
      }
      String key =
          base.getFileName()
              + "-"
              + Files.size(base)
              + "-"
              + Files.getLastModifiedTime(base).toMillis();
      Path folder = cache.resolve(key);
      if (Files.isDirectory(folder)) {
        return SurveyFile.reopen(folder);
      }
      Path beside = cache.resolve(key + ".part." + ProcessHandle.current().pid());
      Files.createDirectories(beside);
      try {
        SurveyFile.unpack(archive, beside);
        Files.move(beside, folder);
      } finally {
        SurveyFile.discard(beside);
      }
      prune(cache);
      return SurveyFile.reopen(folder);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** A new folder to unpack into; {@link SurveyFile#discard} it afterwards. */
  public static Path scratch() {
    try {
      return Files.createTempDirectory("sober-survey");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
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
          .forEach(SurveyFile::discard);
    }
  }
}
