package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.proposal.FormerIds;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ReadyMade;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.workspace.Workspace;

/** Changes by command: previewed first, written on one more word, and nothing else touched. */
class ChangeTest {
  @TempDir Path folder;
  private Path root;

  @BeforeEach
  void write() {
    root = folder.resolve("w");
    DemoFiles.write(root);
  }

  private SoberTest.Said sober(String... command) {
    List<String> all = new ArrayList<>(List.of(command));
    all.addAll(List.of("--workspace", root.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  private String text(String file) throws IOException {
    return Files.readString(root.resolve(file));
  }

  @Test
  void aPreviewSaysItInOneSentenceAndWritesNothing() throws IOException {
    String before = text("assignments/permits.actual.csv");
    SoberTest.Said said = sober("assign", "permits", "clerk", "nell.dunmore", "--at", "vault");
    assertThat(said.code()).isZero();
    assertThat(said.out()).startsWith("1 account gains ").contains("nobody loses anything");
    assertThat(said.err()).contains("--write");
    assertThat(text("assignments/permits.actual.csv")).isEqualTo(before);
  }

  @Test
  void whatIsWrittenIsOneRowAndWhatWasSaidHolds() throws IOException {
    String before = text("assignments/permits.actual.csv");
    String[] given = {
      "assign",
      "permits",
      "clerk",
      "nell.dunmore",
      "--at",
      "vault",
      "--until",
      "2026-12-31",
      "--by",
      "Maren Holt",
      "--reason",
      "while a clerk is away, \"for now\"",
      "--write"
    };
    assertThat(sober("can", "nell.dunmore", "permits:permits:draft", "--at", "vault").code())
        .isEqualTo(Exit.NO);
    assertThat(sober(given).code()).isZero();
    assertThat(text("assignments/permits.actual.csv"))
        .isEqualTo(
            before
                + "clerk,account,nell.dunmore,vault,yes,,2026-12-31,Maren Holt,\"while a clerk is"
                + " away, \"\"for now\"\"\"\n");
    assertThat(sober("can", "nell.dunmore", "permits:permits:draft", "--at", "vault").code())
        .isZero();
    SoberTest.Said again = sober(given);
    assertThat(again.out()).startsWith("Nothing is to be changed.").contains("already");
    sober("withdraw", "permits", "clerk", "nell.dunmore", "--write");
    assertThat(text("assignments/permits.actual.csv")).isEqualTo(before);
  }

  @Test
  void aTableWithAPlantedConflictIsCaughtBeforeItIsWritten() {
    SoberTest.Said said = sober("preview", "proposals/standins.csv");
    assertThat(said.out())
        .startsWith("2 accounts gain 9 permissions in Orders; nobody loses anything; 1 conflict")
        .contains("separation-of-duties");
  }

  @Test
  void effectsAreSummedUpByAccountOrByPermission() {
    assertThat(sober("preview", "proposals/standins.csv", "--sum", "account", "-f", "csv").out())
        .contains("gains,\"account:alderfen/3d6d1679-274e-5ee8-951c-ad04c1edde8e\",tova.quill,")
        .contains(",\"Tova Quill\",6,Orders")
        .contains(",\"Bram Ostler\",3,Orders");
    assertThat(sober("preview", "proposals/standins.csv", "--sum", "permission").out())
        .startsWith("2 accounts gain 9 permissions in Orders;")
        .contains("bram.ostler, tova.quill");
  }

  @Test
  void ofATableWithAWrongRowNothingIsWritten() throws IOException {
    String before = text("assignments/orders.actual.csv");
    Files.writeString(
        folder.resolve("many.csv"),
        "application,role,kind,subject,node,until\n"
            + "orders,clerk,account,tova.quill,vault,\n"
            + "orders,clark,account,tova.quill,vault,\n"
            + "orders,clerk,account,tova.qill,vault,\n"
            + "orders,clerk,account,bram.ostler,volt,soon\n"
            + "orders,clerk,account,bram.ostler,,\n");
    SoberTest.Said said = sober("preview", folder.resolve("many.csv").toString(), "--write");
    assertThat(said.code()).isEqualTo(Exit.INPUT);
    assertThat(said.err())
        .contains("many.csv:3")
        .contains("did you mean clerk?")
        .contains("many.csv:4")
        .contains("did you mean tova.quill?")
        .contains("many.csv:5")
        .contains("many.csv:6: Orders has 6 nodes, and none is said");
    assertThat(text("assignments/orders.actual.csv")).isEqualTo(before);
  }

  @Test
  void statementsOfADatabaseArePreviewedAndNotWrittenHere() {
    SoberTest.Said said = sober("preview", "proposals/staging.sql");
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out())
        .contains("public-rights")
        .contains("Add the entry insert, select for loader at");
    assertThat(sober("preview", "proposals/staging.sql", "--write").err())
        .contains("are only read here")
        .contains("sober amend");
  }

  @Test
  void statementsThatCannotBeReadAreToldWithTheirLines() throws IOException {
    Files.writeString(
        folder.resolve("wrong.sql"),
        "grant fly on loans.loan to curators;\n"
            + "grant select on loans.lone\n  to curators;\n"
            + "drop table loans.loan;\n"
            + "revoke select on loans.loan from curators cascade;\n"
            + "grant select on loans.loan;\n"
            + "grant curators to nobody;\n"
            + "alter default privileges grant select on tables to curators;\n"
            + "alter default privileges for role loader grant execute on tables to curators;\n"
            + "alter default privileges for role loader grant select on views to curators;\n");
    SoberTest.Said said = sober("preview", folder.resolve("wrong.sql").toString());
    assertThat(said.code()).isEqualTo(Exit.INPUT);
    assertThat(said.err())
        .contains("wrong.sql:1: there is no right fly on a table")
        .contains("wrong.sql:2: there is no /fieldbook/loans/lone")
        .contains("wrong.sql:4: a statement that begins with drop")
        .contains("wrong.sql:5: the word cascade after that")
        .contains("wrong.sql:6: it is not said to whom")
        .contains("wrong.sql:7: there is no role nobody")
        .contains("wrong.sql:8: it is not said for which role")
        .contains("wrong.sql:9: there is no right execute on a table")
        .contains("wrong.sql:10: there are no default privileges on views");
    Files.writeString(folder.resolve("so.sql"), "grant select on loans.loan to curators;");
    assertThat(sober("preview", folder.resolve("so.sql").toString()).out())
        .startsWith("Nothing is to be changed.")
        .contains("is there");
  }

  @Test
  void whatCountsOnlyForWhatIsMadeLaterIsToldAsThat() throws IOException {
    Files.writeString(
        folder.resolve("later.sql"),
        "alter default privileges for role fieldbook_owner in schema loans"
            + " grant select on tables to curators;");
    assertThat(sober("preview", folder.resolve("later.sql").toString()).out())
        .startsWith(
            "1 change for what is made later; nothing would be different for anybody today.")
        .contains("select on each new table by fieldbook_owner, for curators")
        .contains("nothing yet");
  }

  @Test
  void changeRecordsOfADirectoryArePreviewedAndNotWrittenHere() throws IOException {
    SoberTest.Said said = sober("preview", "proposals/leave-approvers.ldif");
    assertThat(said.out())
        .startsWith(
            "Nobody gains anything; 1 account loses 3 permissions in Orders; 1 finding ends");
    SoberTest.Said write = sober("preview", "proposals/leave-approvers.ldif", "--write");
    assertThat(write.code()).isEqualTo(Exit.INPUT);
    assertThat(write.err()).contains("memberships of alderfen are only read here");
    Files.writeString(
        folder.resolve("x.ldif"),
        "dn: uid=nobody,dc=alderfen,dc=example\n"
            + "changetype: modify\n"
            + "add: member\n"
            + "member: uid=a\n"
            + "-\n\n"
            + "dn: cn=trustees,ou=groups,dc=alderfen,dc=example\n"
            + "changetype: modrdn\nnewrdn: cn=board\ndeleteoldrdn: 1\n\n");
    assertThat(sober("preview", folder.resolve("x.ldif").toString()).err())
        .contains("there is no group")
        .contains("a change of type moddn cannot be shown in its effects yet");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "assign orders payer joss.merrin | 2 | Orders has 6 nodes; expected --at NODE, or"
            + " --everywhere",
        "assign orders payer joss.merrin --at offise | 2 | did you mean office?",
        "assign orders clark joss.merrin --everywhere | 2 | did you mean clerk?",
        "assign order payer joss.merrin --everywhere | 2 | did you mean orders?",
        "assign orders payer jos.merrin --everywhere | 2 | did you mean joss.merrin?",
        "assign orders payer trustees --everywhere | 2 | did you mean \"group trustees\"?",
        "assign orders payer joss.merrin --everywhere --from 2027-02-01 --until 2027-01-01 | 2 |"
            + " it ends before it begins",
        "withdraw orders payer joss.merrin | 2 | is not given the role payer of Orders itself",
        "unpick joss.merrin orders:payments:sign | 2 | is not held",
        "preview nowhere.csv | 3 | there is no such file",
        "preview compass.txt | 3 | says no form of a proposal"
      })
  void whatCannotBeIsToldWithTheNearestRightThing(String command, int code, String says) {
    SoberTest.Said said = sober(command.split(" "));
    assertThat(said.err()).contains(says);
    assertThat(said.code()).isEqualTo(code);
  }

  @Test
  void whatMustStayIsLeftAloneAndCostsDecideBetweenWays() throws IOException {
    String rules = text("compass.yaml");
    assertThat(sober("unpick", "m8za0f").out().replaceAll("\\s+", " "))
        .startsWith("1 removal ends separation-of-duties (m8za0f); nothing less does.")
        .contains("3 permissions of 1 account proved least orders-approvers");
    String stay = "findings:\n  removals: {stay: [group orders-approvers], costs: {leave: 50}}\n";
    Files.writeString(root.resolve("compass.yaml"), rules.replaceFirst("(?m)^findings:\n", stay));
    assertThat(text("compass.yaml")).isNotEqualTo(rules);
    assertThat(sober("unpick", "ilse.brandt", "orders:payments:sign").out().replaceAll("\\s+", " "))
        .startsWith(
            "No removal ends orders:payments:sign of Ilse Brandt (ilse.brandt) at The whole trust"
                + " that leaves alone what must stay");
    assertThat(sober("unpick", "m8za0f").out().replaceAll("\\s+", " "))
        .doesNotContain("orders-approvers");
    Files.writeString(
        root.resolve("compass.yaml"),
        rules.replaceFirst(
            "(?m)^findings:\n",
            "findings:\n  removals: {stay: [group nobody], costs: {leaf: 2}}\n"));
    assertThat(sober("findings").err()).contains("nobody").contains("leave");
  }

  @Test
  void severalHoldingsAreEndedTogether() {
    SoberTest.Said both =
        sober("unpick", "ilse.brandt", "orders:payments:sign", "orders:orders:raise");
    assertThat(both.out().replaceAll("\\s+", " "))
        .startsWith(
            "2 removals end orders:payments:sign and orders:orders:raise of Ilse Brandt"
                + " (ilse.brandt) at The whole trust; nothing less does.")
        .contains("6 permissions of 1 account proved least orders-approvers; Take Ilse Brandt");
    assertThat(
            sober("unpick", "ilse.brandt", "orders:payments:sign", "permits:permits:issue").err())
        .contains("permits:permits:issue of Ilse Brandt (ilse.brandt)")
        .contains("is not held");
  }

  @Test
  void unpickPutsTheWaysSideBySide() {
    SoberTest.Said said = sober("unpick", "ilse.brandt", "orders:payments:sign");
    assertThat(said.out().replaceAll("\\s+", " "))
        .startsWith("1 removal ends orders:payments:sign of Ilse Brandt (ilse.brandt)")
        .contains("nothing less does");
    String csv = sober("unpick", "ilse.brandt", "orders:payments:sign", "-f", "csv").out();
    assertThat(csv)
        .contains("1,\"Take Ilse Brandt (ilse.brandt) out of orders-approvers\",3,0,1,0")
        .contains("2,\"Withdraw the role Payer of Orders from orders-approvers");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "like ilse.brandt nell.dunmore | 1 account gains 6 permissions in Orders; nobody loses",
        "leave petra.vance | Nobody gains anything; 2 accounts lose",
        "move oskar.lund bram.ostler nell.dunmore | 1 account gains 4 permissions in Seedbook; 1"
            + " account loses 1",
        "agreed permits | Nobody gains anything; 6 accounts lose 12 permissions in Permits; 3",
        "by-group doors-night maren.holt | 2 accounts gain 2 permissions in Doors; nobody loses"
            + " anything; 1",
        "by-group glass-coordinators ibeck | 2 accounts gain 18 permissions in Field-notes share"
            + " and 75 admin actions; nobody loses anything; 3 findings end.",
        "disable ilse.brandt | Nobody gains anything; 1 account loses",
        "expire never petra.vance | 1 account gains",
        "end disabled-account | Nobody gains anything; 1 account loses 2 permissions in Doors, 3"
            + " in",
        "end redundant-assignment | Nobody gains anything; nobody loses anything; 1 finding ends."
      })
  void whatIsOftenNeededIsReadyMade(String what, String says) {
    SoberTest.Said said = sober(("propose " + what).split(" "));
    assertThat(said.code()).isZero();
    assertThat(said.out().replaceAll("\\s+", " ")).startsWith(says);
  }

