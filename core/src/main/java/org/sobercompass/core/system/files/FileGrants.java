package org.sobercompass.core.system.files;

import java.util.AbstractList;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.RandomAccess;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.FileFacts.Share;
import org.sobercompass.core.system.files.FileList.Entry;

/**
 * All entries of all paths as grants, made when they are asked for. Each path has the right of its
 * owner and the entries written there; what it inherits is the grant of the folder it comes from.
 * Then come the entries of the shares, and last what the superuser may. Thread-safe.
 */
final class FileGrants extends AbstractList<Grant> implements RandomAccess {
  private final FileFacts facts;
  private final Lineage[] lineages;
  private final int[] first;
  private final int shareFirst;
  private final int size;
  private final int superuser;
  private final List<RoleInfo> roles = new ArrayList<>();
  private final Map<FileList, int[]> roleOf = new HashMap<>();
  private final int everyone;
  private final Facts subjects;

  FileGrants(FileFacts facts, Facts subjects) {
    this.facts = facts;
    this.subjects = subjects;
    this.everyone = facts.trustees.subject(Trustees.EVERYONE);
    int paths = facts.tree.size();
    lineages = new Lineage[paths];
    first = new int[paths + 1];
    Lineage.Maker maker = new Lineage.Maker(facts.lists);
    for (int r = 0; r < paths; r++) {
      int list = facts.listOf[r];
      int above = r == 0 ? -2 : facts.listOf[facts.tree.parent(r)];
      if (list >= 0) {
        lineages[r] = maker.of(list, above, facts.isFolder(r));
      }
      first[r + 1] = first[r] + (list < 0 ? 0 : 1 + lineages[r].own());
    }
    shareFirst = first[paths];
    int at = shareFirst;
    for (Share share : facts.shares) {
      at += share.list() < 0 ? 0 : facts.lists[share.list()].entries().size() - 1;
    }
    superuser = facts.superuser;
    size = at + (superuser >= 0 ? 1 : 0);
    numberRoles();
  }

  private void numberRoles() {
    Map<String, Integer> known = new LinkedHashMap<>();
    for (FileList list : facts.lists) {
      int[] numbers = new int[list.entries().size()];
      for (int e = 0; e < numbers.length; e++) {
        Entry entry = list.entries().get(e);
        long whole = list.part(e, FileRights.FULL);
        boolean posix = facts.style == FileStyle.POSIX;
        numbers[e] = role(known, entry, posix ? entry.rights() : FileRights.ENTRIES.of(whole));
      }
      roleOf.put(list, numbers);
    }
    long all = -1L >>> (64 - facts.style.rights().size());
    known.put("superuser", roles.size());
    roles.add(info("superuser", all, 0));
  }

  private int role(Map<String, Integer> known, Entry entry, long rights) {
    String id =
        entry.effect().equals("allow") ? entry.words() : entry.effect() + " " + entry.words();
    Integer number = known.get(id + entry.rights());
    if (number == null) {
      number = roles.size();
      known.put(id + entry.rights(), number);
      roles.add(info(id, entry.denies() ? 0 : rights, entry.denies() ? rights : 0));
    }
    return number;
  }

  private static RoleInfo info(String id, long allows, long denies) {
    return new RoleInfo(id, id, new long[] {allows}, new long[] {denies}, List.of(), "");
  }

  List<RoleInfo> roles() {
    return roles;
  }

  /** The lineage of a path's list; none when it was not read. */
  Lineage lineage(int resource) {
    return lineages[resource];
  }

  /** The grant that an entry of a path comes from: its own, or one further up. */
  int grant(int resource, int entry) {
    int at = resource;
    int number = entry;
    while (number > 0 && lineages[at].origin()[number - 1] >= 0) {
      number = lineages[at].origin()[number - 1] + 1;
      at = facts.tree.parent(at);
    }
    return first[at] + rank(at, number);
  }

  /** Among the entries written at a path, counted from the owner's right. */
  private int rank(int resource, int entry) {
    int rank = 0;
    int[] origin = lineages[resource].origin();
    for (int i = 0; i < entry; i++) {
      rank += origin[i] < 0 ? 1 : 0;
    }
    return rank;
  }

  /** The grant of an entry of a share; entries are counted from 1. */
  int shareGrant(int share, int entry) {
    int at = shareFirst;
    for (int s = 0; s < share; s++) {
      int list = facts.shares.get(s).list();
      at += list < 0 ? 0 : facts.lists[list].entries().size() - 1;
    }
    return at + entry - 1;
  }

  /**
   * An entry of the list of a share.
   *
   * @param share the number of the share
   * @param entry the number of the entry, counted from 1
   */
  record OfShare(int share, int entry) {}

  /** The entry of a share that a grant is; empty for all others. */
  Optional<OfShare> ofShare(int grant) {
    int left = grant - shareFirst;
    for (int s = 0; s < facts.shares.size() && left >= 0; s++) {
      int list = facts.shares.get(s).list();
      int entries = list < 0 ? 0 : facts.lists[list].entries().size() - 1;
      if (left < entries) {
        return Optional.of(new OfShare(s, left + 1));
      }
      left -= entries;
    }
    return Optional.empty();
  }

  /** Whether a grant is an entry: neither ownership nor what the superuser may. */
  boolean isRemovable(int grant) {
    boolean superusers = superuser >= 0 && grant == superuserGrant();
    return grant >= shareFirst ? !superusers : entry(resource(grant), grant) != 0;
  }

