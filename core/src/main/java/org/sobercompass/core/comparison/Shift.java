package org.sobercompass.core.comparison;

import java.util.Comparator;
import org.sobercompass.core.key.Key;

/**
 * One permission of one account that is otherwise than it was, at the top of where it differs.
 *
 * @param account the key of the account
 * @param system the id of the system
 * @param right the text of the permission
 * @param where the id of the resource
 * @param gained whether it is there now, or more surely than before; else it was
 * @param unsure whether it is undecided now
 */
public record Shift(
    Key account, String system, String right, String where, boolean gained, boolean unsure)
    implements Comparable<Shift> {
  private static final Comparator<Shift> ORDER =
      Comparator.comparing((Shift s) -> s.account.text(), Key::compareUtf8)
          .thenComparing(Shift::system, Key::compareUtf8)
          .thenComparing(Shift::right, Key::compareUtf8)
          .thenComparing(Shift::where, Key::compareUtf8)
          .thenComparing(Shift::gained)
          .thenComparing(Shift::unsure);

  /** The same, whether or not it is undecided now. */
  Shift plain() {
    return at(where);
  }

  /** The same at another resource, whether or not it is undecided now. */
  Shift at(String other) {
    return new Shift(account, system, right, other, gained, false);
  }

  @Override
  public int compareTo(Shift other) {
    return ORDER.compare(this, other);
  }
}
