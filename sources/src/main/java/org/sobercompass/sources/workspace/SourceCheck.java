package org.sobercompass.sources.workspace;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/** Tries every live directory of a workspace: reachable, protected, signed in, bases there. */
public final class SourceCheck {
  private SourceCheck() {}

  /**
   * What was found.
   *
   * @param reached one line for each directory that answered: as whom, how protected
   * @param problems what does not work, with what mends it
   * @param unreachable whether a directory could not be reached or refused
   */
  public record Found(List<String> reached, List<Problem> problems, boolean unreachable) {}

  /** Tries them all; one that fails does not stop the others. */
  public static Found run(Path root, Secret.Origins origins) {
    Problems told = new Problems();
    Node main =
        YamlReader.read(root.resolve(WorkspaceReader.MAIN), WorkspaceReader.MAIN, told)
            .orElseGet(Node::nothing);
    List<DirectorySettings> directories =
        DirectorySettings.read(main, WorkspaceReader.zone(main, told), Folder.of(root), told);
    told.throwIfErrors();
    List<String> reached = new ArrayList<>();
    List<Problem> problems = new ArrayList<>();
    boolean unreachable = false;
    for (DirectorySettings directory : directories) {
      if (directory.live().isPresent()) {
        try {
          directory
              .live()
              .get()
              .tried(directory.place(), origins, problems)
              .ifPresent(reached::add);
        } catch (OutsideException e) {
          problems.add(e.problem());
          unreachable = true;
        }
      }
    }
    return new Found(List.copyOf(reached), List.copyOf(problems), unreachable);
  }
}
