package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Verdict;

/**
 * One answer, however it is asked: for one account, for all at once, with its ways; on random
 * directories with computers, contacts, withheld members, ids that were not read and lists that
 * were not read.
 */
class AskingTogetherTest extends SmallDirectory {
  private static final String[] RIGHTS = {
    "WP", "RP", "CR", "CC", "DC", "DT", "SD", "WD", "WO", "SW", "LC", "RC", FULL, "GA", "WPRP"
  };
  private static final String[] PARTS = {"", "", RESET, USER, MEMBER};

  private String list(Random random) {
    if (random.nextInt(9) == 0) {
      return "";
    }
    StringBuilder out = new StringBuilder("O:" + sid(1000 + random.nextInt(12)) + "D:");
    for (int i = random.nextInt(5); i > 0; i--) {
      String part = PARTS[random.nextInt(PARTS.length)];
      String type = random.nextInt(4) == 0 ? "D" : "A";
      String whom =
          switch (random.nextInt(8)) {
            case 0 -> "AU";
            case 1 -> "PS";
            case 2 -> "S-1-5-21-9-9-9-" + random.nextInt(3);
            default -> sid(1000 + random.nextInt(16));
          };
      out.append("(" + (part.isEmpty() ? type : "O" + type) + ";;");
      out.append(RIGHTS[random.nextInt(RIGHTS.length)] + ";" + part + ";;" + whom + ")");
    }
    return out.toString();
  }

  private void fill(Random random) {
    domain(list(random));
    unit("a", list(random));
    unit("b", list(random));
    for (int i = 0; i < 8; i++) {
      user("u" + i, 1000 + i, i % 2 == 0 ? "a" : "b", list(random));
    }
    for (int i = 0; i < 3; i++) {
      entry(
          "cn=pc" + i + ",ou=b,dc=x",
          list(random),
          "objectClass: user",
          "objectClass: computer",
          "sAMAccountName: pc" + i + "$",
          random.nextInt(3) == 0 ? "description: x" : "objectSid: " + sid(1008 + i),
          "objectGUID: 00000000-0000-0000-0000-0000000090" + (10 + i));
    }
    entry("cn=contact,ou=a,dc=x", list(random), "objectClass: contact", "cn: contact");
    for (int g = 0; g < 4; g++) {
      List<String> members = new ArrayList<>();
      for (int m = random.nextInt(4); m > 0; m--) {
        int who = random.nextInt(12);
        members.add(
            who < 8
                ? "cn=u" + who + ",ou=" + (who % 2 == 0 ? "a" : "b") + ",dc=x"
                : who < 11
                    ? "cn=pc" + (who - 8) + ",ou=b,dc=x"
                    : "cn=S-1-5-11,cn=ForeignSecurityPrincipals,dc=x");
      }
      group("g" + g, 1012 + g, list(random), members.toArray(String[]::new));
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void oneByOneAllAtOnceAndByWaysAreOneAnswer(long seed) throws IOException {
    fill(new Random(seed));
    Powers powers = powers();
    DirectoryTree tree = powers.trees().all().get(0);
    List<AdminAction> actions = new ArrayList<>(powers.roles().administration().actions());
    actions.add(
        new AdminAction(
            "w", "w", List.of(), new Requirement.Attribute(DsRights.WRITE_PROPERTY, "member"), 0));
    int asked = 0;
    for (int object = 0; object < tree.size(); object++) {
      Powers.Thing thing = powers.thing(new DirectoryTrees.Spot(tree, object));
      for (AdminAction action : actions) {
        Crowd all = powers.who(action, thing, Optional.empty());
        for (int account = 0; account < powers.model().facts().accounts(); account++) {
          Verdict one = powers.can(account, action, thing, Optional.empty());
          Verdict at =
              all.yes().get(account)
                  ? Verdict.YES
                  : all.perhaps().get(account) ? Verdict.UNDECIDED : Verdict.NO;
          assertThat(at)
              .as("seed %d: %d %s on %s", seed, account, action.id(), tree.dn(object))
              .isEqualTo(one);
          if (one == Verdict.YES) {
            assertThat(powers.ways(account, action, thing, Optional.empty()))
                .as("seed %d: %d %s on %s", seed, account, action.id(), tree.dn(object))
                .anyMatch(Powers.Way::gives);
          }
          asked++;
        }
      }
    }
    assertThat(asked).isGreaterThan(5_000);
  }
}
