package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.function.IntFunction;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.files.FileFacts.Share;
import org.sobercompass.core.system.files.FileList.Entry;
import org.sobercompass.core.system.remark.ListedEntry;
import org.sobercompass.core.system.remark.RemarkedFiles;

/**
 * What is wrong in lists as they stand. One cause is one remark, however many paths show it.
 * O(paths + distinct lists).
 */
final class FileRemarks {
  private static final long WRITE = FileRights.WRITE_DATA | FileRights.APPEND_DATA;

  private final FileFacts facts;
  private final FileGrants grants;
  private final List<Integer> administrators;
  private final IntFunction<SubjectSet> subjectsOf;
  private final Map<String, Found> found = new LinkedHashMap<>();
  private final Map<Integer, List<OfPerson>> ofPersons = new LinkedHashMap<>();

  /** A remark that grows. */
  private static final class Found {
    final Remark first;
    int also;

    Found(Remark first) {
      this.first = first;
    }
  }

  FileRemarks(
      FileFacts facts,
      FileGrants grants,
      List<Integer> administrators,
      IntFunction<SubjectSet> subjectsOf) {
    this.facts = facts;
    this.grants = grants;
    this.administrators = administrators;
    this.subjectsOf = subjectsOf;
  }

  List<Remark> all() {
    EntryRemarks entries = new EntryRemarks(facts, grants, this);
    for (int r = 0; r < facts.tree.size(); r++) {
      if (facts.listOf[r] >= 0) {
        inherited(r);
        entries.of(r);
        owner(r);
        masked(r);
        persons(r);
      }
    }
    tellPersons();
    everyone();
    for (int s = 0; s < facts.shares.size(); s++) {
      layers(s);
    }
    List<Remark> all = new ArrayList<>();
    for (Found f : found.values()) {
      Remark r = f.first;
      all.add(
          new Remark(
              r.kind(), r.resource(), r.cause(), r.about(), r.subjects(), r.grants(), f.also));
    }
    all.sort(
        Comparator.comparingInt(Remark::resource)
            .thenComparing(one -> (FileRemarkKind) one.kind()));
    return List.copyOf(all);
  }

  void add(
      Remark.Kind kind,
      int resource,
      String cause,
      RemarkedFiles about,
      List<Integer> subjects,
      List<Integer> shown) {
    Found known = found.get(kind.id() + " " + cause);
    if (known != null) {
      known.also++;
      return;
    }
    found.put(
        kind.id() + " " + cause,
        new Found(new Remark(kind, resource, cause, about, subjects, shown, 0)));
  }

  String path(int resource) {
    return facts.tree.id(resource);
  }

  /** Entries set here for single persons. */
  private void persons(int resource) {
    FileList list = facts.lists[facts.listOf[resource]];
    Lineage lineage = grants.lineage(resource);
    List<Entry> entries = list.entries();
    for (int e = 1; e < entries.size(); e++) {
      Entry entry = entries.get(e);
      boolean direct =
          entry.trustee() >= 0
              && entry.trustee() != list.owner()
              && entry.counts()
              && !entry.denies()
              && entry.rights() != 0
              && lineage.origin()[e - 1] == Lineage.HERE
              && grants.isPerson(entry.trustee());
      if (direct) {
        ofPersons
            .computeIfAbsent(entry.trustee(), person -> new ArrayList<>())
            .add(new OfPerson(resource, grants.grant(resource, e), entry));
      }
    }
  }

  /** All entries of one person are one remark, and are ended together. */
  private void tellPersons() {
    ofPersons.forEach(
        (person, each) -> {
          OfPerson first = each.get(0);
          int more = each.size() - 1;
          List<Integer> all = each.stream().map(OfPerson::grant).toList();
          add(
              FileRemarkKind.DIRECT_ENTRY,
              first.resource(),
              facts.trustees.text(person),
              new RemarkedFiles.ForPerson(listed(first.entry()), more),
              List.of(facts.trustees.subject(person)),
              all);
        });
  }

  private record OfPerson(int resource, int grant, Entry entry) {}

  private void inherited(int resource) {
    Lineage lineage = grants.lineage(resource);
    List<Integer> shown = new ArrayList<>();
    List<ListedEntry> whom = new ArrayList<>();
    List<Entry> entries = facts.lists[facts.listOf[resource]].entries();
    for (int e = 1; e < entries.size(); e++) {
      if (lineage.origin()[e - 1] == Lineage.CLAIMED && entries.get(e) != FileList.REMOVED) {
        shown.add(grants.grant(resource, e));
        whom.add(listed(entries.get(e)));
      }
    }
    if (!shown.isEmpty()) {
      add(
          FileRemarkKind.UNSUPPORTED_INHERITANCE,
          resource,
          path(resource),
          new RemarkedFiles.Claimed(whom),
          subjects(shown),
          shown);
    }
    if (!lineage.missed().isEmpty()) {
      missed(resource, lineage);
    }
    broken(resource);
  }

