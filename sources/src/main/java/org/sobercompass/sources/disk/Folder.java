package org.sobercompass.sources.disk;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Map;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;

/**
 * The folder that a mapping stands in, from which the files it names are found.
 *
 * @param path the folder
 * @param closed whether names may lead out of it: the mapping of a survey may be by other hands,
 *     and must not make the reader open a file of this machine
 * @param instead files that are read in place of those of a name
 */
public record Folder(Path path, boolean closed, Map<String, Path> instead) {
  /** Copies. */
  public Folder {
    instead = Map.copyOf(instead);
  }

  /** All files are its own. */
  public Folder(Path path, boolean closed) {
    this(path, closed, Map.of());
  }

  /** The folder of a workspace that the user keeps. */
  public static Folder of(Path path) {
    return new Folder(path, false);
  }

  /**
   * A file by the name that a mapping gives it.
   *
   * @throws BadInputException when it is no name of a file, or leads out of a closed folder
   */
  public Path resolve(String name) {
    Path other = instead.get(name);
    if (other != null) {
      return other;
    }
    try {
      Path found = path.resolve(name);
      Path base = path.toAbsolutePath().normalize();
      if (closed && !found.toAbsolutePath().normalize().startsWith(base)) {
        throw refused(name, "the name leads to a file outside the survey, which is never opened");
      }
      return found;
    } catch (InvalidPathException e) {
      throw refused(name, "this is no name of a file");
    }
  }

  private static BadInputException refused(String name, String what) {
    return new BadInputException(
        Problem.error(Place.of(Plain.text(name)), what, "a file relative to the workspace"));
  }
}
