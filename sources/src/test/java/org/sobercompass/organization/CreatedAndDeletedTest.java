package org.sobercompass.organization;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ReadyMade;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.report.findings.FindingWords;

/** Proposals that create and delete accounts and groups, against exports that were edited so. */
class CreatedAndDeletedTest {
  private static final String ENTRIES =
      """
      dn: dc=x
      objectClass: domain
      dc: x

      dn: ou=staff,dc=x
      objectClass: organizationalUnit
      ou: staff

      dn: ou=groups,dc=x
      objectClass: organizationalUnit
      ou: groups

      """;
  private static final String ANN = account("ann");
  private static final String BEA = account("bea");
  private static final String CREW = group("crew", "ann", "bea");
  private static final String NIGHT = group("night", "bea");
  private static final String NEW = group("dusk", "ann");
  private static final String CY = account("cy");

  @TempDir Path root;
  private Organization before;

  private static String account(String name) {
    return "dn: uid="
        + name
        + ",ou=staff,dc=x\nobjectClass: inetOrgPerson\nuid: "
        + name
        + "\ncn: "
        + name
        + "\nsn: x\n\n";
  }

  private static String group(String name, String... members) {
    StringBuilder text =
        new StringBuilder(
            "dn: cn=" + name + ",ou=groups,dc=x\nobjectClass: groupOfNames\ncn: " + name + "\n");
    for (String member : members) {
      text.append("member: uid=").append(member).append(",ou=staff,dc=x\n");
    }
    return text.append('\n').toString();
  }

  private static String added(String entry) {
    return entry.replaceFirst("\n", "\nchangetype: add\n");
  }

