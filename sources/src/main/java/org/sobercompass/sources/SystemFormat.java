package org.sobercompass.sources;

import java.time.ZoneId;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;

/**
 * The registration of one kind of system: how its file in the workspace is read. A new kind is two
 * rooms (facts and decider in core, reader here), one of these, and a line in its services file
 * ({@link java.util.ServiceLoader}).
 */
public interface SystemFormat {
  /** The word after {@code kind:} in the file. */
  String kind();

  /** The directory attributes (lower case) that must be read before the system can be. */
  Set<String> needs(Node file, Problems problems);

  /** The further files that a system's file names, relative to the workspace, in order. */
  List<String> files(Node file);

  /** Reads the system. What is wrong goes to the problems; then the result is not used. */
  AccessSystem read(Node file, Context context);

  /**
   * Makes records of entries that are removed from the lists of a system. Each is either made by a
   * record or said to be left for somebody's hand.
   *
   * @param root the folder of the workspace
   * @param gone by the number of the grant that the entry is
   */
  default void amend(AccessSystem system, Folder root, List<Gone> gone, Drafts into) {
    gone.forEach(
        one -> into.byHand(one.step(), system.name() + " is changed where its lists are kept"));
  }

  /** An entry that is removed, by the number of its grant. */
  record Gone(int step, int grant) implements Drafts.Numbered {}

  /**
   * What a reader works with.
   *
   * @param root the folder of the workspace
   * @param facts to resolve names against
   * @param names resolves names, and tells those that fit nothing or two things
   * @param zone in which dates are whole days
   * @param directories the names of the directories
   */
  record Context(
      Folder root,
      Facts facts,
      NameResolver names,
      ZoneId zone,
      Set<String> directories,
      Problems problems) {}
}
