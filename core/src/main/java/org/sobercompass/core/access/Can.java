package org.sobercompass.core.access;

import org.sobercompass.core.system.Standing;
import org.sobercompass.core.system.Verdict;

/**
 * The answer to "can this account do this?".
 *
 * @param verdict yes only when the account holds the right and may use it
 * @param held the verdict on the right alone
 * @param standing what stops the account, if it holds the right
 */
public record Can(Verdict verdict, Verdict held, Standing standing) {

  /** What is held, as far as the account may use it. */
  public static Can of(Verdict held, Standing standing) {
    Verdict usable =
        switch (standing.state()) {
          case USABLE -> Verdict.YES;
          case UNDECIDED -> Verdict.UNDECIDED;
          case BLOCKED -> Verdict.NO;
        };
    return new Can(held.and(usable), held, standing);
  }
}