  private Organization workspace(String name, String entries, String assignments) {
    try {
      Path folder = Files.createDirectories(root.resolve(name));
      Files.writeString(folder.resolve("main.ldif"), ENTRIES + entries);
      Files.writeString(
          folder.resolve("compass.yaml"),
          "directories: {main: {file: main.ldif, taken: 2026-06-01T12:00:00Z}}\n"
              + "applications: [desk.yaml]\n");
      Files.writeString(
          folder.resolve("desk.yaml"),
          """
          id: desk
          name: Desk
          owner: bea
          sight: {directory: main}
          areas: [tickets]
          levels: [view, edit]
          roles:
            reader: {allows: {tickets: view}}
            writer: {allows: {tickets: edit}}
          assignments: {actual: desk.csv}
          """);
      Files.writeString(folder.resolve("desk.csv"), "role,kind,subject\n" + assignments);
      return Organization.open(folder);
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  @BeforeEach
  void open() {
    before =
        workspace(
            "before",
            ANN + BEA + CREW + NIGHT,
            "reader,group,crew\nwriter,group,night\nreader,unit,staff\nwriter,account,bea\n");
  }

  /** What everybody holds, by login. */
  private static Set<String> held(AccessModel model) {
    Set<String> all = new TreeSet<>();
    Asker asker = model.asker();
    Facts facts = model.facts();
    for (int account = 0; account < facts.accounts(); account++) {
      for (Holding holding : asker.holdings(account)) {
        var view = model.systems().get(holding.system());
        all.add(facts.login(account) + " " + Words.permission(view, holding.right()));
      }
    }
    return all;
  }

  private Proposal proposal(String name, String text) throws IOException {
    Path file = root.resolve(name);
    Files.writeString(file, text);
    return before.proposal(file, name);
  }

  private static AccessModel after(Organization before, Proposal proposal) {
    Organization with = before.expecting(proposal);
    Bound bound = proposal.on(with.assessment().model());
    assertThat(bound.isSound()).as(bound.notes().toString()).isTrue();
    return with.assessment().model().with(bound.changes());
  }

  private static Set<String> kinds(List<org.sobercompass.core.findings.Finding> findings) {
    Set<String> all = new TreeSet<>();
    findings.forEach(f -> all.add(f.kind().id() + " " + FindingWords.sentence(f)));
    return all;
  }

  @Test
  void aGroupIsCreatedAndGivenARoleAsIfItHadBeenExportedSo() throws IOException {
    Proposal proposal =
        proposal(
            "new.yaml",
            """
            changes:
              - create: {group: "cn=dusk,ou=groups,dc=x", directory: main, attributes: {objectClass: [groupOfNames], cn: [dusk]}}
              - join: {member: ann, group: dusk}
              - assign: {application: desk, role: writer, to: group dusk}
            """);
    Organization edited =
        workspace(
            "edited",
            ANN + BEA + CREW + NIGHT + NEW,
            "reader,group,crew\nwriter,group,night\nreader,unit,staff\nwriter,account,bea\n"
                + "writer,group,dusk\n");
    assertThat(held(after(before, proposal))).isEqualTo(held(edited.model()));
    Preview preview = before.preview(proposal);
    assertThat(preview.effects().gives()).hasSize(1);
    assertThat(preview.effects().ends()).isEmpty();
    assertThat(kinds(preview.begin()))
        .isEqualTo(difference(kinds(edited.findings()), kinds(before.findings())));
  }

  private static Set<String> difference(Set<String> some, Set<String> others) {
    Set<String> left = new TreeSet<>(some);
    left.removeAll(others);
    return left;
  }

  @Test
  void whatWasForetoldOfANewGroupIsReadBackUnderTheIdThatItGot() throws IOException {
    Proposal proposal =
        proposal(
            "new.yaml",
            """
            changes:
              - create: {group: "cn=dusk,ou=groups,dc=x", directory: main, attributes: {objectClass: [groupOfNames], cn: [dusk]}}
              - join: {member: ann, group: dusk}
              - assign: {application: desk, role: writer, to: group dusk}
            """);
    Amendment amendment = before.amendment(proposal, change -> "a change", Map.of());
    assertThat(amendment.records())
        .extracting(r -> r.target())
        .containsExactly("main", "workspace");
    Foretold foretold = before.foretold(proposal);
    Organization edited =
        workspace(
            "edited",
            ANN + BEA + CREW + NIGHT + NEW.replace("cn: dusk", "cn: dusk\nentryUUID: 1-2-3"),
            "reader,group,crew\nwriter,group,night\nreader,unit,staff\nwriter,account,bea\n"
                + "writer,group,dusk\n");
    assertThat(foretold.rights()).isNotEmpty();
    assertThat(foretold.against(edited.assessment()).isAsSaid()).isTrue();
    assertThat(foretold.against(before.assessment()).isAsSaid()).isFalse();
    Foretold gone =
        before.foretold(
            new ReadyMade(before.assessment().model())
                .deleting(List.of(before.names().account("bea"))));
    Organization without =
        workspace(
            "without",
            ANN
                + group("crew", "ann")
                + group("night").replace("cn: night\n", "cn: night\nmember:\n"),
            "reader,group,crew\nwriter,group,night\nreader,unit,staff\n");
    assertThat(gone.against(without.assessment()).rights()).isEmpty();
  }

  @Test
  void anAccountComesWithWhatItsPlaceInTheDirectoryGivesAndGroupsListItFromTheBeginning()
      throws IOException {
    Proposal proposal = proposal("cy.ldif", added(CY) + added(group("dusk", "cy", "ann")));
    Organization edited =
        workspace(
            "edited",
            ANN + BEA + CREW + NIGHT + CY + group("dusk", "cy", "ann"),
            "reader,group,crew\nwriter,group,night\nreader,unit,staff\nwriter,account,bea\n");
    assertThat(held(after(before, proposal))).isEqualTo(held(edited.model()));
    assertThat(before.preview(proposal).effects().gives()).hasSize(1);
    assertThat(proposal.steps()).hasSize(4);
  }

  @Test
  void whoIsDeletedHoldsNothingAndWhatNamedThemIsTakenOutFirst() {
    int bea = before.names().account("bea");
    Proposal proposal = new ReadyMade(before.assessment().model()).deleting(List.of(bea));
    Organization edited =
        workspace(
            "edited",
            ANN
                + group("crew", "ann")
                + group("night").replace("cn: night\n", "cn: night\nmember:\n"),
            "reader,group,crew\nwriter,group,night\nreader,unit,staff\n");
    assertThat(held(after(before, proposal))).isEqualTo(held(edited.model()));
    Bound bound = proposal.on(before.assessment().model());
    assertThat(bound.notes()).extracting(Bound.Note::kind).containsExactly(Bound.Kind.FOR_GOOD);
    assertThat(before.preview(proposal).effects().ends()).hasSize(2);
  }

  @Test
  void aDeletedGroupTakesFromItsMembersWhatItGaveAndWhatStillNamesItIsTold() throws IOException {
    Proposal proposal = proposal("gone.ldif", "dn: cn=crew,ou=groups,dc=x\nchangetype: delete\n");
    Organization edited =
        workspace(
            "edited",
            ANN + BEA + NIGHT,
            "reader,group,crew\nwriter,group,night\nreader,unit,staff\nwriter,account,bea\n");
    assertThat(held(after(before, proposal))).isEqualTo(held(edited.model()));
    Bound bound = proposal.on(before.assessment().model());
    assertThat(bound.notes())
        .extracting(Bound.Note::what)
        .anyMatch(what -> what.contains("is still named by 1 assignment or entry"));
  }

  @Test
  void aSecretIsNoPartOfAProposal() {
    assertThatThrownBy(
            () -> proposal("a.ldif", added(account("dee").replace("sn: x", "userPassword: x"))))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("passwords and keys are never part of a proposal");
    assertThatThrownBy(
            () ->
                proposal(
                    "b.yaml",
                    "changes:\n  - create: {account: \"uid=dee,ou=staff,dc=x\", directory: main,"
                        + " attributes: {objectClass: [inetOrgPerson], userPassword: [x]}}\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("passwords and keys are never part of a proposal");
  }

  @Test
  void whatFollowsACreationHasARecordOfItsOwn() throws IOException {
    Proposal proposal =
        proposal(
            "dee.yaml",
            """
            changes:
              - create: {account: "uid=dee,ou=staff,dc=x", directory: main, attributes: {objectClass: [inetOrgPerson], uid: [dee], cn: [dee], sn: [x]}}
              - disable: {account: dee}
            """);
    List<AmendmentRecord> records =
        before.amendment(proposal, change -> "a change", Map.of()).records();
    assertThat(records).hasSize(2);
    assertThat(records.get(0).differences().get(0).added().get(0)).doesNotContain("pwdAccount");
    assertThat(records.get(1).differences().get(0).name()).isEqualTo("pwdAccountLockedTime");
  }

  @Test
  void whoIsDeletedOwnsNothingAnyMore() throws IOException {
    Files.writeString(
        root.resolve("before/compass.yaml"),
        "findings: {owners: [applications]}\n",
        java.nio.file.StandardOpenOption.APPEND);
    before = Organization.open(root.resolve("before"));
    int bea = before.names().account("bea");
    Preview preview =
        before.preview(new ReadyMade(before.assessment().model()).deleting(List.of(bea)));
    assertThat(preview.begin()).extracting(f -> f.kind().id()).contains("no-owner");
  }

  @Test
  void whatIsKeptIsReadAgainAndNothingIsDoneTwice() throws IOException {
    Proposal proposal = proposal("cy.ldif", added(CY) + added(group("dusk", "cy")));
    Path kept = root.resolve("kept.yaml");
    before.keep(proposal, kept);
    assertThat(before.proposal(kept, "kept.yaml").steps()).isEqualTo(proposal.steps());
    Organization edited =
        workspace(
            "edited",
            ANN
                + BEA
                + CREW
                + NIGHT
                + CY.replace("sn: x", "sn: x\nentryUUID: 1-2-3")
                + group("dusk", "cy"),
            "");
    Proposal again = edited.proposal(kept, "kept.yaml");
    assertThat(edited.expecting(again)).isSameAs(edited);
    assertThat(again.on(edited.assessment().model()).changes()).isEmpty();
    assertThat(again.on(edited.assessment().model()).notes())
        .extracting(Bound.Note::kind)
        .containsOnly(Bound.Kind.ALREADY);
    edited.keep(again.inverse(), kept);
    assertThat(before.proposal(kept, "kept.yaml").on(before.assessment().model()).notes())
        .extracting(Bound.Note::kind)
        .contains(Bound.Kind.NOT_THERE);
  }

  @Test
  void whatCannotBeCreatedIsToldWithItsPlace() throws IOException {
    assertThatThrownBy(
            () -> proposal("a.ldif", added(account("dee").replace("dc=x", "dc=nowhere"))))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("no directory that was read has a unit above it");
    assertThatThrownBy(
            () ->
                proposal(
                    "b.yaml",
                    "changes:\n  - create: {group: \"cn=odd,ou=groups,dc=x\", directory: main,"
                        + " attributes: {objectClass: [device], cn: [odd]}}\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("neither an account nor a group here");
    assertThatThrownBy(
            () ->
                proposal(
                    "c.yaml",
                    "changes:\n  - create: {group: \"cn=odd,ou=groups,dc=x\", directory: main,"
                        + " attributes: {objectClass: [groupOfNames], member: [\"uid=ann\"]}}\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("members are put in by changes of their own");
    assertThatThrownBy(
            () ->
                proposal(
                    "d.ldif",
                    added(account("dee").replace("cn: dee", "jpegPhoto:< file:///etc/hostname"))))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("d.ldif");
    Step.Presence there =
        new Step.Presence(before.model().facts().key(0), "uid=ann,ou=staff,dc=x", Map.of(), true);
    assertThat(new Proposal("", List.of(there)).on(before.model()).notes())
        .extracting(Bound.Note::kind)
        .containsExactly(Bound.Kind.ALREADY);
  }
}
