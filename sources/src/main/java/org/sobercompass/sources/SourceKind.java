package org.sobercompass.sources;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;

/**
 * The registration of one kind of directory: how it is set up in the workspace, read, reached and
 * kept in surveys. Found by {@link java.util.ServiceLoader}; a new kind is one of these in the room
 * of its format, and a line in its services file. Thread-safe.
 */
public interface SourceKind {
  /** The word after {@code kind:} in the workspace. */
  String id();

  /** The settings that directories of this kind have besides those of all. */
  default Set<String> settings() {
    return Set.of();
  }

  /** Whether an export may have a schema beside it. */
  default boolean hasSchema() {
    return false;
  }

  /** Whether every object has an access control list, which the export holds. */
  default boolean hasLists() {
    return false;
  }

  /** Whether its accounts are kept by one host or one application for itself. */
  default boolean isLocal() {
    return false;
  }

  /** The ending of the file of its entries in a survey. */
  default String ending() {
    return ".csv";
  }

  /** Counts what a file holds, without looking at what it says. O(bytes). */
  default LineCount count(Path file) {
    return LineCount.ofLines(file);
  }

  /**
   * Copies a file of entries into a survey without the secrets in it: passwords, their hashes, and
   * keys. What cannot hold any is copied as it is.
   */
  default void withoutSecrets(InputStream in, OutputStream to) throws IOException {
    in.transferTo(to);
  }

  /** Reads a file of entries; what is wrong goes to the problems. */
  void read(Entries entries, FactsSource into, Problems problems);

  /**
   * Reads accounts and groups that are to be created, after those that are there, by the same
   * rules.
   *
   * @param entries the entries of the directory, which were read before
   */
  default void readCreated(
      List<Step.Presence> created, Entries entries, FactsSource into, Problems problems) {
    created.forEach(
        one ->
            problems.error(
                Place.of(entries.shown()).entry(one.dn()),
                "accounts and groups are created there where they are kept",
                "a directory over LDAP, or its export"));
  }

  /**
   * A group that would stand where another one stands, of the same kind; empty where groups are not
   * created over this program.
   *
   * @param entries the entries of the directory
   * @param like the DN of the other group
   * @param name what the new one is called
   */
  default Optional<Step.Presence> groupLike(
      Entries entries, String directory, String like, String name) {
    return Optional.empty();
  }

  /** How to reach it, by its settings; empty, with a problem told, when they cannot be used. */
  default Optional<LiveSource> live(String name, Node node, Folder root) {
    node.wrong("accounts of a file have no address", "file: and a CSV file");
    return Optional.empty();
  }

  /**
   * Makes records of changes of a directory. Each step is either made by a record or said to be
   * left for somebody's hand.
   */
  default void amend(Wanted wanted, Drafts into) {
    String why = wanted.directory() + " is changed where it is kept, not by this program";
    wanted.steps().forEach(one -> into.byHand(one.step(), why));
    wanted.gone().forEach(one -> into.byHand(one.step(), why));
    wanted.come().forEach(one -> into.byHand(one.step(), why));
  }

  /**
   * Changes of one directory.
   *
   * @param entries its entries as they were read
   * @param steps memberships and states of accounts
   * @param gone entries of lists that are removed
   * @param come entries that are added to lists
   */
  record Wanted(
      String directory,
      Facts facts,
      Entries entries,
      List<Wish> steps,
      List<Gone> gone,
      List<Comes> come) {}

  /** A step of a proposal, by its number. */
  record Wish(int step, Step.OfDirectory what) implements Drafts.Numbered {}

  /**
   * An entry of an object's list that is removed.
   *
   * @param dn the object
   * @param entry its number in the list, from 0
   */
  record Gone(int step, String dn, int entry) implements Drafts.Numbered {}

  /**
   * An entry that is added to an object's list.
   *
   * @param dn the object
   * @param text the entry, as SDDL
   */
  record Comes(int step, String dn, String text) implements Drafts.Numbered {}

  /**
   * A file of entries.
   *
   * @param path where it stands
   * @param shown how the user knows that place
   * @param schema the directory's schema (LDIF), where it is known
   * @param schemaShown how the user knows that place
   * @param login the attribute people sign in by, where the workspace says so
   * @param accountsOf the directory whose accounts sign in by these names
   * @param zone in which dates are whole days
   */
  record Entries(
      Path path,
      String shown,
      Optional<Path> schema,
      String schemaShown,
      Optional<String> login,
      Optional<String> accountsOf,
      ZoneId zone) {}
}