  /** Afterwards the leaver has nothing by name, and a mover has what the colleague has. */
  @Test
  void readyMadeProposalsReachWhatTheyAreFor() {
    Organization trust = Organization.open(root);
    ReadyMade made = new ReadyMade(trust.model());
    int people = 0;
    for (int account = 0; account < trust.model().facts().accounts(); account += 7) {
      Proposal leaving = made.leaving(List.of(account));
      AccessModel after = trust.model().with(leaving.on(trust.model()).changes());
      assertThat(new ReadyMade(after).leaving(List.of(account)).steps()).isEmpty();
      int other = (account + 13) % trust.model().facts().accounts();
      Proposal like = made.like(other, account);
      AccessModel alike = trust.model().with(like.on(trust.model()).changes());
      assertThat(new ReadyMade(alike).like(other, account).steps()).isEmpty();
      people += leaving.steps().isEmpty() ? 0 : 1;
    }
    assertThat(people).isGreaterThan(5);
  }

  /** Several lines of one list go and come in one proposal, whatever their order. */
  @Test
  void severalLinesOfOneScopeAreTakenAndAddedTogether() throws IOException {
    String admin = text("admin.yaml");
    String lines = "      - group: finance-desks\n        groups: members\n";
    assertThat(admin).contains(lines);
    String more = "      - account: nlarkin\n      - account: bostler\n      - account: gwick\n";
    Files.writeString(root.resolve("admin.yaml"), admin.replace(lines, lines + more));
    Files.writeString(
        folder.resolve("lines.csv"),
        "change,scope,subject\nexcept,joiners,nlarkin\ninclude,joiners,tquill\n"
            + "except,joiners,gwick\nexcept,joiners,bostler\n");
    assertThat(sober("preview", folder.resolve("lines.csv").toString(), "--write").code()).isZero();
    assertThat(text("admin.yaml"))
        .isEqualTo(admin.replace(lines, lines + "      - account: tquill\n"));
    Files.writeString(
        folder.resolve("last.yaml"),
        "changes:\n  - end-inclusion: {scope: joiners, who: tquill}\n"
            + "  - end-inclusion: {scope: joiners, who: group finance-desks, groups: members}\n");
    assertThat(sober("preview", folder.resolve("last.yaml").toString(), "--write").out())
        .startsWith("1 step cannot be made: the scope joiners would include nothing any more.");
    Files.writeString(
        folder.resolve("entry.yaml"),
        "changes:\n  - remove-entry: {system: fieldshare, entry: \"/vault 2 S-1-1\"}\n");
    assertThat(sober("preview", folder.resolve("entry.yaml").toString()).err())
        .contains("name: is missing");
  }

