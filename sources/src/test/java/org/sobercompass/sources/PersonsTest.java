package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.person.Link;
import org.sobercompass.sources.workspace.Workspace;

/** Persons are components of accepted links; what is ambiguous is told, not guessed. */
class PersonsTest {
  @TempDir Path root;

  private static String account(String dn, String uid, String more) {
    return "dn: " + dn + "\nobjectClass: inetOrgPerson\nuid: " + uid + "\n" + more + "\n\n";
  }

  private Workspace open(String one, String two, String persons, String byHand) throws IOException {
    Files.writeString(root.resolve("one.ldif"), one);
    Files.writeString(root.resolve("two.ldif"), two);
    Files.writeString(root.resolve("own.csv"), "login,kind,mail\nrobot,service,ann@x.example\n");
    Files.writeString(root.resolve("p.csv"), "account,other,same,reason\n" + byHand);
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {one: {file: one.ldif}, two: {file: two.ldif},"
            + " own: {kind: accounts, file: own.csv}}\npersons: "
            + persons
            + "\n");
    return Workspace.open(root);
  }

  private static List<String> same(Workspace workspace, String login) {
    Facts facts = workspace.facts();
    int account = facts.names().find(SubjectKind.ACCOUNT, login, login).get(0);
    return workspace.persons().accounts(account).stream().map(facts::login).toList();
  }

  private static final String ANN =
      account("uid=ann,dc=x", "ann", "mail: ann@x.example\nemployeeNumber: 7");
  private static final String BO = account("uid=bo,dc=x", "bo", "employeeNumber: 8");
  private static final String ANNA =
      account("uid=anna,dc=y", "anna", "mail: ANN@x.example\nemployeeNumber: 9");
  private static final String BOB = account("uid=bob,dc=y", "bob", "employeeNumber: 8");

  @Test
  void accountsThatShareAFilledAndUniqueValueAreOnePersons() throws IOException {
    Workspace workspace = open(ANN + BO, ANNA + BOB, "{link: [mail, employeeNumber]}", "");
    assertThat(same(workspace, "ann")).containsExactlyInAnyOrder("ann", "anna");
    assertThat(same(workspace, "bob")).containsExactlyInAnyOrder("bo", "bob");
    assertThat(workspace.persons().linked()).isEqualTo(2);
    assertThat(workspace.persons().reasons(0).stream().map(Link::reason))
        .containsExactly("mail ann@x.example");
    assertThat(workspace.problems()).isEmpty();
  }

  @Test
  void aServiceAccountNeverLinksByRule() throws IOException {
    Workspace workspace = open(ANN, ANNA, "{link: mail}", "");
    assertThat(same(workspace, "robot")).containsExactly("robot");
    Workspace byHand = open(ANN, ANNA, "{file: p.csv}", "ann,robot,yes,she made it\n");
    assertThat(same(byHand, "robot")).containsExactlyInAnyOrder("robot", "ann");
  }

  @Test
  void aValueThatTwoAccountsOfOneDirectoryShareLinksNobodyAndIsTold() throws IOException {
    String twin = account("uid=twin,dc=x", "twin", "employeeNumber: 8");
    Workspace workspace = open(BO + twin, BOB, "{link: employeeNumber}", "");
    assertThat(same(workspace, "bo")).containsExactly("bo");
    assertThat(same(workspace, "bob")).containsExactly("bob");
    assertThat(workspace.problems())
        .anyMatch(p -> p.what().equals("2 accounts of one have the employeenumber 8: bo, twin"));
  }

  @Test
  void anEmptyOrManyValuedAttributeLinksNobody() throws IOException {
    String two = account("uid=bo,dc=x", "bo", "employeeNumber: 8\nemployeeNumber: 80");
    assertThat(same(open(two, BOB, "{link: employeeNumber}", ""), "bo")).containsExactly("bo");
  }

  @Test
  void linksGoOnAndANotTheSameByHandLeavesTheWholeComponentUnmerged() throws IOException {
    String third = "ann,bo,yes,told so\n";
    Workspace joined =
        open(ANN + BO, ANNA + BOB, "{link: [mail, employeeNumber], file: p.csv}", third);
    assertThat(same(joined, "bob")).containsExactlyInAnyOrder("ann", "bo", "anna", "bob");
    Workspace apart =
        open(
            ANN + BO,
            ANNA + BOB,
            "{link: [mail, employeeNumber], file: p.csv}",
            third + "anna,bob,no,two people\n");
    assertThat(same(apart, "bob")).containsExactly("bob");
    assertThat(same(apart, "ann")).containsExactly("ann");
    assertThat(apart.problems())
        .anyMatch(p -> p.what().contains("are linked, but not the same: two people"));
  }

  @Test
  void aLinkToNobodyIsToldWithItsLine() throws IOException {
    assertThat(open(ANN, BOB, "{file: p.csv}", "ann,bbo,yes,\n").problems())
        .anyMatch(p -> p.toString().contains("p.csv:2") && p.nearest().equals("bob"));
    assertThatThrownBy(() -> open(ANN, BOB, "{file: p.csv}", "ann,bob,perhaps,\n"))
        .hasMessageContaining("is neither yes nor no");
  }
}
