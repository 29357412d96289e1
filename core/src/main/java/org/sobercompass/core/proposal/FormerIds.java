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
   * One id, and how many entries of lists rest on it.
   *
   * @param bearer who kept it
   * @param id the id
   * @param entries how many entries name it, in lists that were read
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
          for (ListWish.Edit entry : list.of(subject)) {
            entries += names(entry.text(), id) ? 1 : 0;
          }
        }
        all.add(new Former(subject, id, entries));
      }
    }
    return all;
  }

  /** Whether an entry names an id, and not a longer one that begins with it. */
  static boolean names(String text, String id) {
    int at = text.indexOf(id);
    int end = at + id.length();
    return at >= 0 && (end == text.length() || !Character.isDigit(text.charAt(end)));
  }
}