  /** A role that allows nothing itself yet gets its first entry. */
  @Test
  void aRoleWithoutEntriesGetsItsFirst() throws IOException {
    String before = text("applications/orders.yaml");
    assertThat(sober("redefine", "orders", "standin-buyer", "suppliers=view", "--write").code())
        .isZero();
    assertThat(text("applications/orders.yaml"))
        .isEqualTo(
            before.replace(
                "    includes: [clerk, payer]\n",
                "    includes: [clerk, payer]\n    allows: {suppliers: view}\n"));
  }

  /** What is there otherwise and no step can do is said: accounts, groups, systems. */
  @Test
  void whatNoStepCanDoIsTold() throws IOException {
    Path other = folder.resolve("other");
    DemoFiles.write(other);
    Path export = other.resolve("directory/alderfen.ldif");
    String text = Files.readString(export);
    int from = text.indexOf("dn: uid=moss.rook,");
    Files.writeString(
        export, text.substring(0, from) + text.substring(text.indexOf("\n\n", from) + 2));
    Files.writeString(
        other.resolve("files/fernstore.getfacl"),
        Files.readString(other.resolve("files/fernstore.getfacl"))
            .replaceFirst("user:2017:rw-", "user:2017:rw-\nuser:2018:r--")
            .replaceFirst("# owner: cwhitlow", "# owner: rholm"));
    SoberTest.Said said = sober("propose", "as-in", other.toString());
    assertThat(said.out()).contains("nobody in the directories that it looks at has the user");
    assertThat(said.err()).contains("Not in it: Moss Rook (moss.rook) is here and not there.");
  }