  private void missed(int resource, Lineage lineage) {
    int parent = facts.tree.parent(resource);
    List<Entry> above = facts.lists[facts.listOf[parent]].entries();
    List<Integer> shown = new ArrayList<>();
    List<ListedEntry> whom = new ArrayList<>();
    List<String> trustees = new ArrayList<>();
    for (int from : lineage.missed()) {
      trustees.add(facts.trustees.text(Math.max(above.get(from + 1).trustee(), 0)));
      shown.add(grants.grant(parent, from + 1));
      whom.add(listed(above.get(from + 1)));
    }
    add(
        FileRemarkKind.INHERITANCE_NOT_APPLIED,
        resource,
        path(parent) + " to " + String.join(" ", trustees),
        new RemarkedFiles.NotHandedOn(parent, whom),
        subjects(shown),
        shown);
  }

  /** A list that stops inheritance, below a folder from which everyone may delete it anyway. */
  private void broken(int resource) {
    int parent = facts.tree.parent(resource);
    boolean stops =
        facts.lists[facts.listOf[resource]] instanceof OrderedList own
            && own.descriptor.isProtected();
    if (!stops || parent < 0) {
      return;
    }
    FileMasks masks = FileMasks.once(facts, everybody());
    boolean open = (masks.own(parent, false) & FileRights.DELETE_CHILD) != 0;
    if (open && (masks.own(resource, false) & FileRights.DELETE) == 0) {
      add(
          FileRemarkKind.BROKEN_INHERITANCE,
          resource,
          path(resource),
          new RemarkedFiles.BlockedInVain(parent),
          List.of(),
          List.of());
    }
  }

  private void owner(int resource) {
    int owner = facts.lists[facts.listOf[resource]].owner();
    boolean outside =
        !administrators.isEmpty()
            && owner >= 0
            && facts.isFolder(resource)
            && facts.trustees.subject(owner) >= 0
            && !administrators.contains(owner)
            && administrators.stream().noneMatch(a -> isOrIn(owner, a));
    if (outside) {
      add(
          FileRemarkKind.OWNER_NOT_ADMINISTRATOR,
          resource,
          facts.trustees.text(owner),
          new RemarkedFiles.OwnedByOther(facts.trustees.label(owner)),
          List.of(facts.trustees.subject(owner)),
          List.of(grants.grant(resource, 0)));
    }
  }

  boolean isOrIn(int trustee, int other) {
    return trustee == other
        || facts.trustees.subject(other) >= 0
            && subjectsOf
                .apply(facts.trustees.subject(trustee))
                .sure()
                .contains(facts.trustees.subject(other));
  }

  private void masked(int resource) {
    int list = facts.listOf[resource];
    if (!(facts.lists[list] instanceof PosixList posix) || posix.hidden().isEmpty()) {
      return;
    }
    List<ListedEntry> whom = new ArrayList<>();
    List<Integer> shown = new ArrayList<>();
    for (int[] hidden : posix.hidden()) {
      Entry entry = posix.entries().get(hidden[0]);
      whom.add(listed(entry));
      shown.add(grants.grant(resource, hidden[0]));
    }
    add(
        FileRemarkKind.MASK_LIMITS_ENTRY,
        resource,
        "list " + path(resource),
        new RemarkedFiles.Masked(whom),
        subjects(shown),
        shown);
  }

  private Who everybody() {
    long[] sure = new long[(facts.trustees.size() + 63) >> 6];
    sure[0] = 1;
    for (int t = 1; t < facts.trustees.size(); t++) {
      if (grants.isEverybody(t)) {
        sure[t >> 6] |= 1L << t;
      }
    }
    return new Who(sure, new long[sure.length], 2);
  }

  private void everyone() {
    Who everybody = everybody();
    FileMasks masks = FileMasks.remembering(facts, everybody);
    boolean[] reached = new boolean[facts.tree.size()];
    int[] top = new int[facts.tree.size()];
    boolean searched = facts.style.isSearched();
    for (int r = 0; r < reached.length; r++) {
      int above = facts.tree.parent(r);
      reached[r] = above < 0 || !searched || (reached[above] && masks.passes(above, false));
      top[r] = -1;
      if (facts.listOf[r] >= 0 && isWritable(r, masks.rights(r, reached[r], false))) {
        boolean same = above >= 0 && top[above] >= 0;
        top[r] = same ? top[above] : r;
        writable(top[r], r);
      }
    }
  }

