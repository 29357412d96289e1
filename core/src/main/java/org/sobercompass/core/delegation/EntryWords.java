package org.sobercompass.core.delegation;

import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.DsRights;

/**
 * Entries of lists in words.
 *
 * @param names what the directory's identifiers name
 */
public record EntryWords(DsNames names) {
  /** One entry in words: "write member of groups below". */
  public String of(Ace ace) {
    if (ace.type() == AceType.UNKNOWN) {
      return "an entry of an unknown type (" + ace.code() + ")";
    }
    String rights = String.join(", ", DsRights.words(ace.mask(), ace.object().isPresent()));
    String what = ace.object().map(id -> " " + names.words(id, ace.mask())).orElse("");
    String where =
        ace.isHandedOn()
            ? ace.inheritedBy()
                .map(id -> " of each " + names.words(id) + " below")
                .orElse(
                    (ace.flags() & Ace.NEXT_ONLY) != 0
                        ? ace.countsHere() ? " here and right below" : " right below"
                        : ace.countsHere() ? " here and below" : " below")
            : "";
    boolean perhaps =
        ace.type().effect() == AceType.Effect.PERHAPS_ALLOW
            || ace.type().effect() == AceType.Effect.PERHAPS_DENY;
    return (ace.denies() ? "not " : "")
        + rights
        + what
        + where
        + (perhaps ? ", on a condition" : "");
  }
}
