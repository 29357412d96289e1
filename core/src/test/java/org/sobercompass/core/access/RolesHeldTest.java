package org.sobercompass.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Standing;

/** Accounts by roles in random organizations, against a look at every grant. */
class RolesHeldTest {
  @Test
  void aRoleIsToldWhereAGrantOfItOrOfOneThatIncludesItReachesTheAccount() {
    int included = 0;
    int direct = 0;
    for (int seed = 0; seed < 300; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      SystemView view = model.systems().get(0);
      Asker asker = model.asker();
      RolesHeld held =
          RolesHeld.of(asker, view, IntStream.range(0, model.facts().accounts()).boxed().toList());
      for (int account = 0; account < model.facts().accounts(); account++) {
        int who = account;
        Optional<RolesHeld.Row> row =
            held.rows().stream().filter(r -> r.account() == who).findFirst();
        for (int role = 0; role < view.system().roles().size(); role++) {
          int one = role;
          Optional<RolesHeld.Cell> cell = row.flatMap(r -> r.cells().get(one));
          boolean given = reaches(model, view, who, role, false);
          boolean inOther = reaches(model, view, who, role, true);
          assertThat(cell.isPresent()).as("seed %s", seed).isEqualTo(given || inOther);
          boolean only = cell.map(c -> c.how() == RolesHeld.How.INCLUDED).orElse(false);
          assertThat(only).isEqualTo(!given && inOther);
          included += only ? 1 : 0;
          direct += cell.map(c -> c.how() == RolesHeld.How.DIRECT ? 1 : 0).orElse(0);
        }
        row.ifPresent(
            r ->
                assertThat(r.blocked())
                    .isEqualTo(asker.standing(view, who).state() == Standing.State.BLOCKED));
      }
    }
    assertThat(included).isGreaterThan(50);
    assertThat(direct).isGreaterThan(50);
  }

  private static boolean reaches(
      AccessModel model, SystemView view, int account, int role, boolean through) {
    RoleInfo wanted = view.system().roles().get(role);
    for (Grant grant : view.grants()) {
      boolean right =
          through
              ? grant.role() != role && includes(view, grant.role(), wanted.id(), 0)
              : grant.role() == role;
      boolean counts =
          right
              && grant.activeAt(model.asOf().getEpochSecond())
              && grant.subject() >= 0
              && model.asker().subjects(view, account).sure().contains(grant.subject());
      if (counts) {
        return true;
      }
    }
    return false;
  }

  private static boolean includes(SystemView view, int role, String wanted, int depth) {
    if (depth > view.system().roles().size()) {
      return false;
    }
    for (String inner : view.system().roles().get(role).includes()) {
      if (inner.equals(wanted)
          || includes(view, view.system().findRole(inner).orElseThrow(), wanted, depth + 1)) {
        return true;
      }
    }
    return false;
  }
}
