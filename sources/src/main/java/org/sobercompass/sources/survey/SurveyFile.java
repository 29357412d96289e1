package org.sobercompass.sources.survey;

import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import java.util.zip.ZipInputStream;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.disk.Checksum;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * A survey that was unpacked into a folder and checked: every file is there, of the length and
 * digest the manifest says, and nothing else. Immutable.
 *
 * @param folder where it was unpacked
 * @param manifest what it holds
 */
public record SurveyFile(Path folder, Manifest manifest) {
  /** Below this stand the workspace's own files. */
  static final String WORKSPACE = "workspace/";

  /** Below this stand the catalogues of the program. */
  static final String CATALOGUES = "catalogue/";

  /** The most an archive may unpack to. */
  static final long LARGEST = 16L << 30;

  /** How many times its packed size an archive may unpack to, beyond {@link #FREE}. */
  static final long RATIO = 200;

  private static final int LONGEST_NAME = 1000;
  private static final long FREE = 64L << 20;

  /** The folder with the workspace it was taken with; not there in a part by itself. */
  public Path workspace() {
    return folder.resolve(WORKSPACE);
  }

  /** Whether the survey holds the workspace it was taken with. */
  public boolean hasWorkspace() {
    return Files.isRegularFile(workspace().resolve("compass.yaml"));
  }

  /** The part of a source. */
  public Optional<SurveyPart> part(String name) {
    return manifest.parts().stream().filter(part -> part.name().equals(name)).findFirst();
  }

  /** Where the entries of a part stand. */
  public Path entries(SurveyPart part) {
    return folder.resolve(part.file());
  }

  /** Where a catalogue stands that the survey was taken with; it need not be there. */
  public Path catalogue(String name) {
    return folder.resolve(CATALOGUES + name);
  }

  /** Where the schema of a part stands, if there is one. */
  public Optional<Path> schema(SurveyPart part) {
    return part.schema().map(folder::resolve);
  }

  /**
   * Unpacks into an empty folder and checks.
   *
   * @throws BadInputException when the archive is damaged, altered, or not what it says
   */
  public static SurveyFile unpack(Path archive, Path folder) {
    return new Unpacking(archive, folder).run();
  }

  /**
   * A folder that {@link #unpack} filled before; empty when it is not there, or when a file in it
   * is not what the archive holds by length and CRC-32. Whoever could forge those could write to
   * the folder of the workspace, which is its owner's alone.
   */
  public static Optional<SurveyFile> reopen(Path archive, Path folder) {
    if (!Files.isDirectory(folder)) {
      return Optional.empty();
    }
    try (ZipFile zip = new ZipFile(archive.toFile());
        var there = Files.walk(folder)) {
      Set<Path> files = there.filter(f -> !Files.isDirectory(f)).collect(Collectors.toSet());
      for (var entry : Collections.list(zip.entries())) {
        Path file = folder.resolve(entry.getName()).normalize();
        if (!files.remove(file)
            || Files.size(file) != entry.getSize()
            || Checksum.of(file) != entry.getCrc()) {
          return Optional.empty();
        }
      }
      Problems problems = new Problems();
      Manifest manifest = ManifestText.read(folder.resolve(Manifest.NAME), problems);
      return files.isEmpty() && problems.errors() == 0
          ? Optional.of(new SurveyFile(folder, manifest))
          : Optional.empty();
    } catch (IOException | UncheckedIOException e) {
      return Optional.empty();
    }
  }

  /** Does the work of {@link #unpack}. */
  private static final class Unpacking {
    private final Path archive;
    private final Path folder;
    private final Place place;
    private final Map<String, String> digests = new HashMap<>();
    private long left;

    Unpacking(Path archive, Path folder) {
      this.archive = archive;
      this.folder = folder.toAbsolutePath().normalize();
      this.place = Place.of(archive.toString());
    }

    SurveyFile run() {
      try {
        if (Files.exists(archive) && !Files.isRegularFile(archive)) {
          throw bad(Files.isDirectory(archive) ? "is a folder" : "is a device or a pipe");
        }
        // The table at the end must be there: a truncated archive still has readable beginnings.
        new ZipFile(archive.toFile()).close();
        left = Math.min(LARGEST, FREE + RATIO * Files.size(archive));
        Set<String> met = new HashSet<>();
        try (ZipInputStream zip =
            new ZipInputStream(new BufferedInputStream(Files.newInputStream(archive), 1 << 16))) {
          for (ZipEntry e = zip.getNextEntry(); e != null; e = zip.getNextEntry()) {
            if (!met.add(e.getName())) {
              throw bad("holds " + Problem.quote(e.getName()) + " twice");
            }
            unpack(e, zip);
          }
        }
        return check(met);
      } catch (NoSuchFileException e) {
        throw new BadInputException(
            Problem.error(place, "there is no such file", "a survey, as `sober survey` writes it"));
      } catch (ZipException | EOFException | IllegalArgumentException e) {
        throw bad("is damaged or no survey at all");
      } catch (IOException e) {
        throw OwnFiles.failed(folder, e);
      }
    }