  /** Owners and entries for what is made later come back too. */
  @Test
  void ownersAreAsTheyWere() throws IOException {
    Path other = folder.resolve("other");
    DemoFiles.write(other);
    Files.writeString(
        other.resolve("files/fernstore.getfacl"),
        Files.readString(other.resolve("files/fernstore.getfacl"))
            .replaceFirst("# owner: cwhitlow", "# owner: rholm")
            .replaceFirst("default:user:tbrook:rwx\n", ""));
    Files.writeString(
        other.resolve("files/fieldshare.csv"),
        Files.readString(other.resolve("files/fieldshare.csv"))
            .replaceFirst(
                "(?m)^(/herbarium/sheets,folder,O:S-1-5-21-1871-2902-3733)-1112", "$1-1113"));
    SoberTest.Said said = sober("propose", "as-in", other.toString());
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out().replaceAll("\\s+", " "))
        .contains("Set the owner Gil Wick (desk) (gwick) of /herbarium/sheets")
        .contains("Set the owner rholm of /srv/fernhollow/walks")
        .contains("Remove the entry read, write, execute in what is made there later, for tbrook");
    assertThat(said.err()).doesNotContain("Not in it");
  }

  /** Entries and owners by an earlier id are written by the present one, until none is left. */
  @Test
  void nothingRestsOnAnEarlierIdAfterwards() throws IOException {
    String id = "S-1-5-21-990-4417-2208-1107";
    Path lists = root.resolve("files/fieldshare.csv");
    String text = Files.readString(lists);
    Files.writeString(
        lists,
        text.replaceFirst(
            "(?m)^(/herbarium/sheets,folder,O:)S-1-5-21-1871-2902-3733-1112", "$1" + id));
    SoberTest.Said said = sober("propose", "present-ids");
    assertThat(said.code()).as(said.err()).isZero();
    assertThat(said.out().replaceAll("\\s+", " "))
        .contains("Set the owner Ase Lindqvist (desk) (alindqvist) of /herbarium/sheets")
        .contains("Remove the entry change for Ase Lindqvist (desk) (alindqvist)");
    assertThat(said.err()).contains(id + "; 2 entries or owners rest on it.");
    AccessModel before = Organization.of(Workspace.open(root, Set.of(FormerIds.ATTRIBUTE))).model();
    AccessModel after = before.with(new ReadyMade(before).presentIds().on(before).changes());
    assertThat(FormerIds.of(before)).extracting(FormerIds.Former::entries).containsExactly(2);
    assertThat(FormerIds.of(after)).extracting(FormerIds.Former::entries).containsExactly(0);
    assertThat(new ReadyMade(after).presentIds().steps()).isEmpty();
  }

  /** What one command writes, the opposite one takes back. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "except joiners jmerrin | include joiners jmerrin | admin.yaml",
        "include joiners nlarkin | except joiners nlarkin | admin.yaml",
        "assign admin helper nlarkin --at joiners | withdraw admin helper nlarkin | "
            + "assignments/admin.csv",
        "enrol seedbook nell.dunmore | enrol seedbook nell.dunmore --off | registers/seedbook.csv",
        "redefine orders clerk --include auditor | redefine orders clerk --drop auditor | "
            + "applications/orders.yaml"
      })
  void whatOneCommandWritesTheOppositeTakesBack(String command, String back, String file)
      throws IOException {
    String before = text(file.strip());
    assertThat(sober((command + " --write").split(" ")).code()).isZero();
    assertThat(text(file.strip())).isNotEqualTo(before);
    assertThat(sober((back.strip() + " --write").split(" ")).code()).isZero();
    assertThat(text(file.strip())).isEqualTo(before);
  }
}
