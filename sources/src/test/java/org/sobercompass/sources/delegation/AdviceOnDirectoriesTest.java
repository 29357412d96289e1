package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.audit.ActEffects;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.delegation.TreePatch;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.removal.Removal;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Random small directories with lists, admin roles and rules over acts: what is advised is carried
 * out and everything asked again, one account, action and object after the other.
 */
class AdviceOnDirectoriesTest extends SmallDirectory {
  private static final int PEOPLE = 5;
  private static final int GROUPS = 3;
  private static final int MOST_REMOVALS = 12;

  private int ended;
  private int gave;
  private int proved;

  private Assessment assessment(Random random, boolean isSmall) throws IOException {
    ldif.setLength(0);
    domain(isSmall ? "D:" : list(random, true));
    unit("a", isSmall ? "D:" : list(random, true));
    for (int i = 0; i < PEOPLE; i++) {
      user("u" + i, 1001 + i, "a", isSmall && i > 0 ? "D:" : list(random, i > 1));
    }
    for (int g = 0; g < GROUPS; g++) {
      group(
          "g" + g,
          1101 + g,
          isSmall && g > 0 ? "D:" : list(random, g > 0),
          "cn=u" + random.nextInt(PEOPLE) + ",ou=a,dc=x",
          random.nextBoolean()
              ? "cn=u" + random.nextInt(PEOPLE) + ",ou=a,dc=x"
              : "cn=g" + random.nextInt(g + 1) + ",ou=a,dc=x");
    }
    Files.writeString(root.resolve("d.ldif"), ldif.toString());
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif, taken: 2026-06-01T12:00:00Z}}\n"
            + "admin: admin.yaml\nseparation:\n  - id: r\n    sides:\n"
            + "      - [act set-password on u0]\n      - [act edit-members on group g0]\n");
    Files.writeString(
        root.resolve("admin.yaml"),
        "scopes:\n  s: {include: [{group: g1, groups: members}]}\n"
            + "roles:\n  desk: {actions: [set-password, unlock]}\n"
            + "  editor: {actions: [edit-members]}\nassignments: admin.csv\n");
    Files.writeString(
        root.resolve("admin.csv"),
        "role,kind,subject,scope\n"
            + "desk,group,g"
            + random.nextInt(GROUPS)
            + ",s\neditor,account,u"
            + random.nextInt(PEOPLE)
            + ",everything\n");
    Workspace workspace = Workspace.open(root);
    return workspace.assessment(workspace.model());
  }

  /** A few entries; short ones leave room to try all sets of removals. */
  private static String list(Random random, boolean isShort) {
    StringBuilder list = new StringBuilder("O:" + sid(1101) + "D:");
    int entries = random.nextInt(isShort ? 2 : 4);
    for (int i = 0; i < entries; i++) {
      String right = random.nextBoolean() ? "CR;" + RESET : "WP;" + MEMBER;
      String who =
          switch (random.nextInt(6)) {
            case 0 -> "AU";
            case 1, 2 -> sid(1101 + random.nextInt(GROUPS));
            default -> sid(1001 + random.nextInt(PEOPLE));
          };
      list.append(random.nextInt(4) == 0 ? "(OD;" : "(OA;")
          .append(random.nextInt(3) == 0 ? "CI;" : ";")
          .append(right)
          .append(";;")
          .append(who)
          .append(')');
    }
    return list.toString();
  }

  @ParameterizedTest
  @ValueSource(longs = {0, 100, 200, 300})
  void whatIsAdvisedEndsItAndEndsAndGivesTheActsItSays(long from) throws IOException {
    for (long seed = from; seed < from + 20; seed++) {
      Assessment assessment = assessment(new Random(seed), false);
      for (Finding finding : Findings.of(assessment)) {
        Advice advice = Advice.of(assessment, finding);
        if (!advice.changes().isEmpty()) {
          ended++;
          Assessment after = assessment.with(advice.changes());
          String what = "seed " + seed + " " + finding.key() + " " + advice.changes();
          assertThat(Findings.of(after)).as(what).noneMatch(f -> f.key().equals(finding.key()));
          assertThat(told(advice.acts())).as(what).isEqualTo(differing(assessment, after));
        }
      }
    }
    assertThat(ended).isGreaterThan(50);
  }

  @Test
  void effectsOnActsAreWhatDiffersBetweenAllAnswersBeforeAndAfter() throws IOException {
    for (long seed = 1000; seed < 1050; seed++) {
      Assessment assessment = assessment(new Random(seed), false);
      for (Change change : removals(assessment)) {
        ActEffects effects = ActEffects.of(assessment, List.of(change));
        gave += effects.gives().size();
        assertThat(told(effects))
            .as("seed %d %s", seed, change)
            .isEqualTo(differing(assessment, assessment.with(List.of(change))));
      }
    }
    assertThat(gave).isGreaterThan(5);
  }

  @Test
  void nothingCheaperEndsWhatIsProvedLeast() throws IOException {
    for (long seed = 0; seed < 110; seed++) {
      Assessment assessment = assessment(new Random(seed), true);
      for (Finding finding : Findings.of(assessment)) {
        if (finding.kind() == FindingKind.SEPARATION_OF_DUTIES) {
          least(assessment, finding, Advice.of(assessment, finding), seed);
        }
      }
    }
    assertThat(proved).isGreaterThan(15);
  }

  private static Set<String> told(ActEffects effects) {
    assertThat(effects.asked()).isEqualTo(effects.concerned());
    Set<String> all = new TreeSet<>();
    effects.ends().forEach(act -> all.add("ends " + words(act)));
    effects.gives().forEach(act -> all.add("gives " + words(act)));
    return all;
  }

  private static String words(ActEffects.Act act) {
    return act.account() + " " + act.action().id() + " " + act.label();
  }

  /** Each account, action and object, before and after. */
  private static Set<String> differing(Assessment before, Assessment after) {
    Set<String> all = new TreeSet<>();
    DirectoryTree was = before.powers().trees().all().get(0);
    DirectoryTree is = after.powers().trees().all().get(0);
    for (int account = 0; account < before.model().facts().accounts(); account++) {
      for (AdminAction action : before.powers().roles().administration().actions()) {
        for (int object = 0; object < was.size(); object++) {
          int then = can(before.powers(), account, action, was, object).ordinal();
          int now = can(after.powers(), account, action, is, object).ordinal();
          if (then != now) {
            all.add(
                (now < then ? "ends " : "gives ")
                    + account
                    + " "
                    + action.id()
                    + " "
                    + was.label(object));
          }
        }
      }
    }
    return all;
  }

  private static Verdict can(
      Powers powers, int account, AdminAction action, DirectoryTree tree, int object) {
    int subject = powers.trees().subject(tree, object);
    Powers.Thing thing =
        new Powers.Thing(subject, Optional.of(new DirectoryTrees.Spot(tree, object)));
    return powers.can(account, action, thing, Optional.empty());
  }

  /** Where nothing cheaper is said to end it, no cheaper set of removals does. */
  private void least(Assessment assessment, Finding finding, Advice advice, long seed) {
    boolean asked = advice.result().filter(r -> r != Removal.Result.BEST_FOUND).isPresent();
    List<Change> all = asked ? removals(assessment) : List.of();
    if (!asked || all.size() > MOST_REMOVALS) {
      return;
    }
    proved++;
    long limit = advice.changes().isEmpty() ? Long.MAX_VALUE : advice.cost(assessment);
    for (int set = 1; set < 1 << all.size(); set++) {
      List<Change> some = new ArrayList<>();
      for (int i = 0; i < all.size(); i++) {
        if ((set >> i & 1) != 0) {
          some.add(all.get(i));
        }
      }
      Advice other = new Advice(Optional.empty(), some, advice.effects(), ActEffects.NONE);
      if (other.cost(assessment) < limit) {
        assertThat(Findings.conflicts(assessment.with(some)).get("r"))
            .as("seed %d %s", seed, some)
            .isPositive();
      }
    }
  }

  /** All that could be taken away: memberships, entries, admin roles. */
  private static List<Change> removals(Assessment assessment) {
    List<Change> all = new ArrayList<>();
    AccessModel model = assessment.model();
    for (int member = 0; member < model.facts().subjects(); member++) {
      for (int i = 0; i < model.graph().upCount(member); i++) {
        if (model.graph().upVia(member, i) == Via.MEMBER) {
          all.add(
              new Change.MembershipRemoved(member, model.graph().upGroup(member, i), Via.MEMBER));
        }
      }
    }
    DirectoryTree tree = assessment.powers().trees().all().get(0);
    for (int object = 0; object < tree.size(); object++) {
      int entries = tree.descriptor(object).orElseThrow().entries().size();
      for (int entry = 0; entry < entries; entry++) {
        all.add(assessment.powers().lists().removal(tree, object, entry));
      }
    }
    for (int grant = 0;
        grant < assessment.powers().roles().administration().grants().size();
        grant++) {
      all.add(assessment.powers().withdrawal(grant));
    }
    return all;
  }

  private static List<String> entries(DirectoryTree tree, int object) {
    return tree.descriptor(object).orElseThrow().entries().stream()
        .filter(ace -> ace.type().effect() != AceType.Effect.NONE)
        .map(ace -> (ace.isInherited() ? "inherited " : "") + ace.trustee())
        .toList();
  }

  @Test
  void whatAnEntryHandsOnGoesWithItUnlessSomethingElseHandsItOn() throws IOException {
    String down = ";CR;;;" + sid(1101) + ")";
    String other = ";CR;;;" + sid(1102) + ")";
    domain("D:(A;CI" + down + "(A;CI" + other);
    unit("a", "D:(A;CI" + other + "(A;CIID" + down + "(A;CIID" + other);
    user("di", 1001, "a", "D:(A;CIID" + down + "(A;CIID" + other);
    user("ed", 1002, "a", "D:P(A;CIID" + down);
    group("g0", 1101, "D:(A;CIID" + down + "(A;CIID;SD;;;" + sid(1103) + ")");
    Powers powers = powers();
    DirectoryTree tree = powers.trees().all().get(0);
    int top = tree.findForm("dc=x");
    DirectoryTree after =
        TreePatch.without(
            tree, List.of(new HandedDown.Entry(top, 0), new HandedDown.Entry(top, 1)));
    assertThat(entries(after, top)).isEmpty();
    assertThat(entries(after, tree.findForm("ou=a,dc=x"))).containsExactly(sid(1102));
    assertThat(entries(after, object(powers, "di"))).containsExactly("inherited " + sid(1102));
    assertThat(entries(after, object(powers, "ed"))).containsExactly("inherited " + sid(1101));
    int group = powers.trees().object(groupOf(powers)).orElseThrow().object();
    assertThat(entries(after, group)).containsExactly("inherited " + sid(1103));
    assertThat(entries(tree, top)).hasSize(2);
    assertThat(TreePatch.without(tree, List.of())).isSameAs(tree);
    Ace gone = after.descriptor(top).orElseThrow().entries().get(0);
    assertThat(gone.isHandedOn()).isFalse();
  }

  private static int object(Powers powers, String login) {
    return powers.trees().object(account(powers, login)).orElseThrow().object();
  }

  private static int groupOf(Powers powers) {
    return thing(powers, SubjectKind.GROUP, "g0").subject();
  }
}
