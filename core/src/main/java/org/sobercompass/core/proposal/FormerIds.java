package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.ListWish;

/** Ids that accounts and groups kept from an earlier directory ({@code sIDHistory}, [MS-ADA3]). */
public final class FormerIds {
  /** The attribute that must be read. */
  public static final String ATTRIBUTE = "sidhistory";

  private FormerIds() {}

  /**
   * One id, and how many entries and owners of lists rest on it.
   *
   * @param bearer who kept it
   * @param id the id
   * @param entries how many entries name it, or say that it owns something, in lists that were read
   */
  public record Former(int bearer, String id, int entries) {}

  /** The ids that one kept; none where the attribute was not read. */
  static List<String> of(Facts facts, int subject) {
    return facts.values(subject, ATTRIBUTE);
  }

  /** All of them. O(subjects + entries of those who keep one). */
  public static List<Former> of(AccessModel model) {
    Facts facts = model.facts();
    List<NamingEntries> lists = new ArrayList<>();
    for (SystemView view : NamingEntries.systems(model)) {
      lists.add(new NamingEntries(view));
    }
    List<Former> all = new ArrayList<>();
    for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
      for (String id : of(facts, subject)) {
        int entries = 0;
        for (NamingEntries list : lists) {
          for (List<ListWish.Edit> some : List.of(list.of(subject), list.items(subject))) {
            entries += (int) some.stream().filter(entry -> names(entry.text(), id)).count();
          }
        }
        all.add(new Former(subject, id, entries));
      }
    }
    return all;
  }

  /** Whether an entry names an id, and not a longer one that begins with it. */
  static boolean names(String text, String id) {
    for (int at = text.indexOf(id); at >= 0; at = text.indexOf(id, at + 1)) {
      int end = at + id.length();
      if (end == text.length() || !Character.isDigit(text.charAt(end))) {
        return true;
      }
    }
    return false;
  }
}
