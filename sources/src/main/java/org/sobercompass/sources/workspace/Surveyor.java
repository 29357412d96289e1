package org.sobercompass.sources.workspace;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.LineCount;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.delegation.CatalogueReader;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.survey.SurveyFile;
import org.sobercompass.sources.survey.SurveyPart;
import org.sobercompass.sources.survey.SurveyWriter;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TextFiles;
import org.sobercompass.sources.text.YamlReader;

/**
 * Takes surveys: reads every directory of a workspace, live or from its export, and writes one file
 * with them and the mapping. All or nothing: when one source fails, no survey is written.
 */
public final class Surveyor {
  private final Secret.Origins origins;
  private final Clock clock;
  private final Progress progress;

  /** Told how far the work is. */
  public interface Progress {
    /** So many entries of a source were read. */
    void read(String source, int entries);
  }

  /** A surveyor with this clock, passwords from these origins. */
  public Surveyor(Secret.Origins origins, Clock clock, Progress progress) {
    this.origins = origins;
    this.clock = clock;
    this.progress = progress;
  }

  /**
   * What was taken.
   *
   * @param file the survey
   * @param digest the SHA-256 of the file, to be noted elsewhere
   */
  public record Taken(Path file, String digest, List<SurveyPart> parts) {}

  /**
   * Surveys a workspace.
   *
   * @param joined parts that others collected; each takes the place of reading its source
   * @param target where to write it; {@code surveys/} in the workspace when empty
   */
  public Taken take(Path root, List<Path> joined, Optional<Path> target) {
    Problems problems = new Problems();
    Node main =
        YamlReader.read(root.resolve(WorkspaceReader.MAIN), WorkspaceReader.MAIN, problems)
            .orElseGet(Node::nothing);
    problems.throwIfErrors();
    List<DirectorySettings> directories =
        DirectorySettings.read(
            main, WorkspaceReader.zone(main, problems), Folder.of(root), problems);
    Set<String> files = WorkspaceFiles.of(root, main, directories, problems);
    problems.throwIfErrors();
    Path scratch = OwnFiles.scratch("survey");
    try {
      SurveyWriter writer = new SurveyWriter();
      Map<String, SurveyFile> others = joined(joined, directories, scratch);
      List<SurveyPart> parts = new ArrayList<>();
      for (DirectorySettings directory : directories) {
        SurveyFile other = others.get(directory.name());
        Path content = scratch.resolve(directory.name() + directory.kind().ending());
        final SurveyPart part;
        if (other != null) {
          part = other.part(directory.name()).orElseThrow();
          content = other.entries(part);
          other
              .schema(part)
              .ifPresent(file -> writer.schema(other.part(directory.name()).orElseThrow(), file));
        } else if (directory.live().isPresent()) {
          part = collect(directory.name(), directory.live().get(), content, writer);
        } else {
          content = root.resolve(directory.file());
          part = ofFile(directory, content);
        }
        if (part.how().equals("file")) {
          directory.schema().map(root::resolve).ifPresent(file -> writer.schema(part, file));
        }
        parts.add(part);
        boolean isOurs = other == null && directory.live().isPresent();
        Path kept =
            isOurs
                ? content // what we collect ourselves has none
                : scratch.resolve("kept-" + directory.name() + directory.kind().ending());
        if (!isOurs) {
          withoutSecrets(directory.kind()::withoutSecrets, content, kept, part.file());
        }
        writer.part(part, kept);
      }
      files.forEach(name -> writer.workspaceFile(name, root.resolve(name)));
      int number = 0;
      for (DirectorySettings directory : directories) {
        for (String name : directory.names()) {
          Path kept = scratch.resolve("names-" + number++);
          withoutSecrets(directory.kind()::withoutSecrets, root.resolve(name), kept, name);
          writer.workspaceFile(name, kept);
        }
      }
      writer.catalogue(
          CatalogueReader.NAME,
          write(CatalogueReader.text(), scratch.resolve(CatalogueReader.NAME)));
      SurveyWriter.Written written =
          target.isPresent()
              ? new SurveyWriter.Written(target.get(), writer.write(target.get()))
              : writer.writeNew(Surveys.place(root, clock.instant()), Surveys.SUFFIX);
      return new Taken(written.file(), written.digest(), List.copyOf(parts));
    } finally {
      OwnFiles.discard(scratch);
    }
  }

  /** Collects one directory without any workspace, for somebody else to join. */
  public Taken part(String name, LiveSource source, Path target) {
    Path scratch = OwnFiles.scratch("survey");
    try {
      Path content = scratch.resolve("part.ldif");
      SurveyWriter writer = new SurveyWriter();
      SurveyPart part = collect(name, source, content, writer);
      writer.part(part, content);
      return new Taken(target, writer.write(target), List.of(part));
    } finally {
      OwnFiles.discard(scratch);
    }
  }

  private SurveyPart collect(String name, LiveSource source, Path content, SurveyWriter writer) {
    LiveSource.Taken taken =
        source.collect(content, origins, clock, count -> progress.read(name, count));
    taken
        .schema()
        .ifPresent(
            text ->
                writer.schema(taken.part(), write(text, content.resolveSibling(name + ".schema"))));
    return taken.part();
  }

  /** Copies what a kind of source keeps. */
  private interface Copy {
    void copy(InputStream in, OutputStream to) throws IOException;
  }

  private static void withoutSecrets(Copy copy, Path from, Path to, String shown) {
    Problems problems = new Problems();
    TextFiles.stream(from, shown, problems, in -> OwnFiles.write(to, out -> copy.copy(in, out)));
    problems.throwIfErrors();
  }

  private static Path write(String text, Path file) {
    OwnFiles.write(file, text);
    return file;
  }

  private SurveyPart ofFile(DirectorySettings directory, Path content) {
    Problems problems = new Problems();
    TextFiles.stream(content, directory.file(), problems, in -> {});
    problems.throwIfErrors();
    boolean dated = directory.taken() != Facts.NEVER;
    LineCount counted = directory.kind().count(content);
    Instant at = dated ? Instant.ofEpochSecond(directory.taken()) : clock.instant();
    return new SurveyPart(
        directory.name(),
        "file",
        directory.file(),
        "",
        "",
        at,
        at,
        dated,
        List.of(),
        counted.entries(),
        List.of(),
        List.of(),
        List.of(),
        counted.completeness(directory.name()),
        "parts/" + directory.name() + directory.kind().ending(),
        directory.schema().map(s -> "schema/" + directory.name() + ".ldif"));
  }

  private static Map<String, SurveyFile> joined(
      List<Path> archives, List<DirectorySettings> directories, Path scratch) {
    Map<String, SurveyFile> parts = new TreeMap<>();
    List<String> names = directories.stream().map(DirectorySettings::name).toList();
    for (int i = 0; i < archives.size(); i++) {
      SurveyFile file = SurveyFile.unpack(archives.get(i), scratch.resolve("joined" + i));
      for (SurveyPart part : file.manifest().parts()) {
        if (!names.contains(part.name()) || parts.put(part.name(), file) != null) {
          throw new BadInputException(
              Problem.error(
                  Place.of(archives.get(i).toString()),
                  "the part is of "
                      + Problem.quote(part.name())
                      + (names.contains(part.name())
                          ? ", which another part brings too"
                          : ", which is no directory of the workspace"),
                  "one part for each of " + String.join(", ", names)));
        }
      }
    }
    return parts;
  }
}
