package org.sobercompass.core.system.files;

import java.util.List;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.FileList.Entry;
import org.sobercompass.core.system.remark.RemarkedFiles;

/**
 * What is wrong with single entries of a list: for somebody who is not there, by an id kept from an
 * earlier directory, or with an outcome that depends on the order. Entries handed on from above are
 * told where they were set.
 */
final class EntryRemarks {
  private final FileFacts facts;
  private final FileGrants grants;
  private final FileRemarks into;

  EntryRemarks(FileFacts facts, FileGrants grants, FileRemarks into) {
    this.facts = facts;
    this.grants = grants;
    this.into = into;
  }

  void of(int resource) {
    List<Entry> entries = facts.lists[facts.listOf[resource]].entries();
    for (int e = 0; e < entries.size(); e++) {
      Entry entry = entries.get(e);
      if (entry.trustee() >= 0 && entry.counts() && isOwn(resource, e)) {
        missing(resource, e, entry.trustee());
        earlier(resource, e, entry.trustee());
      }
    }
    if (facts.lists[facts.listOf[resource]] instanceof OrderedList) {
      order(resource, entries);
    }
  }

  private boolean isOwn(int resource, int entry) {
    return entry == 0 || grants.lineage(resource).origin()[entry - 1] < 0;
  }

  private void missing(int resource, int entry, int trustee) {
    if (facts.trustees.isMissing(trustee)) {
      into.add(
          FileRemarkKind.UNRESOLVED_TRUSTEE,
          resource,
          facts.trustees.text(trustee),
          new RemarkedFiles.MissingTrustee(facts.trustees.label(trustee), entry == 0),
          List.of(),
          List.of(grants.grant(resource, entry)));
    }
  }

  private void earlier(int resource, int entry, int trustee) {
    if (facts.trustees.isEarlier(trustee)) {
      into.add(
          FileRemarkKind.FORMER_ID,
          resource,
          facts.trustees.text(trustee),
          new RemarkedFiles.EarlierId(facts.trustees.label(trustee), facts.trustees.text(trustee)),
          List.of(facts.trustees.subject(trustee)),
          List.of(grants.grant(resource, entry)));
    }
  }

  /**
   * A deny after an allow of the same rights to somebody of the same: the first of them decides.
   */
  private void order(int resource, List<Entry> entries) {
    for (int later = 2; later < entries.size(); later++) {
      Entry deny = entries.get(later);
      for (int first = 1; deny.denies() && first < later; first++) {
        Entry allow = entries.get(first);
        boolean clash =
            !allow.denies()
                && allow.counts()
                && deny.counts()
                && (allow.rights() & deny.rights()) != 0
                && isOwn(resource, later)
                && isOwn(resource, first)
                && meet(allow.trustee(), deny.trustee());
        if (clash) {
          into.add(
              FileRemarkKind.ENTRY_ORDER,
              resource,
              into.path(resource),
              new RemarkedFiles.DenyAfterAllow(into.listed(deny), into.listed(allow)),
              List.of(),
              List.of(grants.grant(resource, first), grants.grant(resource, later)));
          return;
        }
      }
    }
  }

  /** Whether somebody may count as both, as far as trustees say. */
  private boolean meet(int one, int other) {
    if (one == other || one == Trustees.EVERYONE || other == Trustees.EVERYONE) {
      return one >= 0 && other >= 0;
    }
    boolean known =
        one >= 0
            && other >= 0
            && facts.trustees.subject(one) >= 0
            && facts.trustees.subject(other) >= 0;
    return known && (into.isOrIn(one, other) || into.isOrIn(other, one));
  }
}
