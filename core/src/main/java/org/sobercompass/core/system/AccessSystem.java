package org.sobercompass.core.system;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.membership.Counting;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.membership.SubjectSet;

/**
 * One system as the rest of the product sees it: names, rights, resources, roles, grants, admission
 * and a decider. Frozen and thread-safe.
 */
public interface AccessSystem {
  /** The kind of system, the name of its registration. */
  String kind();

  /** The id, unique in the workspace. */
  String id();

  /** The name for people. */
  String name();

  /** How grants combine, in words. */
  String combining();

  /** What it sees of the directory, and which memberships it counts. */
  Sight sight();

  /** How it counts memberships: as its sight says, for most. */
  default Counting counting() {
    return sight();
  }

  /**
   * The same system where its resources depend on memberships, such as those of an admin scope:
   * worked out over these. Itself for most kinds.
   */
  default AccessSystem over(Memberships memberships) {
    return this;
  }

  /** Whether a grant can be taken away by itself: not what a definition gives, or ownership. */
  default boolean isRemovable(int grant, Basis basis) {
    return !grants(basis).get(grant).declared();
  }

  /**
   * How many assignments name each subject, at an epoch second: what the subject carries with it,
   * and what leaving it takes away.
   */
  default Map<Integer, Integer> carried(Basis basis, long asOf) {
    Map<Integer, Integer> carried = new HashMap<>();
    for (Grant grant : grants(basis)) {
      if (grant.activeAt(asOf)) {
        carried.merge(grant.subject(), 1, Integer::sum);
      }
    }
    return carried;
  }

  /** Its rights. */
  Rights rights();

  /** Its resources. */
  Resources resources();

  /** Its roles, by number. */
  List<RoleInfo> roles();

  /** Its roles as they are written, by number; none where it has none that could be rewritten. */
  default List<WrittenRole> written() {
    return List.of();
  }

  /** Its settings that a proposal can change; none for most kinds of system. */
  default Optional<Settings> settings() {
    return Optional.empty();
  }

  /**
   * The same with roles, or scopes, that settings are to create: numbered after the others, and
   * giving nothing until those settings are made. What cannot be read is told when they are.
   */
  default AccessSystem expecting(List<Setting> settings) {
    return this;
  }

  /** Its grants on a basis, by number. */
  List<Grant> grants(Basis basis);

  /** The basis that answers use unless asked otherwise: actual when it was read. */
  Basis usualBasis();

  /** Whether both bases are there, so that they can be compared. */
  boolean hasBothBases();

  /** Whom it admits. */
  Admission admission();

  /** The decider over the grants of a basis. */
  Decider decider(Basis basis);

  /** The same system with grants added and removed; numbers of the others stay. */
  AccessSystem with(List<Change.OfSystem> changes, Basis basis);

  /**
   * The same system, defined otherwise.
   *
   * @throws IllegalArgumentException when it has nothing of the kind
   */
  default AccessSystem redefined(Redefinition how) {
    return how.byKind(
        scope -> {
          throw new IllegalArgumentException(id() + " has no scopes");
        },
        register -> admitting(admission().with(register)),
        role -> {
          throw new IllegalArgumentException(id() + " has no roles that can be written otherwise");
        },
        item -> {
          throw new IllegalArgumentException(
              "new entries of " + name() + " cannot be shown in their effects yet");
        },
        written -> {
          throw new IllegalArgumentException("no proposal can change the settings of " + name());
        });
  }

  /** The same system, admitting otherwise. */
  AccessSystem admitting(Admission other);

  /**
   * Its grants that somebody gives one by one, numbered as they are among all: all of them, or none
   * where they are entries of lists, of which there are many. What is said of single assignments
   * (given to a person, redundant) is not said of entries; {@link #remarks} says what is.
   */
  default List<Grant> assigned(Basis basis) {
    return grants(basis);
  }

  /** Whether its grants are called entries, of lists; for wording and layout only. */
  default boolean isOfLists() {
    return false;
  }

  /**
   * What is wrong with its own facts, in the order of resources.
   *
   * @param subjectsOf as what a subject counts: itself and its groups
   */
  default List<Remark> remarks(long asOf, IntFunction<SubjectSet> subjectsOf) {
    return List.of();
  }

  /**
   * The number, from 0, in the list of its resource of the entry that a grant is; empty where it is
   * none that stands there by itself.
   */
  default OptionalInt entry(int grant) {
    return OptionalInt.empty();
  }

  /**
   * An entry as the system itself writes it; empty where that is not known here, or where the entry
   * is there only because one above hands it on.
   */
  default Optional<String> entryText(int grant) {
    return Optional.empty();
  }

