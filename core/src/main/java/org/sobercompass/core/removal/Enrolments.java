package org.sobercompass.core.removal;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Enrolment;

/** The memberships by which accounts are enrolled in systems that keep a register. */
public final class Enrolments {
  private Enrolments() {}

  /**
   * The memberships of one way in which an account is enrolled, each as member and group; none
   * where the system keeps no register, or the account is enrolled by itself.
   */
  public static List<int[]> edges(Asker asker, SystemView view, int account) {
    List<int[]> edges = new ArrayList<>();
    Admission admission = view.admission();
    if (admission.register().isEmpty()) {
      return edges;
    }
    Optional<Enrolment> shown = Optional.empty();
    for (Enrolment line : admission.lines(asker.subjects(view, account).sure())) {
      boolean admits = line.active() && admission.isAccepted(line) && admission.isHere(line);
      if (line.active() && line.subject() == account) {
        return edges;
      }
      shown = (shown.isEmpty() && line.active()) || admits ? Optional.of(line) : shown;
    }
    shown.ifPresent(
        line ->
            new MembershipPaths(view.memberships())
                .find(account, line.subject(), 1)
                .list()
                .forEach(path -> add(path.subjects(), edges)));
    return edges;
  }

  private static void add(List<Integer> subjects, List<int[]> edges) {
    for (int i = 1; i < subjects.size(); i++) {
      edges.add(new int[] {subjects.get(i - 1), subjects.get(i)});
    }
  }
}