    private BadInputException bad(String what) {
      return new BadInputException(
          Problem.error(
              place, "the survey " + what, "the file as `sober survey` wrote it, unaltered"));
    }

    private void unpack(ZipEntry entry, InputStream zip) throws IOException {
      String name = entry.getName();
      Path target = target(entry);
      byte[] buffer = new byte[1 << 16];
      try (Digests.Counting out = new Digests.Counting(created(target, name))) {
        for (int got = zip.read(buffer); got >= 0; got = zip.read(buffer)) {
          left -= got;
          if (left < 0) {
            throw bad("would unpack to more than " + RATIO + " times its size");
          }
          out.write(buffer, 0, got);
        }
        digests.put(name, out.hex());
      }
    }

    /** Where an entry goes; a name that is not a plain path below the folder is refused. */
    private Path target(ZipEntry entry) {
      String name = entry.getName();
      if (name.length() > LONGEST_NAME) {
        throw bad("holds a name of " + name.length() + " characters");
      }
      Path target = folder.resolve(name).normalize();
      boolean plain = !entry.isDirectory() && !name.contains("\\") && !name.startsWith("/");
      if (!plain || !target.startsWith(folder) || target.equals(folder)) {
        throw bad("holds a file that would be written elsewhere: " + Problem.quote(name));
      }
      if (!folder.relativize(target).toString().equals(name)) {
        throw bad("holds a name that is not written as itself: " + Problem.quote(name));
      }
      return target;
    }

    private OutputStream created(Path target, String name) throws IOException {
      try {
        OwnFiles.folder(Optional.ofNullable(target.getParent()).orElse(folder));
        return OwnFiles.create(target);
      } catch (FileAlreadyExistsException e) {
        throw bad("holds one name as a file and as a folder: " + Problem.quote(name));
      } catch (OutsideException e) {
        if (Files.isRegularFile(blocking(target))) {
          throw bad("holds one name as a file and as a folder: " + Problem.quote(name));
        }
        throw e;
      }
    }

    /** The lowest of the folders above a file that is there. */
    private Path blocking(Path target) {
      Path at = target;
      while (!Files.exists(at) && at.getParent() != null) {
        at = at.getParent();
      }
      return at;
    }

    private SurveyFile check(Set<String> met) {
      if (!met.contains(Manifest.NAME)) {
        throw bad("has no " + Manifest.NAME);
      }
      Problems problems = new Problems();
      Manifest manifest = ManifestText.read(folder.resolve(Manifest.NAME), problems);
      problems.throwIfErrors();
      Set<String> listed = new HashSet<>(Set.of(Manifest.NAME));
      for (Manifest.Item item : manifest.files()) {
        listed.add(item.name());
        if (!met.contains(item.name())) {
          problems.error(place.entry(item.name()), "the file is missing", "the whole archive");
        } else if (!item.sha256().equals(digests.get(item.name()))) {
          problems.error(
              place.entry(item.name()), "the file was altered or damaged", "its SHA-256 as listed");
        }
      }
      met.stream()
          .filter(name -> !listed.contains(name))
          .forEach(
              name ->
                  problems.error(
                      place.entry(name), "the file is not in the list", "listed files only"));
      manifest.parts().stream()
          .filter(part -> !listed.contains(part.file()))
          .forEach(
              part ->
                  problems.error(place.entry(part.name()), "the part has no entries", part.file()));
      manifest.parts().stream()
          .filter(part -> part.schema().filter(name -> !listed.contains(name)).isPresent())
          .forEach(
              part ->
                  problems.error(
                      place.entry(part.name()), "its schema is missing", part.schema().orElse("")));
      problems.throwIfErrors();
      return new SurveyFile(folder, manifest);
    }
  }

  /** The SHA-256 of a file, in hexadecimal. */
  public static String digest(Path file) {
    try (InputStream in = Files.newInputStream(file);
        Digests.Counting counting = new Digests.Counting(OutputStream.nullOutputStream())) {
      in.transferTo(counting);
      return counting.hex();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
