package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.files.PosixList.Parts;

/** What some have by a list of 1003.1e, written for another beside it. */
final class PosixBeside {
  private static final String OWNER = "user::";

  private final PosixForm form;
  private final FileTrustees names;

  PosixBeside(PosixForm form, FileTrustees names) {
    this.form = form;
    this.names = names;
  }

  /** What some entries give together, as {@code rwx}; of each what the mask lets through. */
  String together(PosixList list, List<Integer> entries, boolean everybody) {
    int mask = list.parts().mask();
    int may = everybody ? list.parts().otherMay() : 0;
    for (int entry : entries) {
      PosixEntry written = PosixEntry.of(form.text(list, entry));
      boolean ofOwner = written.kind().equals("user") && !written.isNamed();
      if (ofOwner || mask == PosixList.NO_MASK) {
        may |= written.may();
      } else if (mask == 0 && written.isNamed()) {
        // Linux looks at no entry then: whoever is named counts as others.
        may |= list.parts().otherMay();
      } else {
        may |= written.may() & mask;
      }
    }
    return PosixList.may(may);
  }

  /** Writes them for somebody; what others have stays as it is. */
  List<ListWish.Edit> writing(PosixList list, int resource, String what, String id) {
    Parts parts = list.parts();
    int may = PosixList.bits(what);
    List<ListWish.Edit> edits = new ArrayList<>();
    if (form.isOwner(parts, id)) {
      // For the owner no other entry counts.
      int is = parts.ownerMay() | may;
      if (is != parts.ownerMay()) {
        edits.add(new ListWish.Edit(resource, OWNER + PosixList.may(parts.ownerMay()), false));
      }
      edits.add(new ListWish.Edit(resource, OWNER + PosixList.may(is), true));
      return edits;
    }
    if (parts.mask() != PosixList.NO_MASK && (may & ~parts.mask()) != 0) {
      underMask(list, resource, id, edits);
    }
    int was = form.may(parts, id);
    boolean masked = was >= 0 && parts.mask() != PosixList.NO_MASK;
    int counts = masked ? was & parts.mask() : Math.max(was, 0);
    if (was >= 0 && (counts | may) == counts) {
      return List.of(new ListWish.Edit(resource, form.who(id) + PosixList.may(was), true));
    }
    if (was == (counts | may)) {
      edits.add(new ListWish.Edit(resource, "mask::" + PosixList.may(parts.mask() | was), true));
      return edits;
    }
    if (was >= 0) {
      edits.add(new ListWish.Edit(resource, form.who(id) + PosixList.may(was), false));
    }
    // What the mask took away must not come back with a mask that lets more through.
    edits.add(new ListWish.Edit(resource, form.who(id) + PosixList.may(counts | may), true));
    return edits;
  }

  /** A mask that lets more through must let no more through for others: they get what they have. */
  private void underMask(PosixList list, int resource, String id, List<ListWish.Edit> into) {
    int mask = list.parts().mask();
    for (int entry = 2; entry < list.entries().size() - 1; entry++) {
      String text = form.text(list, entry);
      PosixEntry written = PosixEntry.of(text);
      boolean other = !written.isNamed() || !written.id(names).equals(id);
      boolean asOthers = mask == 0 && written.isNamed();
      int left = asOthers ? list.parts().otherMay() : written.may() & mask;
      boolean gone = list.entries().get(entry).trustee() < 0;
      if (other && !gone && left != written.may()) {
        into.add(new ListWish.Edit(resource, text, false));
        // Without an entry of its own it would count as others.
        if (left != 0 || written.isNamed()) {
          String who = text.substring(0, text.lastIndexOf(':') + 1);
          into.add(new ListWish.Edit(resource, who + PosixList.may(left), true));
        }
      }
    }
  }
}
