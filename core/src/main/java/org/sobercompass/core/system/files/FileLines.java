package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.ListLine;
import org.sobercompass.core.system.ListLine.Origin;
import org.sobercompass.core.system.ListMark;
import org.sobercompass.core.system.files.FileFacts.Share;
import org.sobercompass.core.system.files.FileList.Entry;

/** The lists of one path as lines, with where each entry comes from. */
final class FileLines {
  private final FileFacts facts;
  private final FileGrants grants;

  FileLines(FileFacts facts, FileGrants grants) {
    this.facts = facts;
    this.grants = grants;
  }

  void of(int resource, List<ListLine> into) {
    for (Share share : facts.shares) {
      if (facts.tree.covers(share.resource(), resource) && share.list() >= 0) {
        List<Entry> entries = facts.lists[share.list()].entries();
        for (int e = 1; e < entries.size(); e++) {
          into.add(
              line("share " + share.name(), share.resource(), Origin.EXPLICIT, entries.get(e)));
        }
      }
    }
    int list = facts.listOf[resource];
    if (list < 0) {
      return;
    }
    String layer = facts.isFolder(resource) ? "folder" : "file";
    List<Entry> entries = facts.lists[list].entries();
    for (int e = 0; e < entries.size(); e++) {
      if (e > 0 || entries.get(0).counts()) {
        int from = e == 0 ? resource : grants.resource(grants.grant(resource, e));
        into.add(line(layer, from, origin(resource, e), entries.get(e)));
      }
    }
    if (facts.lists[list] instanceof PosixList posix) {
      for (String entry : posix.defaults()) {
        into.add(made(resource, entry));
      }
    }
  }

  private Origin origin(int resource, int entry) {
    if (entry == 0) {
      return Origin.OWNER;
    }
    return switch (grants.lineage(resource).origin()[entry - 1]) {
      case Lineage.HERE -> Origin.EXPLICIT;
      case Lineage.CLAIMED -> Origin.CLAIMED;
      default -> Origin.INHERITED;
    };
  }

  private ListLine line(String layer, int resource, Origin origin, Entry entry) {
    int trustee = entry.trustee();
    return new ListLine(
        layer,
        resource,
        origin,
        trustee < 0 ? "" : facts.trustees.label(trustee),
        trustee < 0 ? Grant.MISSING : facts.trustees.subject(trustee),
        entry.effect(),
        entry.words(),
        entry.reach());
  }

  private static ListLine made(int resource, String entry) {
    return new ListLine("default", resource, Origin.DEFAULT, entry, Grant.MISSING, "allow", "", "");
  }

  /** Folder or file, whose, and the bits of its mode that are no permissions. */
  String what(int resource) {
    int list = facts.listOf[resource];
    String kind = facts.isFolder(resource) ? "folder" : "file";
    if (list < 0) {
      return kind;
    }
    int owner = facts.lists[list].owner();
    String whose = owner < 0 ? "" : " of " + facts.trustees.label(owner);
    String special = facts.lists[list] instanceof PosixList posix ? posix.specialWords() : "";
    boolean hidden = facts.lists[list] instanceof PosixList p && p.mayHideList();
    String unread = hidden ? ", of which only the mode was read" : "";
    return kind + whose + (special.isEmpty() ? "" : ", " + special) + unread;
  }

  Set<ListMark> marks(int resource) {
    int list = facts.listOf[resource];
    if (list < 0) {
      return EnumSet.of(ListMark.UNREAD);
    }
    Set<ListMark> marks = EnumSet.noneOf(ListMark.class);
    if (facts.lists[list] instanceof PosixList p && p.mayHideList()) {
      marks.add(ListMark.UNREAD);
    }
    Lineage lineage = grants.lineage(resource);
    for (int from : lineage.origin()) {
      switch (from) {
        case Lineage.HERE -> marks.add(ListMark.EXPLICIT);
        case Lineage.CLAIMED -> marks.add(ListMark.CLAIMED);
        default -> {}
      }
    }
    if (!lineage.missed().isEmpty()) {
      marks.add(ListMark.MISSED);
    }
    if (facts.lists[list] instanceof OrderedList own && own.descriptor.isProtected()) {
      marks.add(ListMark.BLOCKED);
    }
    if (marks.isEmpty()) {
      marks.add(ListMark.INHERITED);
    }
    return marks;
  }

  /** What a new file and a new folder would get. */
  List<String> made(int resource) {
    int list = facts.listOf[resource];
    if (list < 0 || !facts.isFolder(resource)) {
      return List.of();
    }
    if (facts.lists[list] instanceof PosixList posix) {
      return List.of(
          "a new file: " + posix.made(facts.trustees, false, PosixList.USUAL_UMASK),
          "a new folder: " + posix.made(facts.trustees, true, PosixList.USUAL_UMASK));
    }
    Descriptor above = ((OrderedList) facts.lists[list]).descriptor;
    return List.of("a new file: " + handed(above, false), "a new folder: " + handed(above, true));
  }

  private String handed(Descriptor above, boolean isFolder) {
    List<String> all = new ArrayList<>();
    for (FileInheritance.Handed handed : FileInheritance.handed(above, isFolder, above)) {
      if (handed.ace().countsHere()) {
        int trustee = facts.trustees.find(handed.ace().trustee());
        String whom = trustee < 0 ? handed.ace().trustee() : facts.trustees.label(trustee);
        String rights = FileRights.ENTRIES.words(FileRights.mapped(handed.ace().mask()));
        all.add((handed.ace().denies() ? "not " : "") + rights + " to " + whom);
      }
    }
    return all.isEmpty() ? "nothing is handed on" : String.join("; ", all);
  }
}
