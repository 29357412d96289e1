package org.sobercompass.sources.workspace;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.live.LdapAccess;
import org.sobercompass.sources.live.LdapSession;
import org.sobercompass.sources.live.RootEntry;
import org.sobercompass.sources.live.Secret;
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
        DirectorySettings.read(main, WorkspaceReader.zone(main, told), root, told);
    told.throwIfErrors();
    List<String> reached = new ArrayList<>();
    List<Problem> problems = new ArrayList<>();
    boolean unreachable = false;
    for (DirectorySettings directory : directories) {
      if (directory.live().isPresent()) {
        try {
          reached.add(one(directory.live().get(), directory.place(), origins, problems));
        } catch (OutsideException e) {
          problems.add(e.problem());
          unreachable = true;
        }
      }
    }
    return new Found(List.copyOf(reached), List.copyOf(problems), unreachable);
  }

  private static String one(
      LdapAccess access, Place place, Secret.Origins origins, List<Problem> problems) {
    try (LdapSession session = LdapSession.open(access, origins)) {
      RootEntry root = session.root();
      for (String base : access.bases().isEmpty() ? root.contexts() : access.bases()) {
        try {
          session.need(base);
        } catch (OutsideException e) {
          problems.add(e.problem());
        }
      }
      if (access.tls() == LdapAccess.Tls.PLAIN && access.bindDn().isPresent()) {
        problems.add(
            Problem.warning(
                place.entry(access.name()),
                "the password for " + access.name() + " crosses in clear",
                "ldaps://, or ldap:// without plain: yes"));
      }
      if (!root.pages()) {
        problems.add(
            Problem.warning(
                place.entry(access.name()),
                access.name() + " has no paged results",
                "a size limit above the number of its entries"));
      }
      return access.name()
          + ": "
          + access.address()
          + " answers, "
          + access.tls().words()
          + ", as "
          + session.identity();
    }
  }
}