  /** The facts as if a grant were not there. */
  FileFacts without(int grant) {
    if (grant >= shareFirst) {
      OfShare one =
          ofShare(grant)
              .orElseThrow(
                  () ->
                      new IllegalArgumentException("what the superuser may cannot be taken away"));
      return facts.withoutOfShare(one.share, one.entry);
    }
    int top = resource(grant);
    if (entry(top, grant) == 0) {
      throw new IllegalArgumentException("ownership is no entry; give it another owner");
    }
    Map<Integer, List<Integer>> gone = new LinkedHashMap<>();
    for (int r = top; r < facts.tree.end(top); r++) {
      int entries = facts.listOf[r] < 0 ? 0 : facts.lists[facts.listOf[r]].entries().size();
      for (int e = 1; e < entries; e++) {
        if (grant(r, e) == grant) {
          gone.computeIfAbsent(r, k -> new ArrayList<>()).add(e);
        }
      }
    }
    return facts.without(gone);
  }

  /** The number in the list of its path of the entry that a grant is; none of a share's. */
  OptionalInt entry(int grant) {
    int entry = grant < shareFirst ? entry(resource(grant), grant) : 0;
    return entry == 0 ? OptionalInt.empty() : OptionalInt.of(entry - 1);
  }

  /** What the superuser may. */
  int superuserGrant() {
    return size - 1;
  }

  /** The path a grant is written at. */
  int resource(int grant) {
    if (grant >= shareFirst) {
      return get(grant).resource();
    }
    int low = 0;
    int high = first.length - 1;
    while (low + 1 < high) {
      int middle = (low + high) >>> 1;
      if (first[middle] <= grant) {
        low = middle;
      } else {
        high = middle;
      }
    }
    return low;
  }

  /** The first grant of a path, and how many it has. */
  int first(int resource) {
    return first[resource];
  }

  int count(int resource) {
    return first[resource + 1] - first[resource];
  }

  /** The number of the entry, in the list of its path, that a grant is. */
  int entry(int resource, int grant) {
    int rank = grant - first[resource];
    int entry = 0;
    int[] origin = lineages[resource].origin();
    for (int left = rank; left > 0; entry++) {
      left -= origin[entry] < 0 ? 1 : 0;
    }
    return entry;
  }

  @Override
  public Grant get(int number) {
    if (number < 0 || number >= size) {
      throw new IndexOutOfBoundsException(number);
    }
    if (superuser >= 0 && number == size - 1) {
      return grant("superuser", superuser, roles.size() - 1, 0, true, "", true);
    }
    if (number >= shareFirst) {
      return grantOfShare(number);
    }
    int resource = resource(number);
    FileList list = facts.lists[facts.listOf[resource]];
    int entry = entry(resource, number);
    Entry written = list.entries().get(entry);
    String path = facts.tree.id(resource);
    String claim =
        entry > 0 && lineages[resource].origin()[entry - 1] == Lineage.CLAIMED
            ? "claims to be inherited"
            : "";
    return grant(
        path + " " + entry + " " + facts.trustees.text(Math.max(written.trustee(), 0)),
        written.trustee(),
        role(list, entry),
        resource,
        !written.reach().isEmpty(),
        claim,
        entry == 0);
  }

  private Grant grantOfShare(int number) {
    OfShare one = ofShare(number).orElseThrow(() -> new IndexOutOfBoundsException(number));
    Share share = facts.shares.get(one.share);
    FileList list = facts.lists[share.list()];
    return grant(
        "share " + share.name() + " " + one.entry,
        list.entries().get(one.entry).trustee(),
        role(list, one.entry),
        share.resource(),
        true,
        "share " + share.name(),
        false);
  }

  private int role(FileList list, int entry) {
    int[] numbers = roleOf.get(list);
    return numbers == null ? 0 : numbers[entry];
  }

  private Grant grant(
      String id,
      int trustee,
      int role,
      int resource,
      boolean descends,
      String reason,
      boolean declared) {
    int subject = trustee < 0 ? Grant.MISSING : facts.trustees.subject(trustee);
    boolean everybody = subject == everyone || subject >= 0 && isImplicit(subject);
    return new Grant(
        id,
        role,
        subject,
        trustee < 0 ? "" : facts.trustees.label(trustee),
        resource,
        descends,
        Long.MIN_VALUE,
        Long.MAX_VALUE,
        true,
        "",
        reason,
        Place.of(facts.tree.id(resource)),
        declared || everybody);
  }

  /** Whether a trustee is the account of a person, not of a program or a computer. */
  boolean isPerson(int trustee) {
    int subject = facts.trustees.subject(trustee);
    return subject >= 0
        && subjects.kind(subject) == SubjectKind.ACCOUNT
        && !subjects.is(subject, Facts.SERVICE)
        && !subjects.is(subject, Facts.HOST);
  }

  /** Whether a trustee is everybody, or everybody signed in. */
  boolean isEverybody(int trustee) {
    int subject = facts.trustees.subject(trustee);
    return subject >= 0 && isImplicit(subject);
  }

  private boolean isImplicit(int subject) {
    return subjects.kind(subject) == org.sobercompass.core.facts.SubjectKind.IMPLICIT;
  }

  @Override
  public int size() {
    return size;
  }
}
