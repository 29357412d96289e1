package org.sobercompass.core.facts;

import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Schema;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Texts;

/**
 * All directories of a workspace as frozen arrays. Subjects are numbered in the byte order of their
 * keys: accounts from 0, then groups, the three implicit groups, organizational units. Thread-safe.
 * Memory: about 100 bytes a subject beside its names, 9 bytes a membership.
 */
public final class Facts {
  /** The account is switched off. */
  public static final int DISABLED = 1;

  /** Of groups: for mail only, which is in no token. */
  public static final int MAIL_ONLY = 2;

  /** Of accounts: what says whether the account is switched off was not read. */
  public static final int STATE_UNKNOWN = 2;

  /** The expiry could not be read. */
  public static final int EXPIRY_UNKNOWN = 4;

  /** Locked after wrong passwords; the directory may have let it go since. */
  public static final int LOCKED = 8;

  /** The password must be changed before anything else can be done with it. */
  public static final int PASSWORD_ENDED = 16;

  /** A service account: a program signs in with it. */
  public static final int SERVICE = 32;

  /** A resource account: a room, a shared mailbox. */
  public static final int RESOURCE = 64;

  /** The account of a computer: a host that signs in by itself. */
  public static final int HOST = 128;

  /** The expiry of an account that has none. */
  public static final long NEVER = Long.MAX_VALUE;

  /** Locked until somebody lifts the lock. */
  public static final long UNTIL_LIFTED = NEVER - 1;

  private final Arrays arrays;
  private final FactsNames names;
  private final BitSet absent;

  /** Wraps arrays that keep the promises of the class; for {@link FactsBuilder} and codecs. */
  public Facts(Arrays arrays) {
    this(arrays, new BitSet());
  }

  /**
   * The same, of which some subjects are absent: they are to be created, or were deleted, and have
   * a number all the same. The set must not be changed.
   */
  public Facts(Arrays arrays, BitSet absent) {
    this.arrays = arrays;
    this.absent = absent;
    this.names = new FactsNames(this);
  }

  /**
   * The arrays behind the facts, one item a subject unless said otherwise.
   *
   * @param sources names of the directories, sorted
   * @param taken when each directory was exported, epoch second, or {@link #NEVER} when not said
   * @param accounts how many accounts
   * @param groups how many groups
   * @param units how many organizational units
   * @param source index of the directory; -1 for implicit groups
   * @param flags of {@link #DISABLED} and its neighbours
   * @param expires epoch second at which an account ends
   * @param container the nearest organizational unit above, or -1
   * @param id immutable ids
   * @param dn DNs as written
   * @param dnForm canonical DNs
   * @param login login names, short names of groups
   * @param display names for people
   * @param mail mail addresses
   * @param memberships who is listed where
   * @param dangling memberships without another end
   * @param columns values of the attributes asked for
   * @param problems what was wrong in the sources
   * @param completeness what came in, by source and attribute
   * @param schemas how attributes compare, by source; none where no schema was read
   * @param logins the attribute (lower case) with the login names, by source, where it is known
   * @param hosts the names of hosts that have an entry, in lower case, sorted
   * @param open the groups that have members which were not shown, ascending: anybody may be one
   * @param openVia how those members are listed, for each item of {@code open}
   * @param passwordEnds epoch second at which the password of each account ends, or {@link #NEVER}
   * @param lockedUntil epoch second until which each account is locked, or {@link #NEVER} when not
   */
  public record Arrays(
      List<String> sources,
      long[] taken,
      int accounts,
      int groups,
      int units,
      byte[] source,
      byte[] flags,
      long[] expires,
      int[] container,
      Texts id,
      Texts dn,
      Texts dnForm,
      Texts login,
      Texts display,
      Texts mail,
      MembershipRows memberships,
      List<Dangling> dangling,
      Map<String, Column> columns,
      List<Problem> problems,
      List<Completeness> completeness,
      Map<String, Schema> schemas,
      Map<String, String> logins,
      List<String> hosts,
      int[] open,
      byte[] openVia,
      long[] passwordEnds,
      long[] lockedUntil) {
    /** Groups of each subject. */
    public IntRows up() {
      return memberships.up();
    }

    /** How, for each item of {@link #up}. */
    public byte[] upVia() {
      return memberships.upVia();
    }
  }

  /** The arrays themselves; not to be changed. */
  public Arrays arrays() {
    return arrays;
  }

  /** Finds subjects by the names people use. */
  public FactsNames names() {
    return names;
  }

  /** How many accounts; they are numbered from 0. */
  public int accounts() {
    return arrays.accounts;
  }

  /** How many groups; they follow the accounts. */
  public int groups() {
    return arrays.groups;
  }

  /** The number of the first group. */
  public int firstGroup() {
    return arrays.accounts;
  }

  /** The number of the first organizational unit. */
  public int firstUnit() {
    return arrays.accounts + arrays.groups + Implicit.values().length;
  }

  /** How many subjects of all kinds. */
  public int subjects() {
    return firstUnit() + arrays.units;
  }

  /** The number of an implicit group. */
  public int implicit(Implicit group) {
    return arrays.accounts + arrays.groups + group.ordinal();
  }

  /** The kind of a subject. */
  public SubjectKind kind(int subject) {
    if (subject < arrays.accounts) {
      return SubjectKind.ACCOUNT;
    }
    if (subject < arrays.accounts + arrays.groups) {
      return SubjectKind.GROUP;
    }
    return subject < firstUnit() ? SubjectKind.IMPLICIT : SubjectKind.UNIT;
  }

