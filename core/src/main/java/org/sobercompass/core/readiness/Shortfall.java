package org.sobercompass.core.readiness;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.core.system.Verdict;

/** What others in the same role at the same node can do and an account cannot, and why. */
public final class Shortfall {
  private Shortfall() {}

  /**
   * One right that a role gives and the account does not have there.
   *
   * @param grant the grant of that role to the account or a group of it
   * @param right the right
   * @param stopped what stops it, if a grant does
   */
  public record Item(int grant, int right, Optional<Stopped> stopped) {}

  /** All of one system, by grant and right; only the strongest right that is missing on an area. */
  public static List<Item> of(Asker asker, SystemView view, int account) {
    List<Item> items = new ArrayList<>();
    SubjectSet subjects = asker.subjects(view, account);
    long asOf = asker.model().asOf().getEpochSecond();
    for (int g = 0; g < view.grants().size(); g++) {
      Grant grant = view.grants().get(g);
      if (!grant.activeAt(asOf) || !subjects.sure().contains(grant.subject())) {
        continue;
      }
      RoleInfo role = view.system().roles().get(grant.role());
      for (int right : view.rights().byText()) {
        if (role.allows(right)) {
          missing(asker, view, account, g, right).ifPresent(items::add);
        }
      }
    }
    return items;
  }

  private static Optional<Item> missing(
      Asker asker, SystemView view, int account, int grant, int right) {
    int node = view.grants().get(grant).resource();
    Decision decision = asker.explain(view, account, Question.of(node, right), Limits.USUAL);
    if (decision.verdict() != Verdict.NO) {
      return Optional.empty();
    }
    return Optional.of(
        new Item(
            grant, right, decision.stopped().stream().filter(s -> s.grant() == grant).findFirst()));
  }
}
