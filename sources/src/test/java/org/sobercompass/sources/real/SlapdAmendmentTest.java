package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.amendment.AmendmentFolder;
import org.sobercompass.sources.amendment.JournalFile;
import org.sobercompass.sources.live.CuttingProxy;

/** Amendments of a directory are carried out on a real slapd, and taken back. */
class SlapdAmendmentTest {
  @TempDir static Path folder;
  private static LiveSlapd live;
  private static LDAPConnection connection;
  private Organization before;
  private Map<String, Set<String>> entries;

  @BeforeAll
  static void start() throws IOException, LDAPException {
    live = LiveSlapd.start(folder, 7);
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

  /** Members in and out, accounts disabled; no group is left empty, which the schema forbids. */
  private static Proposal random(AccessModel model, Random random, int size) {
    Facts facts = model.facts();
    Set<Step> steps = new LinkedHashSet<>();
    Set<Integer> touched = new TreeSet<>();
    while (steps.size() < size) {
      int account = random.nextInt(facts.accounts());
      int group = facts.firstGroup() + random.nextInt(facts.groups());
      if (facts.label(group).matches("group[0-9]+") && touched.add(account)) {
        boolean in = false;
        int members = 0;
        for (int i = 0; i < model.graph().upCount(account); i++) {
          in |= model.graph().upGroup(account, i) == group;
        }
        for (int other = 0; other < facts.accounts(); other++) {
          for (int i = 0; i < model.graph().upCount(other); i++) {
            members += model.graph().upGroup(other, i) == group && !touched.contains(other) ? 1 : 0;
          }
        }
        if (random.nextInt(4) == 0) {
          steps.add(new Step.Disable(facts.key(account), !facts.is(account, Facts.DISABLED)));
        } else if (!in) {
          steps.add(new Step.Join(facts.key(account), facts.key(group)));
        } else if (members > 1) {
          steps.add(new Step.Leave(facts.key(account), facts.key(group)));
        }
      }
    }
    return new Proposal("", new ArrayList<>(steps));
  }

  @Test
  void whatWasProposedIsThereAfterwardsAndGoneAfterTheUndo() throws LDAPException {
    Random random = new Random(4);
    for (int round = 0; round < 6; round++) {
      before = live.read();
      Proposal proposal = random(before.model(), random, 1 + random.nextInt(40));
      Amended amended = amend(proposal);
      try (LiveTarget target = amended.open()) {
        assertThat(target.identity()).isEqualTo("dn:" + Slapd.ROOT_DN);
        for (AmendmentRecord record : amended.records()) {
          assertThat(target.standing(record)).isEqualTo(Standing.BEFORE);
          assertThat(target.standing(record.inverse())).isEqualTo(Standing.AFTER);
        }
      }
      assertThat(live.dump()).as("asking changes nothing").isEqualTo(entries);
      assertThat(amended.carryOut().made()).isEqualTo(proposal.steps().size());
      Amended.assertDone(before, live.read(), proposal);
      assertThat(amended.carryOut().before()).isEqualTo(proposal.steps().size());
      assertThat(amended.undo().isWhole()).isTrue();
      assertThat(live.dump()).isEqualTo(entries);
    }
  }

  @Test
  void anEndOfAnAccountIsSaidInWholeDays() throws Exception {
    String dn = "uid=user300,ou=Office,ou=people," + Slapd.SUFFIX;
    connection.add(
        "dn: " + dn,
        "objectClass: inetOrgPerson",
        "objectClass: shadowAccount",
        "uid: user300",
        "sn: x",
        "cn: x",
        "shadowExpire: 20757");
    try {
      Organization now = live.read();
      Facts facts = now.model().facts();
      int account = now.names().account("user300");
      long later = Instant.parse("2027-01-01T00:00:00Z").getEpochSecond();
      Proposal proposal = new Proposal("", List.of(Step.Ends.of(facts, account, later)));
      Amended amended = Amended.of(now, proposal, live.next(), live.door(), Slapd.PASSWORD);
      assertThat(amended.carryOut().isWhole()).isTrue();
      assertThat(connection.getEntry(dn).getAttributeValue("shadowExpire")).isEqualTo("20819");
      Amended.assertDone(now, live.read(), proposal);
      assertThat(amended.undo().isWhole()).isTrue();
      assertThat(connection.getEntry(dn).getAttributeValue("shadowExpire")).isEqualTo("20757");
      assertThat(
              now.amendment(
                      new Proposal("", List.of(Step.Ends.of(facts, account, later + 3600))),
                      change -> "an end at one o'clock",
                      Map.of())
                  .byHand())
          .hasSize(1);
    } finally {
      connection.delete(dn);
    }
  }

  @Test
  void whatSomebodyElseChangedMeanwhileIsLeftAlone() throws LDAPException {
    Proposal proposal = random(before.model(), new Random(9), 12);
    Amended amended = amend(proposal);
    AmendmentRecord third = amended.records().get(2);
    List<Modification> meanwhile = new ArrayList<>();
    third
        .differences()
        .forEach(
            d -> {
              d.removed()
                  .forEach(
                      v -> meanwhile.add(new Modification(ModificationType.DELETE, d.name(), v)));
              d.added()
                  .forEach(v -> meanwhile.add(new Modification(ModificationType.ADD, d.name(), v)));
            });
    connection.modify(third.place(), meanwhile);
    try {
      Work work = amended.carryOut();
      assertThat(work.wasSo()).isEqualTo(1);
      assertThat(work.made()).isEqualTo(11);
      assertThat(amended.undo().wasSo()).as("it was not ours").isEqualTo(1);
      Map<String, Set<String>> now = live.dump();
      assertThat(now.get(third.place())).isNotEqualTo(entries.get(third.place()));
      now.remove(third.place());
      entries.remove(third.place());
      assertThat(now).isEqualTo(entries);
    } finally {
      meanwhile.replaceAll(
          m ->
              new Modification(
                  m.getModificationType().equals(ModificationType.ADD)
                      ? ModificationType.DELETE
                      : ModificationType.ADD,
                  m.getAttributeName(),
                  m.getValues()));
      connection.modify(third.place(), meanwhile);
    }
  }

  @Test
  void anEntryThatIsGoneIsToldAndWhatTheServerForbidsIsTold() throws Exception {
    String group = "cn=last,ou=groups," + Slapd.SUFFIX;
    String user = before.model().facts().dn(0);
    connection.add("dn: " + group, "objectClass: groupOfNames", "cn: last", "member: " + user);
    Organization now = live.read();
    Facts facts = now.model().facts();
    Proposal proposal =
        new Proposal(
            "",
            List.of(
                new Step.Leave(
                    facts.key(now.names().account(user)), facts.key(now.names().group("last")))));
    Amended amended = Amended.of(now, proposal, live.next(), live.door(), Slapd.PASSWORD);
    assertThat(amended.carryOut().failed().get(0).why()).contains("requires attribute 'member'");
    connection.delete(group);
    assertThat(amended.carryOut().failed().get(0).why()).contains("there is no entry cn=last");
    assertThat(live.dump()).isEqualTo(entries);
  }

  @Test
  void aWrongPasswordAndAnotherServerAreTold() {
    Amended amended = amend(random(before.model(), new Random(3), 2));
    Amended wrong = new Amended(amended.folder(), amended.door(), "not it");
    assertThatThrownBy(wrong::carryOut)
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("the name or the password is wrong");
    Amended nowhere =
        new Amended(amended.folder(), LiveSlapd.door("ldap://127.0.0.1:1"), Slapd.PASSWORD);
    assertThatThrownBy(nowhere::carryOut)
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("nothing listens");
  }

  @Test
  void aConnectionThatIsCutIsGoneOnWith() throws Exception {
    Proposal proposal = random(before.model(), new Random(21), 200);
    Amended amended = amend(proposal);
    int rounds = 0;
    boolean whole = false;
    try (CuttingProxy proxy = new CuttingProxy(live.slapd().port(), 2000, 1000)) {
      Amended cut =
          new Amended(
              amended.folder(), LiveSlapd.door("ldap://127.0.0.1:" + proxy.port()), Slapd.PASSWORD);
      while (!whole && rounds < 60) {
        rounds++;
        whole = cut.carryOut().isWhole();
      }
    }
    assertThat(rounds).as("it was cut").isBetween(2, 59);
    assertThat(whole).isTrue();
    Amended.assertDone(before, live.read(), proposal);
    assertThat(amended.undo().isWhole()).isTrue();
    assertThat(live.dump()).isEqualTo(entries);
  }

  @Test
  void twoAtOnceAreRefused() {
    Amended amended = amend(random(before.model(), new Random(3), 2));
    try (JournalFile held = JournalFile.open(amended.folder(), "main")) {
      assertThat(held.before()).isEmpty();
      assertThatThrownBy(amended::carryOut)
          .isInstanceOf(OutsideException.class)
          .hasMessageContaining("another process");
    }
  }

  @Test
  void killedAtAnyPointItGoesOn() throws Exception {
    Random random = new Random(31);
    int killed = 0;
    int ended = 0;
    while (killed < Amended.KILLS) {
      before = live.read();
      Proposal proposal = random(before.model(), random, 120);
      Amended amended = amend(proposal);
      for (boolean undo : new boolean[] {false, true}) {
        killed += amended.killed(undo, random);
        ended++;
        if (undo) {
          assertThat(live.dump()).isEqualTo(entries);
        } else {
          Amended.assertDone(before, live.read(), proposal);
        }
      }
    }
    System.out.println("slapd: killed " + killed + " times, " + ended + " times whole in the end.");
  }

  /** How many changes the rates are measured with; docs/performance.md says those of 10,000. */
  private static final int CHANGES = Integer.getInteger("sober.changes", 400);

  /** How often the rates are measured at most, and how many times as long it may take. */
  private static final int ROUNDS = 5;

  private static final double MOST = 10;

  /** The same modifications by the library alone, and as an amendment with its journal. */
  @Test
  void manyChangesAreNotMuchSlowerThanTheBareLibrary() throws Exception {
    Facts facts = before.model().facts();
    List<AmendmentRecord> records = new ArrayList<>();
    for (int i = 0; i < CHANGES; i++) {
      String group = "cn=group" + i % 50 + ",ou=groups," + Slapd.SUFFIX;
      String member = "uid=new" + i + ",ou=people," + Slapd.SUFFIX;
      records.add(
          new AmendmentRecord(
              i + 1,
              "main",
              group,
              "put " + facts.label(0) + i + " into a group",
              List.of(new Difference("member", List.of(), List.of(member)))));
    }
    Amendment amendment =
        new Amendment(
            "",
            Instant.EPOCH,
            "nothing",
            List.of(new Amendment.Target("main", "ldap", Optional.empty())),
            records,
            List.of());
    // Another process that writes much to the same disk stalls one round, not each of them.
    double best = Double.MAX_VALUE;
    for (int round = 0; round < ROUNDS && best >= MOST; round++) {
      best = Math.min(best, timesBare(amendment));
      assertThat(live.dump()).isEqualTo(entries);
    }
    assertThat(best).isLessThan(MOST);
  }

  /** How many times as long an amendment takes as the same modifications by the library alone. */
  private static double timesBare(Amendment amendment) throws Exception {
    double bare = bare(amendment.records(), ModificationType.ADD);
    double bareBack = bare(amendment.records(), ModificationType.DELETE);
    Amended amended =
        new Amended(
            AmendmentFolder.write(amendment, Foretold.NOTHING, "", live.next()),
            live.door(),
            Slapd.PASSWORD);
    double there = seconds(() -> assertThat(amended.carryOut().made()).isEqualTo(CHANGES));
    double back = seconds(() -> assertThat(amended.undo().made()).isEqualTo(CHANGES));
    System.out.printf(
        "%d changes a second: bare %.0f, carried out %.0f; bare back %.0f, undone %.0f%n",
        CHANGES, CHANGES / bare, CHANGES / there, CHANGES / bareBack, CHANGES / back);
    return there / bare;
  }

  private static double bare(List<AmendmentRecord> records, ModificationType type) {
    return seconds(
        () -> {
          for (AmendmentRecord record : records) {
            String member = record.differences().get(0).added().get(0);
            connection.modify(record.place(), new Modification(type, "member", member));
          }
        });
  }

  /** Something that takes time. */
  private interface Timed {
    void run() throws Exception;
  }

  private static double seconds(Timed timed) {
    long begin = System.nanoTime();
    try {
      timed.run();
    } catch (Exception e) {
      throw new IllegalStateException(e);
    }
    return (System.nanoTime() - begin) / 1e9;
  }
}
