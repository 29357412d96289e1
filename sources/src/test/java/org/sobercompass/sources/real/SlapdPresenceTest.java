package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ReadyMade;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.TargetKinds;

/** Groups and accounts are created and deleted on a real slapd, and taken back. */
class SlapdPresenceTest {
  @TempDir static Path folder;
  private static LiveSlapd live;
  private static LDAPConnection connection;
  private Organization before;
  private Map<String, Set<String>> entries;

  @BeforeAll
  static void start() throws IOException, LDAPException {
    live = LiveSlapd.start(folder, 11);
    connection = live.connection();
  }

  @AfterAll
  static void stop() {
    if (live != null) {
      live.close();
    }
  }

  @BeforeEach
  void survey() throws LDAPException {
    before = live.read();
    entries = live.dump();
  }

  private Amended amend(Proposal proposal) {
    return live.amend(before, proposal);
  }

  /** Who is in which group, by login and name, disabled accounts marked. */
  private static Set<String> memberships(AccessModel model) {
    Facts facts = model.facts();
    Set<String> all = new TreeSet<>();
    for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
      if (!facts.isAbsent(subject)) {
        all.add(facts.label(subject) + (facts.is(subject, Facts.DISABLED) ? ", disabled" : ""));
        for (int i = 0; i < model.graph().upCount(subject); i++) {
          int group = model.graph().upGroup(subject, i);
          if (!facts.isAbsent(group)) {
            all.add(facts.dn(subject) + " in " + facts.label(group));
          }
        }
      }
    }
    return all;
  }

  /** New groups with members, and accounts and groups that go with all that names them. */
  private Proposal random(Random random) {
    Facts facts = before.model().facts();
    List<Step> steps = new ArrayList<>();
    Set<Integer> gone = new LinkedHashSet<>();
    for (int i = random.nextInt(4); i > 0; i--) {
      gone.add(anybodyButUser7(random));
    }
    for (int i = random.nextInt(3); i > 0; i--) {
      gone.add(facts.firstGroup() + random.nextInt(facts.groups()));
    }
    gone.removeIf(subject -> !mayGo(subject, gone));
    for (int i = 1 + random.nextInt(3); i > 0; i--) {
      int like = before.names().group("group" + random.nextInt(10));
      Step.Presence group = before.groupLike("new, \"group\" " + i, facts.key(like));
      Set<Key> members = new LinkedHashSet<>();
      for (int m = 1 + random.nextInt(4); m > 0; m--) {
        int member = random.nextInt(facts.accounts());
        if (!gone.contains(member)) {
          members.add(facts.key(member));
        }
      }
      members.add(facts.key(before.names().account("user7")));
      steps.addAll(ReadyMade.creating(group, List.copyOf(members)).steps());
    }
    steps.addAll(new ReadyMade(before.assessment().model()).deleting(List.copyOf(gone)).steps());
    return new Proposal("", steps);
  }

  private int anybodyButUser7(Random random) {
    int account = random.nextInt(before.model().facts().accounts());
    return account == before.names().account("user7") ? account == 0 ? 1 : 0 : account;
  }

  /** Whether no group would be left without a member, which the schema forbids. */
  private boolean mayGo(int subject, Set<Integer> gone) {
    var graph = before.model().graph();
    for (int i = 0; i < graph.upCount(subject); i++) {
      int group = graph.upGroup(subject, i);
      int left = 0;
      for (int m = 0; m < graph.downCount(group); m++) {
        left += gone.contains(graph.downMember(group, m)) ? 0 : 1;
      }
      if (left == 0 || !graph.upVia(subject, i).isListed()) {
        return false;
      }
    }
    return true;
  }

  @Test
  void whatIsReadAfterwardsIsWhatThePreviewLaidOverAndTheUndoBringsItBack() throws LDAPException {
    Random random = new Random(17);
    int created = 0;
    int deleted = 0;
    for (int round = 0; round < 8; round++) {
      before = live.read();
      Proposal proposal = random(random);
      created += proposal.created().size();
      deleted += (int) proposal.steps().stream().filter(SlapdPresenceTest::deletes).count();
      Organization with = before.expecting(proposal);
      AccessModel laid =
          with.assessment().model().with(proposal.on(with.assessment().model()).changes());
      Amended amended = amend(proposal);
      try (LiveTarget target = amended.open()) {
        assertThat(target.standing(amended.records().get(0))).isEqualTo(Standing.BEFORE);
      }
      assertThat(live.dump()).as("asking changes nothing").isEqualTo(entries);
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
      assertThat(memberships(live.read().model())).isEqualTo(memberships(laid));
      assertThat(amended.carryOut().before()).isEqualTo(amended.records().size());
      Work back = amended.undo();
      assertThat(back.isWhole()).as(back.failed() + back.stopped()).isTrue();
      assertThat(live.dump()).isEqualTo(entries);
    }
    assertThat(created).isGreaterThan(8);
    assertThat(deleted).isGreaterThan(5);
  }

  private static boolean deletes(Step step) {
    return step instanceof Step.Presence presence && !presence.created();
  }

  @Test
  void killedAtAnyPointItGoesOn() throws Exception {
    Random random = new Random(5);
    int killed = 0;
    while (killed < Amended.KILLS) {
      before = live.read();
      Set<Step> steps = new LinkedHashSet<>(random(random).steps());
      // Accounts are disabled besides, so that there is some time in which it can be killed.
      for (int i = 0; i < 6; i++) {
        random(random).steps().stream()
            .filter(step -> step instanceof Step.Disable)
            .forEach(steps::add);
      }
      Amended amended = amend(new Proposal("", List.copyOf(steps)));
      killed += amended.killed(false, random);
      killed += amended.killed(true, random);
      assertThat(live.dump()).isEqualTo(entries);
    }
    System.out.println("slapd, created and deleted: killed " + killed + " times.");
  }

  @Test
  void whatSomebodyElseChangedSinceIsNotDeleted() throws LDAPException {
    int account = before.names().account("user12");
    Facts facts = before.model().facts();
    Step.Presence group =
        before.groupLike("fresh", before.model().facts().key(before.names().group("group3")));
    Proposal proposal = ReadyMade.creating(group, List.of(facts.key(account)));
    Amended amended = amend(proposal);
    assertThat(amended.carryOut().isWhole()).isTrue();
    Modification more =
        new Modification(ModificationType.ADD, "description", "put in by somebody else");
    connection.modify(group.dn(), more);
    Work back = amended.undo();
    assertThat(back.failed()).hasSize(1);
    assertThat(back.failed().get(0).why())
        .isEqualTo("the entry is there, and otherwise in description");
    connection.modify(group.dn(), new Modification(ModificationType.DELETE, "description"));
    assertThat(amended.undo().isWhole()).isTrue();
    assertThat(live.dump()).isEqualTo(entries);

    Proposal gone =
        new Proposal(
            "", List.of(new Step.Presence(facts.key(account), facts.dn(account), Map.of(), false)));
    Amended deletes = amend(gone);
    connection.modify(
        facts.dn(account), new Modification(ModificationType.ADD, "mail", "x@y.example"));
    try {
      assertThat(deletes.carryOut().failed().get(0).why()).contains("otherwise in mail");
    } finally {
      connection.modify(
          facts.dn(account), new Modification(ModificationType.DELETE, "mail", "x@y.example"));
    }
    assertThat(live.dump()).isEqualTo(entries);
  }

  @Test
  void whatIsLostForGoodIsSaidOfDeletionsOnly() {
    Facts facts = before.model().facts();
    int account = before.names().account("user12");
    Step.Presence group =
        before.groupLike("fresh", before.model().facts().key(before.names().group("group3")));
    Amended creates = amend(ReadyMade.creating(group, List.of(facts.key(account))));
    var kind = TargetKinds.of("ldap").orElseThrow();
    assertThat(kind.losses(creates.records().get(0))).isEmpty();
    assertThat(kind.losses(creates.records().get(0).inverse()))
        .singleElement()
        .asString()
        .startsWith("deleting " + group.dn());
  }

  @Test
  void aGroupThatMustHaveAMemberIsCreatedWithOneOrNotAtAll() {
    Step.Presence group =
        before.groupLike("fresh", before.model().facts().key(before.names().group("group3")));
    Proposal proposal = ReadyMade.creating(group, List.of());
    assertThat(before.amendment(proposal, change -> "create it", Map.of()).byHand())
        .singleElement()
        .asString()
        .contains("has at least one member, and none joins it");
    assertThatThrownBy(
            () ->
                before.amendment(
                    new Proposal("", List.of(new Step.Join(group.subject(), group.subject()))),
                    c -> "",
                    Map.of()))
        .hasMessageContaining("there is no group:main/cn=fresh");
  }

  @Test
  void whatWasRenamedSinceIsFoundByItsId() throws LDAPException {
    Facts facts = before.model().facts();
    int group = before.names().group("group4");
    int account = before.names().account("user7");
    boolean in = before.model().graph().surely(account, group).isPresent();
    Key who = facts.key(account);
    Key where = facts.key(group);
    int leaver = before.names().account("user9");
    List<Step> steps =
        List.of(
            in ? new Step.Leave(who, where) : new Step.Join(who, where),
            new Step.Disable(facts.key(leaver), !facts.is(leaver, Facts.DISABLED)));
    Amended amended = amend(new Proposal("", steps));
    connection.modifyDN(facts.dn(group), "cn=group four", true);
    connection.modifyDN(facts.dn(leaver), "uid=user9", false, "ou=people," + Slapd.SUFFIX);
    try {
      try (LiveTarget target = amended.open()) {
        assertThat(amended.records()).allMatch(r -> target.standing(r) == Standing.BEFORE);
      }
      Work work = amended.carryOut();
      assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
      assertThat(connection.getEntry("uid=user9,ou=people," + Slapd.SUFFIX, "pwdAccountLockedTime"))
          .matches(entry -> entry.hasAttribute("pwdAccountLockedTime"));
      assertThat(amended.undo().isWhole()).isTrue();
    } finally {
      connection.modifyDN("cn=group four,ou=groups," + Slapd.SUFFIX, "cn=group4", true);
      String above = facts.dn(leaver).substring(facts.dn(leaver).indexOf(',') + 1);
      connection.modifyDN("uid=user9,ou=people," + Slapd.SUFFIX, "uid=user9", false, above);
    }
    assertThat(live.dump()).isEqualTo(entries);
  }
}
