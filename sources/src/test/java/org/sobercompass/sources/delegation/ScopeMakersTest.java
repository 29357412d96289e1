package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.admin.AdminCheck;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.report.findings.FindingWords;
import org.sobercompass.sources.workspace.Workspace;

/** Who can change what makes a scope, when set over it: each kind of line, yes and no. */
class ScopeMakersTest extends SmallDirectory {
  private static final String CREATE_USER = "(OA;;CC;" + USER + ";;";
  private final List<String> rows = new ArrayList<>(List.of("role,kind,subject,scope,until"));

  @BeforeEach
  void top() {
    domain("D:");
  }

  /** Cy is set over the scope; Bo stands in the unit b. */
  private void people(String unitA, String unitB, String boList) {
    unit("a", "D:" + unitA.replace("CY", sid(1003)));
    unit("b", "D:" + unitB.replace("CY", sid(1003)));
    user("ann", 1001, "a", "D:", "title: Keeper");
    user("bo", 1002, "b", "D:" + boList.replace("CY", sid(1003)), "title: Buyer");
    user("cy", 1003, "b", "D:");
    rows.add("desk,account,cy,own,");
  }

  private List<Finding> widened(String scopes) throws IOException {
    Files.writeString(root.resolve("d.ldif"), ldif.toString());
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories: {main: {kind: ad, file: d.ldif, taken: 2026-06-01T12:00:00Z}}\n"
            + "admin: admin.yaml\n");
    Files.writeString(
        root.resolve("admin.yaml"),
        "scopes:\n  "
            + scopes
            + "\nroles: {desk: {actions: [unlock]}, editor: {actions: [edit-members]}}\n"
            + "assignments: admin.csv\n");
    Files.writeString(root.resolve("admin.csv"), String.join("\n", rows) + "\n");
    Workspace workspace = Workspace.open(root);
    var assessment = workspace.assessment(workspace.model());
    List<Finding> found =
        Findings.of(assessment).stream()
            .filter(f -> f.kind() == FindingKind.SCOPE_CAN_BE_WIDENED)
            .toList();
    List<Problem> warned =
        new AdminCheck(assessment.powers())
            .run().stream().filter(p -> p.what().contains("can widen")).toList();
    int lines = found.stream().mapToInt(f -> f.evidence().size()).sum();
    assertThat(warned).as("what check warns of").hasSize(lines);
    return found;
  }

  private List<String> ways(String scopes) throws IOException {
    return widened(scopes).stream().flatMap(f -> FindingWords.evidence(f).stream()).toList();
  }

  @Test
  void whoWritesAnAttributeByWhichARuleChooses() throws IOException {
    people("", "", "(OA;;WP;bf967a55-0de6-11d0-a285-00aa003049e2;;CY)");
    assertThat(ways("own: {include: [{where: \"(title=Keeper)\"}]}"))
        .containsExactly("cy by writing title of bo");
  }

  @Test
  void whoWritesAnotherAttributeDoesNot() throws IOException {
    people("", "", "(OA;;WP;bf967a68-0de6-11d0-a285-00aa003049e2;;CY)");
    assertThat(ways("own: {include: [{where: \"(title=Keeper)\"}]}")).isEmpty();
  }

  @Test
  void whatIsInTheScopeAlreadyWidensNothing() throws IOException {
    people("", "", "(A;;WP;;;CY)");
    assertThat(ways("own: {include: [{where: \"(title=*)\"}]}"))
        .as("only cy without a title is outside, and nobody writes there")
        .isEmpty();
  }

  @Test
  void whoWritesTheAttributeByWhichSomebodyIsExcepted() throws IOException {
    people("", "", "(A;;WP;;;CY)");
    assertThat(ways("own: {include: [{subtree: \"dc=x\"}], except: [{where: \"(title=Buyer)\"}]}"))
        .containsExactly("cy by writing title of bo");
  }

  @Test
  void aListThatCouldNotBeReadGivesNobodyAnything() throws IOException {
    unit("a", "D:");
    unit("b", "D:");
    user("ann", 1001, "a", "D:", "title: Keeper");
    user("bo", 1002, "b", "");
    user("cy", 1003, "b", "D:");
    rows.add("desk,account,cy,own,");
    assertThat(ways("own: {include: [{where: \"(title=Keeper)\"}]}")).isEmpty();
  }

  @Test
  void whoMovesAnAccountIntoTheSubtree() throws IOException {
    people(CREATE_USER + "CY)", "", "(A;;SDWP;;;CY)");
    assertThat(ways("own: {include: [{subtree: \"ou=a,dc=x\"}]}"))
        .containsExactly("cy by moving bo to a");
  }

  @Test
  void whoMayNotCreateThereDoesNotMoveIt() throws IOException {
    people("", "", "(A;;SDWP;;;CY)");
    assertThat(ways("own: {include: [{subtree: \"ou=a,dc=x\"}]}")).isEmpty();
  }

  @Test
  void whoMayNotTakeItAwayDoesNotMoveIt() throws IOException {
    people(CREATE_USER + "CY)", "", "(A;;WP;;;CY)");
    assertThat(ways("own: {include: [{subtree: \"ou=a,dc=x\"}]}")).isEmpty();
  }

  @Test
  void whatAScopeSaysOfAnotherIsFollowed() throws IOException {
    people(CREATE_USER + "CY)", "", "(A;;SDWP;;;CY)");
    assertThat(
            ways(
                "inner: {include: [{subtree: \"ou=a,dc=x\"}]}\n"
                    + "  own: {include: [{scope: inner}]}"))
        .containsExactly("cy by moving bo to a");
  }

  @Test
  void groupsInTheGroupCountAndAllWaysAreOneFinding() throws IOException {
    people("", "", "(OA;;WP;bf967a55-0de6-11d0-a285-00aa003049e2;;CY)");
    group("inner", 1102, "D:(OA;;WP;" + MEMBER + ";;" + sid(1003) + ")", "cn=ann,ou=a,dc=x");
    group("outer", 1101, "D:", "cn=inner,ou=a,dc=x");
    List<Finding> found =
        widened("own: {include: [{group: outer, groups: members}, {where: \"(title=Keeper)\"}]}");
    assertThat(found).hasSize(1);
    assertThat(FindingWords.evidence(found.get(0)))
        .containsExactly(
            "cy by editing inner, whose members are in it", "cy by writing title of bo");
    assertThat(FindingWords.sentence(found.get(0))).endsWith("or in 1 other way");
  }

  @Test
  void whoEditsAGroupThatIsExceptedLetsItsMembersIn() throws IOException {
    people("", "", "");
    group("kept", 1101, "D:(OA;;WP;" + MEMBER + ";;" + sid(1003) + ")", "cn=bo,ou=b,dc=x");
    assertThat(
            ways(
                "own: {include: [{subtree: \"dc=x\", groups: object}],"
                    + " except: [{group: kept, groups: members}]}"))
        .containsExactly("cy by editing kept, whose members are excepted");
  }

  @Test
  void byAnAdminRoleAsWellAsByAList() throws IOException {
    people("", "", "");
    group("crew", 1101, "D:", "cn=ann,ou=a,dc=x");
    rows.add("editor,account,cy,crews,");
    String scopes =
        "own: {include: [{group: crew, groups: members}]}\n"
            + "  crews: {include: [{group: crew, groups: object}]}";
    assertThat(ways(scopes)).containsExactly("cy by editing crew, whose members are in it");
  }

  @Test
  void whoIsSetOverItNoLongerIsNotTold() throws IOException {
    people("", "", "(A;;WP;;;CY)");
    rows.set(1, "desk,account,cy,own,2026-05-31");
    assertThat(ways("own: {include: [{where: \"(title=Keeper)\"}]}")).isEmpty();
    rows.set(1, "desk,account,cy,own,2026-06-01");
    assertThat(ways("own: {include: [{where: \"(title=Keeper)\"}]}")).hasSize(1);
  }
}