  private boolean isWritable(int resource, long rights) {
    if (facts.style == FileStyle.POSIX) {
      // To change what is in a folder takes writing and search together.
      boolean folder = facts.isFolder(resource);
      boolean sticky = folder && ((PosixList) facts.lists[facts.listOf[resource]]).isSticky();
      int needed = folder ? FileRights.POSIX_CREATE : FileRights.POSIX_WRITE;
      return (rights & 1L << needed) != 0 && !sticky;
    }
    boolean search =
        !facts.style.isSearched()
            || !facts.isFolder(resource)
            || (rights & 1L << FileRights.ENTRIES.find("execute").orElseThrow()) != 0;
    long writes = 0;
    for (String text : List.of("write-data", "append-data")) {
      writes |= 1L << FileRights.ENTRIES.find(text).orElseThrow();
    }
    return search && (rights & writes) != 0;
  }

  private void writable(int top, int resource) {
    String cause = path(top);
    if (top != resource) {
      Found known = found.get(FileRemarkKind.WRITABLE_BY_EVERYONE.id() + " " + cause);
      if (known != null) {
        known.also++;
      }
      return;
    }
    List<Integer> shown = new ArrayList<>();
    List<Entry> entries = facts.lists[facts.listOf[top]].entries();
    long wanted =
        facts.style == FileStyle.POSIX
            ? 1L << FileRights.POSIX_WRITE
            : FileRights.ENTRIES.touching(WRITE);
    for (int e = 0; e < entries.size(); e++) {
      Entry entry = entries.get(e);
      boolean broad = entry.trustee() >= 0 && grants.isEverybody(entry.trustee());
      if (broad && entry.counts() && !entry.denies() && (entry.rights() & wanted) != 0) {
        shown.add(grants.grant(top, e));
      }
    }
    add(
        FileRemarkKind.WRITABLE_BY_EVERYONE,
        top,
        cause,
        new RemarkedFiles.WritableByAll(),
        subjects(shown),
        shown);
  }

  /** What the file list gives and the share never lets through. */
  private void layers(int number) {
    Share share = facts.shares.get(number);
    int end = facts.tree.end(share.resource());
    for (int r = share.resource(); r < end; r++) {
      if (facts.listOf[r] < 0) {
        continue;
      }
      List<Entry> entries = facts.lists[facts.listOf[r]].entries();
      for (int e = 1; e < entries.size(); e++) {
        boolean own = grants.lineage(r).origin()[e - 1] < 0;
        Entry entry = entries.get(e);
        if (own && entry.trustee() >= 0 && !entry.denies() && entry.counts()) {
          layers(share, r, e, entry);
        }
      }
    }
  }

  private void layers(Share share, int resource, int number, Entry entry) {
    if (facts.trustees.subject(entry.trustee()) < 0 || share.list() < 0) {
      return;
    }
    FileList list = facts.lists[facts.listOf[resource]];
    long given = groups(FileRights.ENTRIES.of(list.part(number, FileRights.FULL)));
    long through =
        FileRights.ENTRIES.of(facts.lists[share.list()].mask(asGroup(entry), false, true));
    boolean elsewhere = shareElsewhere(share, resource, entry, given);
    if ((given & ~through) != 0 && !elsewhere) {
      add(
          FileRemarkKind.SHARE_AND_FILES_DISAGREE,
          resource,
          share.name() + " " + facts.trustees.text(entry.trustee()),
          new RemarkedFiles.ShareLimits(
              listed(entry), share.name(), through == 0, largest(through)),
          List.of(facts.trustees.subject(entry.trustee())),
          List.of(grants.grant(resource, number)));
    }
  }

  private boolean shareElsewhere(Share share, int resource, Entry entry, long given) {
    for (Share other : facts.shares) {
      if (other != share && other.list() >= 0 && facts.tree.covers(other.resource(), resource)) {
        long through =
            FileRights.ENTRIES.of(facts.lists[other.list()].mask(asGroup(entry), false, true));
        if ((given & ~through) == 0) {
          return true;
        }
      }
    }
    return false;
  }

  /** As whom every member of a trustee counts. */
  private Who asGroup(Entry entry) {
    Who everybody = everybody();
    SubjectSet all = subjectsOf.apply(facts.trustees.subject(entry.trustee()));
    IntList subjects = all.sure();
    facts.trustees.mark(subjects, everybody.sure());
    everybody.sure()[entry.trustee() >> 6] |= 1L << entry.trustee();
    return everybody;
  }

  /** Full and change say what is meant; the exact rights are too fine to compare. */
  private static long groups(long rights) {
    return rights & 0b111;
  }

  private static OptionalInt largest(long rights) {
    for (int right = 0; right < 3; right++) {
      if ((rights >>> right & 1) != 0) {
        return OptionalInt.of(right);
      }
    }
    return OptionalInt.empty();
  }

  private List<Integer> subjects(List<Integer> shown) {
    return shown.stream()
        .map(g -> grants.get(g).subject())
        .filter(s -> s >= 0)
        .distinct()
        .sorted()
        .toList();
  }

  ListedEntry listed(Entry entry) {
    String whom = entry.trustee() < 0 ? "somebody unknown" : facts.trustees.label(entry.trustee());
    return new ListedEntry(whom, entry.words());
  }
}
