package org.sobercompass.core.system.files;

import java.util.List;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.ListLine;
import org.sobercompass.core.system.ListLine.Origin;
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
    return new ListLine(
        "default",
        resource,
        Origin.DEFAULT,
        entry,
        Grant.MISSING,
        "allow",
        "",
        "what is made in it");
  }
}
