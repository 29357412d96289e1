package org.sobercompass.organization;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;

/** What becomes of the steps of a proposal that concerns several systems. */
class AmendmentMakerTest {
  @TempDir Path folder;

  /** A directory and a tree of files of the same name, and two applications with a table each. */
  private Organization open() throws IOException {
    Files.writeString(
        folder.resolve("box.ldif"),
        "dn: uid=una,dc=x\n"
            + "objectClass: inetOrgPerson\n"
            + "objectClass: posixAccount\n"
            + "uid: una\n"
            + "cn: una\n"
            + "sn: u\n"
            + "uidNumber: 7\n"
            + "gidNumber: 7\n"
            + "homeDirectory: /\n\n"
            + "dn: cn=team,dc=x\n"
            + "objectClass: groupOfNames\n"
            + "cn: team\n"
            + "member: uid=una,dc=x\n\n");
    Files.writeString(
        folder.resolve("t"),
        "# file: /\n# owner: root\n# group: root\nuser::rwx\nuser:una:rwx\nuser:j\u00f6rg:r--\n"
            + "group::r-x\nmask::rwx\nother::r-x\n\n");
    Files.writeString(folder.resolve("box.yaml"), "kind: posix-files\nid: box\nlists: t\n");
    for (String app : List.of("one", "two")) {
      Files.writeString(
          folder.resolve(app + ".yaml"),
          "id: "
              + app
              + "\nlevels: [view]\nareas: {a: {}}\nroles: {r: {allows: {a: view}}}\n"
              + "assignments: {actual: "
              + app
              + ".csv}\n");
      Files.writeString(folder.resolve(app + ".csv"), "role,kind,subject\n");
    }
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories: {box: {kind: standard, file: box.ldif}}\n"
            + "applications: [box.yaml, one.yaml, two.yaml]\n");
    return Organization.open(folder);
  }

  @Test
  void eachRecordIsOfItsSystemAndSaysWhatItDoes() throws IOException {
    Organization trust = open();
    Facts facts = trust.model().facts();
    SystemView files = trust.model().system("box").orElseThrow();
    List<Change> changes = new ArrayList<>();
    for (int g = 0; g < files.grants().size(); g++) {
      if (files.grants().get(g).subject() == trust.names().account("una")
          && files.system().entry(g).isPresent()) {
        changes.add(new Change.AssignmentRemoved(files.number(), g));
      }
    }
    assertThat(changes).hasSize(1);
    Step leave =
        new Step.Leave(
            facts.key(trust.names().account("una")), facts.key(trust.names().group("team")));
    Proposal all =
        new Proposal("", List.of(leave))
            .then(Proposal.of("", trust.assessment().model(), changes))
            .then(trust.assigning("one", "r", "una", ""))
            .then(trust.assigning("two", "r", "una", ""));
    Amendment amendment =
        trust.amendment(
            all, change -> change.getClass().getSimpleName() + " " + kind(change), Map.of());
    assertThat(amendment.byHand()).isEmpty();
    assertThat(amendment.targets())
        .extracting(target -> target.name() + " by " + target.kind())
        .containsExactly("box by ldap", "box-posix-files by posix-files", "workspace by workspace");
    assertThat(amendment.of("box")).hasSize(1);
    AmendmentRecord list = amendment.of("box-posix-files").get(0);
    assertThat(list.differences().get(0).added().get(0))
        .contains("user:j\u00f6rg:r--")
        .doesNotContain("una");
    assertThat(amendment.of("workspace"))
        .extracting(record -> record.place() + ": " + record.words())
        .containsExactly("one.csv: AssignmentAdded 1", "two.csv: AssignmentAdded 2");
  }

  @Test
  void whoeverIsListedTwiceIsTakenOutOfBoth() throws IOException {
    open();
    Path ldif = folder.resolve("box.ldif");
    Files.writeString(
        ldif,
        Files.readString(ldif)
            .replace(
                "objectClass: groupOfNames\ncn: team\n",
                "objectClass: groupOfNames\nobjectClass: extensibleObject\ncn: team\n"
                    + "uniqueMember: uid=una,dc=x\nmemberUid: una\n"));
    Organization trust = Organization.open(folder);
    int una = trust.names().account("una");
    int team = trust.names().group("team");
    Facts facts = trust.model().facts();
    Proposal leave = new Proposal("", List.of(new Step.Leave(facts.key(una), facts.key(team))));
    assertThat(leave.on(trust.assessment().model()).changes())
        .extracting(change -> ((Change.MembershipRemoved) change).via().attribute())
        .containsExactlyInAnyOrder("member", "uniqueMember", "memberUid");
    Amendment amendment = trust.amendment(leave, change -> "take una out of team", Map.of());
    assertThat(amendment.of("box"))
        .flatExtracting(AmendmentRecord::differences)
        .extracting(difference -> difference.name() + " " + difference.removed())
        .containsExactly("member [uid=una,dc=x]", "uniqueMember [uid=una,dc=x]", "memberUid [una]");
    var without = trust.model().with(leave.on(trust.assessment().model()).changes());
    assertThat(without.graph().surely(una, team)).isEmpty();
  }

  private static String kind(Change change) {
    return change.fold(moved -> "", own -> String.valueOf(own.system()), account -> "");
  }
}
