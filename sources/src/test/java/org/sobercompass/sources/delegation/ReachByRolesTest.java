package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.admin.ReachChains;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.organization.Organization;

/** Who could give himself a power by admin roles is what a plain program finds, round by round. */
class ReachByRolesTest {
  private static final int ACCOUNTS = 14;
  private static final int GROUPS = 7;

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20})
  void itIsWhatAPlainProgramFinds(long seed, @TempDir Path root) throws IOException {
    Powers powers = random(root, new Random(seed));
    Facts facts = powers.model().facts();
    int found = 0;
    for (int trustee = 0; trustee < facts.firstGroup() + GROUPS; trustee++) {
      Reach reach = new Reach(powers, new NamedPower("p", "p", false, List.of(trustee)));
      Reach.Answer answer = reach.answer();
      BitSet plain = plain(powers, trustee);
      BitSet all = (BitSet) answer.held().clone();
      all.or(answer.within());
      assertThat(all).as("seed %d trustee %d", seed, trustee).isEqualTo(plain);
      List<List<Reach.Step>> chains = answer.within().stream().mapToObj(reach::chain).toList();
      assertThat(chains).allMatch(chain -> !chain.isEmpty());
      ReachChains kept = reach.chains(answer.within());
      assertThat(answer.within().stream().mapToObj(kept::of).toList()).isEqualTo(chains);
      found += chains.size();
    }
    assertThat(found).as("seed %d leads anybody anywhere", seed).isPositive();
  }

  /** All accounts from which the trustee is had, one step more each round. */
  private static BitSet plain(Powers powers, int trustee) {
    Facts facts = powers.model().facts();
    BitSet had = new BitSet();
    had.set(trustee);
    had.or(accounts(powers, trustee));
    int before = -1;
    while (had.cardinality() != before) {
      before = had.cardinality();
      for (int subject : had.stream().toArray()) {
        boolean group = facts.kind(subject) == SubjectKind.GROUP;
        for (int other = facts.firstGroup();
            group && other < facts.firstGroup() + GROUPS;
            other++) {
          for (int i = 0; i < powers.model().graph().upCount(other); i++) {
            if (powers.model().graph().upGroup(other, i) == subject) {
              had.set(other);
            }
          }
        }
        for (AdminGrant grant : powers.roles().administration().grants()) {
          List<String> actions =
              powers.roles().administration().roles().get(grant.role()).actions().stream().toList();
          boolean gives =
              actions.contains(group ? "edit-members" : "set-password")
                  && grant.subject() != subject
                  && powers.roles().scopes().contains(grant.scope(), subject);
          if (gives) {
            had.set(grant.subject());
            had.or(accounts(powers, grant.subject()));
          }
        }
      }
    }
    had.clear(facts.firstGroup(), facts.subjects());
    return had;
  }

  private static BitSet accounts(Powers powers, int subject) {
    BitSet found = new BitSet();
    for (int account = 0; account < ACCOUNTS; account++) {
      SubjectSet own = new SubjectSet();
      powers.model().widest().walker().subjects(account, own);
      found.set(account, own.sure().contains(subject));
    }
    return found;
  }

  private static Powers random(Path root, Random random) throws IOException {
    StringBuilder ldif =
        new StringBuilder("version: 1\n\ndn: dc=x\nobjectClass: domain\ndc: x\n\n");
    for (int a = 0; a < ACCOUNTS; a++) {
      ldif.append(
          "dn: uid=a%d,dc=x\nobjectClass: inetOrgPerson\nuid: a%d\ncn: a%d\nsn: a\n\n"
              .formatted(a, a, a));
    }
    for (int g = 0; g < GROUPS; g++) {
      ldif.append("dn: cn=g%d,dc=x\nobjectClass: groupOfNames\ncn: g%d\n".formatted(g, g));
      ldif.append("member: uid=a").append(random.nextInt(ACCOUNTS)).append(",dc=x\n");
      if (g > 0 && random.nextInt(3) == 0) {
        ldif.append("member: cn=g").append(random.nextInt(g)).append(",dc=x\n");
      }
      ldif.append('\n');
    }
    Files.writeString(root.resolve("d.ldif"), ldif);
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: standard, file: d.ldif}}\nadmin: admin.yaml\n");
    StringBuilder scopes = new StringBuilder("scopes:\n");
    StringBuilder given = new StringBuilder("role,kind,subject,scope\n");
    for (int s = 0; s < 5; s++) {
      scopes.append(
          "  s%d: {include: [{group: g%d, groups: both}]}\n".formatted(s, random.nextInt(GROUPS)));
    }
    for (int i = 0; i < 6; i++) {
      String who =
          random.nextBoolean()
              ? "group,g" + random.nextInt(GROUPS)
              : "account,a" + random.nextInt(ACCOUNTS);
      String role = random.nextBoolean() ? "desk" : "keeper";
      given.append("%s,%s,s%d\n".formatted(role, who, random.nextInt(5)));
    }
    Files.writeString(
        root.resolve("admin.yaml"),
        scopes
            + "roles: {desk: {actions: [set-password]}, keeper: {actions: [edit-members]}}\n"
            + "assignments: admin.csv\n");
    Files.writeString(root.resolve("admin.csv"), given);
    return Organization.open(root).powers();
  }
}