  /**
   * The same entry for somebody else: what to add, and what to take out in its place; where lists
   * say so already, an entry that is there. Nothing where {@link #entryText} is empty, and for what
   * is the owner's or everybody's.
   *
   * @throws IllegalArgumentException when the lists could not name that subject
   */
  default List<ListWish.Edit> entryFor(int grant, int subject) {
    return List.of();
  }

  /**
   * What else lists say of subjects that is no grant: who owns a resource, and entries that count
   * for what is made later. By the subject, each as it would be added. O(resources).
   */
  default Map<Integer, List<ListWish.Edit>> items() {
    return Map.of();
  }

  /**
   * The same item for somebody else.
   *
   * @throws IllegalArgumentException when the lists could not name that subject
   */
  default String itemFor(String text, int subject) {
    throw new IllegalArgumentException(name() + " has no such items");
  }

  /**
   * Whether an entry that names an account decides alone, so that entries of its groups give it
   * nothing there (1003.1e 23.1.5).
   */
  default boolean namedDecides() {
    return false;
  }

  /**
   * What some grants give together at a resource, in words of the system that {@link #writing}
   * takes; where entries that name an account decide alone.
   *
   * @param everybody whether also what everybody may there
   */
  default String together(int resource, List<Integer> grants, boolean everybody) {
    throw new UnsupportedOperationException(id());
  }

  /**
   * What an entry takes that gives a subject this; nobody else gains or loses by it.
   *
   * @throws IllegalArgumentException when the lists could not name that subject
   */
  default List<ListWish.Edit> writing(int resource, String what, int subject) {
    throw new UnsupportedOperationException(id());
  }

  /** Whether what a grant gives the owner of its resource is the next owner's without an edit. */
  default boolean goesWithOwner(int grant) {
    return false;
  }

  /** What stands in the way of carrying an entry or item over to somebody else. */
  default Hindrance hindrance(ListWish.Edit entry) {
    return Hindrance.NONE;
  }

  /** Whether an item has one bearer only, such as who owns a resource. */
  default boolean isExclusive(String text) {
    return false;
  }

  /** Two items for the same, as one that says what both say; empty where they stay two. */
  default Optional<String> joined(String text, String other) {
    return Optional.empty();
  }

  /** Whether the list of a resource says something that is no grant. */
  default boolean hasItem(int resource, String text) {
    return false;
  }

  /** An entry in words, by how the system itself writes it. */
  default String entryWords(String text) {
    return text;
  }

  /** The grant that an entry of a resource is, by how the system itself writes it. */
  default OptionalInt entryOf(int resource, String text) {
    return OptionalInt.empty();
  }

  /**
   * The entries to add, and those to take out in their place, so that somebody gets rights. Where
   * lists say so already, an entry that is there.
   *
   * @throws IllegalArgumentException when no entry could give them, with why
   */
  default List<ListWish.Edit> giving(ListWish wish) {
    throw new IllegalArgumentException(name() + " keeps no lists of entries");
  }

  /**
   * The entries to take out, and those to put in their place, so that lists give somebody these
   * rights no more; what others have is not looked at, nor what comes through groups.
   *
   * @throws IllegalArgumentException when no entry of theirs gives them
   */
  default List<ListWish.Edit> taking(ListWish wish) {
    throw new IllegalArgumentException(name() + " keeps no lists of entries");
  }

  /** The lists of a resource as they stand, one line an entry, with where each comes from. */
  default List<ListLine> list(int resource) {
    return List.of();
  }

  /** What a resource is and whose, in words; empty for a system without lists. */
  default String what(int resource) {
    return "";
  }

  /** What is to be said of the list of a resource at a glance; none for a system without lists. */
  default Set<ListMark> marks(int resource) {
    return Set.of();
  }

  /**
   * What the list of something made below a resource would be, in words; none where it is not
   * known.
   */
  default List<String> made(int resource) {
    return List.of();
  }

  /** The accounts that may everything in it, whatever is granted; none for most kinds of system. */
  default List<Integer> controllers() {
    return List.of();
  }

  /** The accounts that can come to everything in it by its own rules, by a shortest way each. */
  default List<Climb> climbs() {
    return List.of();
  }

  /** Of how many resources the lists could not be read; what depends on them is undecided. */
  default int unread() {
    return 0;
  }

  /** The files its lists were read from, as the user names them. */
  default List<String> files() {
    return List.of();
  }

  /** By which chain of included roles, and which entry, a role gives a right. */
  RoleChain roleChain(int role, int right);

  /**
   * How a role comes by a right.
   *
   * @param roles ids from the role itself to the one whose entry gives the right
   * @param entry the entry, as written: {@code area: level}
   */
  record RoleChain(List<String> roles, String entry) {}

  /** The role with this id. */
  default Optional<Integer> findRole(String id) {
    for (int role = 0; role < roles().size(); role++) {
      if (roles().get(role).id().equals(id)) {
        return Optional.of(role);
      }
    }
    return Optional.empty();
  }
}
