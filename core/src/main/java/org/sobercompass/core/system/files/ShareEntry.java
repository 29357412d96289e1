package org.sobercompass.core.system.files;

import java.util.Optional;

/**
 * An entry of the list of a share itself, as a text: {@code share}, the name of the share, and the
 * entry in SDDL: {@code share field (A;;0x1301bf;;;S-1-5-21-1-2-3-1104)}.
 *
 * @param share the name of the share
 * @param entry the entry
 */
public record ShareEntry(String share, String entry) {
  private static final String WORD = "share ";

  /** Of a text; empty when it is about no share. */
  public static Optional<ShareEntry> of(String text) {
    int entry = text.lastIndexOf(" (");
    return text.startsWith(WORD) && entry > WORD.length()
        ? Optional.of(
            new ShareEntry(text.substring(WORD.length(), entry), text.substring(entry + 1)))
        : Optional.empty();
  }

  /** As a text. */
  String text() {
    return WORD + share + " " + entry;
  }

  /**
   * The number of the share that opens a folder.
   *
   * @throws IllegalArgumentException when there is none of this name there
   */
  int number(FileFacts facts, int resource) {
    for (int s = 0; s < facts.shares.size(); s++) {
      FileFacts.Share one = facts.shares.get(s);
      if (one.name().equals(share) && one.resource() == resource) {
        return s;
      }
    }
    throw new IllegalArgumentException(
        "there is no share "
            + share
            + " of "
            + facts.tree.id(resource)
            + "; there are: "
            + String.join(
                ", ",
                facts.shares.stream()
                    .map(one -> one.name() + " of " + facts.tree.id(one.resource()))
                    .toList()));
  }

  /** Its list. */
  FileList list(FileFacts facts, int resource) {
    int list = facts.shares.get(number(facts, resource)).list();
    if (list < 0) {
      throw new IllegalArgumentException("the list of the share " + share + " was not read");
    }
    return facts.lists[list];
  }
}
