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
   * Makes records of changes of the lists of a system. Each is either made by a record or said to
   * be left for somebody's hand.
   */
  default void amend(Wanted wanted, Drafts into) {
    String why = wanted.system().name() + " is changed where its lists are kept";
    wanted.gone().forEach(one -> into.byHand(one.step(), why));
    wanted.come().forEach(one -> into.byHand(one.step(), why));
  }

  /**
   * Changes of the lists of a system.
   *
   * @param system as it was read
   * @param then the same with these changes, as the preview has it
   * @param root the folder of the workspace
   * @param gone entries that are removed
   * @param come entries that are added
   */
  record Wanted(
      AccessSystem system, AccessSystem then, Folder root, List<Gone> gone, List<Comes> come) {}

  /**
   * An entry that is added; or taken out, of what is no grant.
   *
   * @param resource the number of the resource
   * @param text the entry, as the system writes it
   * @param added whether it is added; else it is taken out
   */
  record Comes(int step, int resource, String text, boolean added) implements Drafts.Numbered {}

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
      Problems problems) {
    /** The same, telling its problems elsewhere. */
    public Context telling(Problems other) {
      return new Context(root, facts, new NameResolver(facts, other), zone, directories, other);
    }
  }
}
