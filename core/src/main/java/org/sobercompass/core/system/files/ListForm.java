package org.sobercompass.core.system.files;

import java.util.List;
import java.util.OptionalInt;
import org.sobercompass.core.system.ListWish;

/** How entries of one style of lists are written, and added. */
interface ListForm {
  /** An entry of a list as text. */
  String text(FileList list, int entry);

  /** The same entry for another trustee; nothing for what is the owner's or everybody's. */
  List<ListWish.Edit> entryFor(FileList list, int resource, int entry, String id);

  /** An entry in words. */
  String words(String text);

  /** The number of an entry that says this, counted from 1 since 0 is what the owner may. */
  OptionalInt find(FileList list, String text);

  /**
   * The facts with one more entry at a path.
   *
   * @throws IllegalArgumentException when it cannot stand there
   */
  FileFacts with(FileFacts facts, int resource, String text);

  /**
   * What gives a trustee rights at a path, and below it.
   *
   * @throws IllegalArgumentException when no entry gives one of them
   */
  List<ListWish.Edit> giving(FileFacts facts, ListWish wish, String id);

  /** What takes rights from a trustee at a path; nothing where no entry of theirs gives them. */
  List<ListWish.Edit> taking(FileFacts facts, ListWish wish, String id);

  /** The form of a style. */
  static ListForm of(FileFacts facts, FileTrustees names) {
    return switch (facts.style) {
      case POSIX -> new PosixForm(facts.trustees, names);
      case NFS4 -> new OrderedForm.Nfs4(facts.trustees, names);
      case SHARED -> new OrderedForm.Shared(facts.trustees, names);
    };
  }
}
