package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;

/**
 * The trees of all directories that have lists, and which account, group or unit each object is: by
 * name, and by SID. Frozen and thread-safe.
 */
public final class DirectoryTrees {
  /** What everyone is who signed in over the network ([MS-DTYP] 2.4.2.4). */
  private static final List<String> IMPLICIT =
      List.of(
          WellKnown.EVERYONE,
          WellKnown.AUTHENTICATED,
          WellKnown.NETWORK,
          WellKnown.THIS_ORGANIZATION);

  private final Facts facts;
  private final List<DirectoryTree> trees;
  private final Index index;

  /** What does not depend on the lists; shared by all that have the same objects. */
  private record Index(
      Map<Integer, String> sidOf,
      Map<String, Integer> subjectOf,
      int[] treeOf,
      int[] objectOf,
      List<int[]> subjects,
      Map<Integer, List<String>> history,
      Map<String, List<Integer>> bearers,
      Set<String> strangers) {}

  /** An object of one tree. */
  public record Spot(DirectoryTree tree, int object) {}

  /** Of trees over facts. O(objects). */
  public DirectoryTrees(Facts facts, List<DirectoryTree> trees) {
    this.facts = facts;
    this.trees = List.copyOf(trees);
    this.index =
        new Index(
            new HashMap<>(),
            new HashMap<>(),
            new int[facts.subjects()],
            new int[facts.subjects()],
            new ArrayList<>(),
            new HashMap<>(),
            new HashMap<>(),
            new HashSet<>());
    Arrays.fill(index.treeOf, -1);
    for (int tree = 0; tree < trees.size(); tree++) {
      number(tree);
    }
    index.history.forEach(
        (bearer, sids) ->
            sids.forEach(
                sid -> index.bearers.computeIfAbsent(sid, s -> new ArrayList<>()).add(bearer)));
    findStrangers();
  }

  private DirectoryTrees(Facts facts, List<DirectoryTree> trees, Index index) {
    this.facts = facts;
    this.trees = List.copyOf(trees);
    this.index = index;
  }

  /**
   * The same objects with other lists.
   *
   * @param patched the trees in the same order
   */
  public DirectoryTrees with(List<DirectoryTree> patched) {
    return new DirectoryTrees(facts, patched, index);
  }

  private void number(int number) {
    DirectoryTree tree = trees.get(number);
    Map<String, Integer> byForm = new HashMap<>();
    for (int s = 0; s < facts.subjects(); s++) {
      if (facts.source(s).equals(tree.directory())) {
        byForm.put(facts.arrays().dnForm().get(s), s);
      }
    }
    int[] subjects = new int[tree.size()];
    Arrays.fill(subjects, -1);
    for (int object = 0; object < tree.size(); object++) {
      Integer subject = byForm.get(tree.dnForm(object));
      if (subject != null) {
        subjects[object] = subject;
        index.treeOf[subject] = number;
        index.objectOf[subject] = object;
        String sid = tree.sid(object);
        if (!sid.isEmpty()) {
          index.sidOf.put(subject, sid);
          index.subjectOf.putIfAbsent(sid, subject);
        }
        if (!tree.history(object).isEmpty()) {
          index.history.put(subject, tree.history(object));
        }
      }
    }
    index.subjects.add(subjects);
  }

  /**
   * Trustees of domains that were not read, and built-in groups that were not exported: whoever is
   * one of them is not known. Of a domain that was read whole, one that is not there is gone.
   */
  private void findStrangers() {
    Set<String> read = new HashSet<>();
    trees.forEach(tree -> read.add(tree.directory()));
    Set<String> domains =
        ReadDomains.of(
            facts, read::contains, s -> Optional.ofNullable(index.sidOf.get(s)).stream().toList());
    for (DirectoryTree tree : trees) {
      for (String sid : tree.trustees()) {
        boolean known =
            index.subjectOf.containsKey(sid)
                || index.bearers.containsKey(sid)
                || !(sid.startsWith("S-1-5-21-") || sid.startsWith("S-1-5-32-"))
                || domains.contains(sid.substring(0, sid.lastIndexOf('-')));
        if (!known) {
          index.strangers.add(sid);
        }
      }
    }
  }

  /** Whether everybody who signed in counts as a trustee. */
  public static boolean isOfEverybody(String sid) {
    return IMPLICIT.contains(sid);
  }

  /** The trustees that everybody who signed in counts as. */
  public static List<String> ofEverybody() {
    return IMPLICIT;
  }

  /** The facts that name the subjects. */
  public Facts facts() {
    return facts;
  }

  /** The trees. */
  public List<DirectoryTree> all() {
    return trees;
  }

  /** Whether there are none. */
  public boolean isEmpty() {
    return trees.isEmpty();
  }

  /** Whether the objects of a directory were read. */
  public boolean reads(String directory) {
    return trees.stream().anyMatch(tree -> tree.directory().equals(directory));
  }

  /** The tree of a directory. */
  public DirectoryTree of(String directory) {
    return trees.stream()
        .filter(tree -> tree.directory().equals(directory))
        .findFirst()
        .orElseThrow();
  }

  /** The subject that an object of a directory is, or -1. */
  public int subject(DirectoryTree tree, int object) {
    int number = 0;
    while (!trees.get(number).directory().equals(tree.directory())) {
      number++;
    }
    return index.subjects.get(number)[object];
  }

  /** The subject with this SID, in any directory. */
  public Optional<Integer> subject(String sid) {
    return Optional.ofNullable(index.subjectOf.get(sid));
  }

  /** The subjects that bore this SID in an earlier directory. */
  public List<Integer> bearers(String sid) {
    return index.bearers.getOrDefault(sid, List.of());
  }

  /** The SID of a subject, or empty. */
  public String sid(int subject) {
    return index.sidOf.getOrDefault(subject, "");
  }

  /** The SIDs that a subject brought along from an earlier directory. */
  public List<String> history(int subject) {
    return index.history.getOrDefault(subject, List.of());
  }

  /** Whether it is not known who counts as a trustee: its domain was not read. */
  public boolean isStranger(String sid) {
    return index.strangers.contains(sid);
  }

  /** Whether there are any such trustees. */
  public boolean hasStrangers() {
    return !index.strangers.isEmpty();
  }

  /** Where a subject stands in its directory's tree. */
  public Optional<Spot> object(int subject) {
    int tree = index.treeOf[subject];
    return tree < 0
        ? Optional.empty()
        : Optional.of(new Spot(trees.get(tree), index.objectOf[subject]));
  }
}