  /** The stable key of a subject. */
  public Key key(int subject) {
    SubjectKind kind = kind(subject);
    return kind == SubjectKind.IMPLICIT
        ? new Key(KeyKind.IMPLICIT, "", implicitOf(subject).id())
        : new Key(kind.keyKind(), source(subject), arrays.id.get(subject));
  }

  /** The stable keys of subjects, in their order. They are made when they are asked for. */
  public List<Key> keys(int... subjects) {
    return new KeyList(this, subjects.clone());
  }

  /** The implicit group with this number. */
  public Implicit implicitOf(int subject) {
    return Implicit.values()[subject - arrays.accounts - arrays.groups];
  }

  /** The directory a subject belongs to; empty for implicit groups. */
  public String source(int subject) {
    int source = arrays.source[subject];
    return source < 0 ? "" : arrays.sources.get(source);
  }

  /** The name to show: display name, else login or short name, else DN. */
  public String label(int subject) {
    if (kind(subject) == SubjectKind.IMPLICIT) {
      return implicitOf(subject).words();
    }
    for (Texts texts : List.of(arrays.display, arrays.login)) {
      if (!texts.isEmpty(subject)) {
        return texts.get(subject);
      }
    }
    return arrays.dn.get(subject);
  }

  /** A subject as people know it: the name to show, and its login where that is another. */
  public String title(int subject) {
    String label = label(subject);
    String login = kind(subject) == SubjectKind.IMPLICIT ? "" : login(subject);
    return login.isEmpty() || login.equals(label) ? label : label + " (" + login + ")";
  }

  /** The login name of an account, the short name of a group; may be empty. */
  public String login(int subject) {
    return arrays.login.get(subject);
  }

  /** The DN as written; empty for implicit groups. */
  public String dn(int subject) {
    return arrays.dn.get(subject);
  }

  /** The mail address; may be empty. */
  public String mail(int subject) {
    return arrays.mail.get(subject);
  }

  /**
   * Whether a subject has a number and is not there: it is to be created, or was deleted, in a
   * change that is looked at. Nobody sees it and it is in no group.
   */
  public boolean isAbsent(int subject) {
    return absent.get(subject);
  }

  /** The subjects that are absent, one bit each; a copy. */
  public BitSet absent() {
    return (BitSet) absent.clone();
  }

  /** The accounts that are there, one bit each; a copy. */
  public BitSet present() {
    BitSet present = new BitSet(arrays.accounts);
    present.set(0, arrays.accounts);
    present.andNot(absent);
    return present;
  }

  /** Whether a flag is set. */
  public boolean is(int subject, int flag) {
    return (arrays.flags[subject] & flag) != 0;
  }

  /** The epoch second at which an account ends, or {@link #NEVER}. */
  public long expires(int account) {
    return arrays.expires[account];
  }

  /** The epoch second at which the password of an account ends, or {@link #NEVER}. */
  public long passwordEnds(int account) {
    return arrays.passwordEnds[account];
  }

  /** Whether an account is surely locked at an epoch second. */
  public boolean isLocked(int account, long at) {
    long until = arrays.lockedUntil[account];
    return until != NEVER && at < until;
  }

  /** How login names compare in the directory of an account; empty when it is not known there. */
  public Optional<Matching> loginMatching(int account) {
    String login = arrays.logins.get(source(account));
    Schema schema = arrays.schemas.get(source(account));
    if (login == null) {
      return Optional.empty();
    }
    return schema == null ? Optional.of(Matching.usual(login)) : schema.of(login);
  }

  /** Whether a rule that makes members is undefined for anybody. */
  public boolean hasUndefinedMembers() {
    return arrays.memberships.isAny(Via.UNDEFINED);
  }

  /** Whether a group has members that were not shown, so that anybody may be one. */
  public boolean isOpen(int group) {
    return java.util.Arrays.binarySearch(arrays.open, group) >= 0;
  }

  /** The nearest organizational unit above, or -1. */
  public int container(int subject) {
    return arrays.container[subject];
  }

  /**
   * How an attribute (lower-case name) compares in a directory; empty when it is not known there.
   * Where the schema was not read, the usual attribute types are known and those that were met.
   */
  public Optional<Matching> matching(String directory, String attribute) {
    return Column.matching(
        arrays.columns, Optional.ofNullable(arrays.schemas.get(directory)), attribute);
  }

  /** The subject with a key; empty when it is not in what was read. O(log subjects). */
  public Optional<Integer> find(Key key) {
    for (SubjectKind kind : SubjectKind.values()) {
      if (kind.keyKind() == key.kind()) {
        String text = kind == SubjectKind.IMPLICIT ? key.id() : key.text();
        // Who was created since bears an id now; until then the DN was the key.
        List<Integer> found = names().find(kind, text, key.id());
        found = found.stream().filter(s -> List.of("", source(s)).contains(key.source())).toList();
        return found.size() == 1 ? Optional.of(found.get(0)) : Optional.empty();
      }
    }
    return Optional.empty();
  }

  /** The values of an attribute that was asked for; empty when it was not. */
  public List<String> values(int subject, String attribute) {
    Column column = arrays.columns.get(attribute);
    return column == null ? List.of() : column.values(subject);
  }
}
