package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldif.LDIFException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.organization.Organization;

/** Hosts that accounts may sign in from, and primary groups, on a real slapd. */
class SlapdAccountTest {
  private static final String PERSON = "uid=user400,ou=people," + Slapd.SUFFIX;

  @TempDir static Path folder;
  private static LiveSlapd live;
  private Organization before;
  private Map<String, Set<String>> entries;

  @BeforeAll
  static void start() throws IOException, LDAPException, LDIFException {
    live = LiveSlapd.start(folder, 3);
    for (int group = 0; group < 2; group++) {
      live.connection()
          .add(
              "dn: cn=posix" + group + ",ou=groups," + Slapd.SUFFIX,
              "objectClass: posixGroup",
              "cn: posix" + group,
              "gidNumber: 700" + group);
    }
    live.connection()
        .add(
            "dn: " + PERSON,
            "objectClass: account",
            "objectClass: posixAccount",
            "uid: user400",
            "cn: user400",
            "uidNumber: 4000",
            "gidNumber: 7000",
            "homeDirectory: /home/user400");
    Path workspace = live.workspace();
    Files.writeString(
        workspace.resolve("compass.yaml"),
        Files.readString(workspace.resolve("compass.yaml")) + "applications: [shed.yaml]\n");
    Files.writeString(
        workspace.resolve("shed.yaml"),
        """
        id: shed
        sight: {directory: main}
        areas: [tools]
        levels: [view, lend]
        roles:
          user: {allows: {tools: view}}
          keeper: {allows: {tools: lend}}
        hosts: [shed-1]
        assignments: {actual: shed.csv}
        """);
    Files.writeString(
        workspace.resolve("shed.csv"),
        "role,kind,subject\nuser,group,posix0\nkeeper,group,posix1\n");
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

  private void carryOutAndBack(Proposal proposal) throws LDAPException {
    Effects effects =
        Effects.of(before.model(), proposal.on(before.assessment().model()).changes());
    assertThat(effects.isNone()).isFalse();
    Amended amended = live.amend(before, proposal);
    Work work = amended.carryOut();
    assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
    Organization after = live.read();
    Amended.assertDone(before, after, proposal);
    for (Effects.Effect gain : effects.gives()) {
      var view = after.model().systems().get(gain.system());
      assertThat(
              after
                  .model()
                  .asker()
                  .can(view, gain.account(), gain.right(), gain.resource())
                  .verdict()
                  .toString())
          .isEqualTo("YES");
    }
    assertThat(amended.undo().isWhole()).isTrue();
    assertThat(live.dump()).isEqualTo(entries);
  }

  @Test
  void anotherPrimaryGroupIsAnotherNumber() throws LDAPException {
    int account = before.names().account("user400");
    int group = before.names().group("posix1");
    Step step = Step.Primary.of(before.model(), account, group);
    assertThat(((Step.Primary) step).was())
        .contains(before.model().facts().key(before.names().group("posix0")));
    carryOutAndBack(new Proposal("", List.of(step)));
    assertThat(before.can("user400", "shed:tools:lend", "").verdict().toString()).isEqualTo("NO");
  }

  @Test
  void hostsAreLimitedAndSetFreeAgain() throws LDAPException {
    Facts facts = before.model().facts();
    int account = before.names().account("user400");
    Step limits = new Step.Hosts(facts.key(account), List.of(), List.of("shed-2", "shed-3"));
    Amended amended = live.amend(before, new Proposal("", List.of(limits)));
    assertThat(amended.carryOut().isWhole()).isTrue();
    assertThat(live.connection().getEntry(PERSON).getAttributeValues("host"))
        .containsExactlyInAnyOrder("shed-2", "shed-3");
    before = live.read();
    entries = live.dump();
    assertThat(before.can("user400", "shed:tools:view", "").verdict().toString()).isEqualTo("NO");
    carryOutAndBack(
        new Proposal(
            "",
            List.of(
                new Step.Hosts(
                    facts.key(account), List.of("shed-2", "shed-3"), List.of("shed-1")))));
    assertThat(amended.undo().isWhole()).isTrue();
    assertThat(live.connection().getEntry(PERSON).hasAttribute("host")).isFalse();
  }

  @Test
  void whatSomebodyElseWroteSinceIsNotOverwritten() throws LDAPException {
    int account = before.names().account("user400");
    Step step = Step.Primary.of(before.model(), account, before.names().group("posix1"));
    Amended amended = live.amend(before, new Proposal("", List.of(step)));
    live.connection()
        .modify(PERSON, new Modification(ModificationType.REPLACE, "gidNumber", "7009"));
    try {
      Work work = amended.carryOut();
      assertThat(work.made()).isZero();
      assertThat(work.failed()).hasSize(1);
    } finally {
      live.connection()
          .modify(PERSON, new Modification(ModificationType.REPLACE, "gidNumber", "7000"));
    }
    assertThat(live.dump()).isEqualTo(entries);
  }

  @Test
  void whatAProposalInLdifChanges() throws IOException {
    Path file = folder.resolve("change.ldif");
    Files.writeString(
        file, "dn: " + PERSON + "\nchangetype: modify\nadd: host\nhost: Shed-2\nhost: shed-1\n-\n");
    Step step = before.proposal(file, "change.ldif").steps().get(0);
    Facts facts = before.model().facts();
    assertThat(step)
        .isEqualTo(
            new Step.Hosts(
                facts.key(before.names().account("user400")),
                List.of(),
                List.of("shed-2", "shed-1")));
    // The same once it is so; a group that is not there is told.
    assertThat(new Proposal("", List.of(step.inverse())).on(before.model()).notes())
        .extracting(Bound.Note::kind)
        .containsExactly(Bound.Kind.ALREADY);
    Path kept = folder.resolve("kept.yaml");
    Step primary =
        new Step.Primary(
            facts.key(before.names().account("user400")),
            Optional.empty(),
            Optional.of(facts.key(before.names().group("posix1"))));
    Proposal both = new Proposal("", List.of(step, primary));
    before.keep(both, kept);
    assertThat(before.proposal(kept, "kept.yaml").steps()).isEqualTo(both.steps());
  }
}
