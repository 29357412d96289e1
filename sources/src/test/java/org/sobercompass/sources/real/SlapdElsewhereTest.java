package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.DeleteRequest;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.ManageDsaITRequestControl;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.workspace.Surveyor;

/** A slapd that says that something stands on another server, or gives only a part. */
class SlapdElsewhereTest {
  private static final String GROUP = "cn=group1,ou=groups," + Slapd.SUFFIX;
  private static final String READER = "uid=user1,ou=Office,ou=people," + Slapd.SUFFIX;

  @TempDir Path folder;
  private LiveSlapd live;
  private LDAPConnection connection;

  @BeforeEach
  void start() throws IOException, LDAPException {
    String limit = "limits dn.exact=\"" + READER + "\" size=20 size.prtotal=20";
    live = LiveSlapd.start(folder, 7, limit);
    connection = live.connection();
  }

  @AfterEach
  void stop() {
    if (live != null) {
      live.close();
    }
  }

  private static int group(Facts facts, String name) {
    int group = facts.firstGroup();
    while (!facts.label(group).equals(name)) {
      group++;
    }
    return group;
  }

  /** Somebody who is in neither comes into two groups. */
  private Amended amend() {
    Organization before = live.read();
    Facts facts = before.model().facts();
    int one = group(facts, "group1");
    int two = group(facts, "group2");
    int account = 0;
    while (isIn(before, account, one) || isIn(before, account, two)) {
      account++;
    }
    return live.amend(
        before,
        new Proposal(
            "",
            List.of(
                new Step.Join(facts.key(account), facts.key(one)),
                new Step.Join(facts.key(account), facts.key(two)))));
  }

  private static boolean isIn(Organization of, int account, int group) {
    for (int i = 0; i < of.model().graph().upCount(account); i++) {
      if (of.model().graph().upGroup(account, i) == group) {
        return true;
      }
    }
    return false;
  }

  private static Entry referral(String dn, String name) {
    return new Entry(
        dn,
        new Attribute("objectClass", "referral", "extensibleObject"),
        new Attribute(name.split("=")[0], name.split("=")[1]),
        new Attribute("ref", "ldap://elsewhere.example/" + dn));
  }

  private void withoutReferral(String dn) throws LDAPException {
    var request = new DeleteRequest(dn);
    request.addControl(new ManageDsaITRequestControl(true));
    connection.delete(request);
  }

  @Test
  void anEntryThatStandsOnAnotherServerIsToldAndTheRestGoesOnLater() throws Exception {
    Amended amended = amend();
    Entry group = connection.getEntry(GROUP);
    connection.delete(GROUP);
    connection.add(referral(GROUP, "cn=group1"));
    Map<String, Set<String>> all = live.dump();

    Work stopped = amended.carryOut();
    assertThat(stopped.failed()).hasSize(1);
    assertThat(stopped.failed().get(0).why())
        .isEqualTo(
            "the server says that it stands at ldap://elsewhere.example/"
                + GROUP
                + "; it is not followed");
    assertThat(stopped.left()).isEqualTo(1);
    assertThat(live.dump()).isEqualTo(all);

    withoutReferral(GROUP);
    connection.add(group);
    Work whole = amended.carryOut();
    assertThat(whole.isWhole()).as(whole.failed().toString()).isTrue();
    assertThat(whole.made()).isEqualTo(2);
    assertThat(amended.undo().isWhole()).isTrue();
  }

  @Test
  void aBranchThatStandsOnAnotherServerIsToldToo() throws Exception {
    Amended amended = amend();
    String branch = "ou=groups," + Slapd.SUFFIX;
    List<SearchResultEntry> entries =
        new ArrayList<>(
            connection.search(branch, SearchScope.SUB, "(objectClass=*)").getSearchEntries());
    entries.sort(Comparator.comparing(entry -> entry.getDN().split(",").length));
    for (int i = entries.size() - 1; i >= 0; i--) {
      connection.delete(entries.get(i).getDN());
    }
    connection.add(referral(branch, "ou=groups"));

    Work stopped = amended.carryOut();
    assertThat(stopped.failed().get(0).why())
        .startsWith("the server says that it stands at ldap://elsewhere.example/");

    withoutReferral(branch);
    for (SearchResultEntry entry : entries) {
      // Members by a rule are worked out, and are not written.
      if (!entry.hasObjectClass("groupOfURLs")) {
        connection.add(entry);
      }
    }
    assertThat(amended.carryOut().made()).isEqualTo(2);
  }

  @Test
  void whatMovedAwayFromBehindAReferralIsFoundByItsId() throws Exception {
    Amended amended = amend();
    String branch = "ou=groups," + Slapd.SUFFIX;
    connection.modifyDN(branch, "ou=earlier", true);
    connection.add(referral(branch, "ou=groups"));
    Work work = amended.carryOut();
    assertThat(work.made()).as(work.failed().toString()).isEqualTo(2);
    assertThat(amended.undo().isWhole()).isTrue();
  }

  @Test
  void aSizeLimitIsToldAndNoSurveyIsKept() throws Exception {
    connection.modify(
        READER, new Modification(ModificationType.REPLACE, "userPassword", Slapd.PASSWORD));
    Path workspace = Files.createDirectory(folder.resolve("limited"));
    Files.writeString(
        workspace.resolve("compass.yaml"),
        Files.readString(live.workspace().resolve("compass.yaml")).replace(Slapd.ROOT_DN, READER));
    Surveyor surveyor =
        new Surveyor(
            new Secret.Origins(name -> Optional.of(Slapd.PASSWORD), question -> Optional.empty()),
            Clock.systemUTC(),
            (source, count) -> {});
    assertThatThrownBy(() -> surveyor.take(workspace, List.of(), Optional.empty()))
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("only a part (its size limit)");
    assertThat(workspace.resolve("surveys")).doesNotExist();
  }
}
