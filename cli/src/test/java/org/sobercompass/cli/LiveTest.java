package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** From an address alone to answers, by what the commands print; over the wire, as typed. */
class LiveTest {
  @TempDir Path folder;
  private DemoDirectory directory;
  private Path workspace;

  @BeforeEach
  void start() {
    DemoFiles.write(folder.resolve("demo"));
    directory =
        new DemoDirectory(folder.resolve("demo/directory/alderfen.ldif"), "dc=alderfen,dc=example");
    workspace = folder.resolve("new");
  }

  @AfterEach
  void stop() {
    directory.close();
  }

  private SoberTest.Said sober(String... args) {
    return SoberTest.sober(args);
  }

  private SoberTest.Said inNew(String... args) {
    String[] all = java.util.Arrays.copyOf(args, args.length + 2);
    all[args.length] = "--workspace";
    all[args.length + 1] = workspace.toString();
    return sober(all);
  }

  @Test
  void probeProposesWhatFitsAndSaysHowManyEachBringsIn() {
    SoberTest.Said said = sober("probe", directory.address(), "--plain");
    assertThat(said.code()).isZero();
    assertThat(said.out())
        .contains("is a directory (kind: standard) with 79 accounts, 57 groups")
        .contains("ou=people,dc=alderfen,dc=example")
        .containsPattern("login name +uid +79 of 79")
        .containsPattern("display name +displayName +77 of 79")
        .contains("user filter:             (|(objectClass=inetOrgPerson)(objectClass=account))")
        .contains("group name attribute:    cn   (as in all-staff)")
        .contains("what is read is sent in clear")
        .contains("The access rules of ");
  }

  @Test
  void fromAnAddressToAPassingCheckByWhatIsPrinted() throws IOException {
    SoberTest.Said probe =
        inNew("probe", directory.address(), "--plain", "--name", "staff", "--write");
    assertThat(probe.code()).isZero();
    assertThat(probe.err()).contains("Next: sober survey, then sober check.");
    assertThat(Files.readString(workspace.resolve("compass.yaml")))
        .contains("  staff:\n    kind: standard\n    address: " + directory.address());
    SoberTest.Said early = inNew("check");
    assertThat(early.code()).isEqualTo(3);
    assertThat(early.err()).contains("no survey of it is there; expected `sober survey`");
    SoberTest.Said survey = inNew("survey");
    assertThat(survey.code()).isZero();
    assertThat(survey.out()).contains("The access rules of staff were not read");
    SoberTest.Said check = inNew("check");
    assertThat(check.code()).isZero();
    assertThat(check.out())
        .startsWith("The workspace can be read, and nothing is wrong with it.")
        .contains("staff: " + directory.address() + " answers, no TLS, in clear, as anonymous");
    assertThat(inNew("show", "account", "ilse.brandt", "--memberships").out())
        .contains("orders-approvers");
    SoberTest.Said again =
        inNew("probe", directory.address(), "--plain", "--name", "staff", "--write");
    assertThat(again.code()).isEqualTo(2);
    assertThat(again.err()).contains("there is a directory staff");
  }

  @Test
  void aDirectoryThatIsDownIsToldAndTheExitCodeIsFour() {
    inNew("probe", directory.address(), "--plain", "--write");
    inNew("survey");
    directory.close();
    SoberTest.Said check = inNew("check");
    assertThat(check.code()).isEqualTo(4);
    assertThat(check.out()).startsWith("A directory cannot be reached").contains("cannot connect");
    SoberTest.Said survey = inNew("survey");
    assertThat(survey.code()).isEqualTo(4);
    assertThat(inNew("survey", "list").out()).startsWith("1 survey");
    assertThat(inNew("show", "account", "ilse.brandt").code()).isZero();
    assertThat(sober("probe", "ldap://127.0.0.1:1", "--plain").code()).isEqualTo(4);
  }

  @Test
  void startTlsIsTheDefaultAndItsLackIsSaid() {
    SoberTest.Said said = sober("probe", directory.address());
    assertThat(said.code()).isEqualTo(4);
    assertThat(said.err()).contains("cannot start TLS").contains("plain: yes");
  }

  @Test
  void mistypedConnectionsAreToldBeforeAnythingIsTried() {
    assertThat(sober("probe", "http://x").err()).contains("is no address of a directory");
    assertThat(sober("probe", "ldap://x", "--password-env", "P").err()).contains("needs --bind");
    assertThat(sober("probe", "ldap://x", "--name", "A B").err()).contains("--name");
    assertThat(sober("survey", "collect", "ldap://x").code()).isEqualTo(2);
    assertThat(sober("survey", "tkae").err()).contains("expected take, list, verify or collect");
  }

  @Test
  void aSurveyIsVerifiedAndAnAlteredOneIsNot() throws IOException {
    Path part = folder.resolve("part.survey.zip");
    assertThat(
            sober("survey", "collect", directory.address(), "--plain", "-o", part.toString())
                .code())
        .isZero();
    assertThat(sober("survey", "verify", part.toString()).out())
        .contains("is whole: 1 file as listed");
    byte[] bytes = Files.readAllBytes(part);
    bytes[bytes.length / 3] ^= 0x55;
    Files.write(part, bytes);
    assertThat(sober("survey", "verify", part.toString()).code()).isEqualTo(3);
    assertThat(sober("show", "account", "a", "--survey", part.toString()).code()).isEqualTo(3);
  }

  @Test
  void trialSaysWhatStopsAndWhatToType() {
    String demo = folder.resolve("demo").toString();
    SoberTest.Said no = sober("trial", "oskar.lund", "doors", "--workspace", demo);
    assertThat(no.code()).isEqualTo(1);
    assertThat(no.out())
        .startsWith("Oskar Lund (oskar.lund) cannot use Doors: disabled in the directory.")
        .contains("name to type oskar.lund")
        .contains("x no  <- stops here");
    SoberTest.Said less = sober("trial", "joss.merrin", "orders", "--workspace", demo);
    assertThat(less.code()).isZero();
    assertThat(less.out())
        .contains("What others in the same role can do there, and it cannot:")
        .containsPattern("orders:raise +everywhere +Clerk +denied: Frozen to orders-frozen");
  }
}
