package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.hierynomus.msdtyp.AccessMask;
import com.hierynomus.msdtyp.SecurityDescriptor;
import com.hierynomus.msdtyp.SecurityInformation;
import com.hierynomus.mserref.NtStatus;
import com.hierynomus.mssmb2.SMB2CreateDisposition;
import com.hierynomus.mssmb2.SMB2ShareAccess;
import com.hierynomus.mssmb2.SMBApiException;
import com.hierynomus.smb.SMBBuffer;
import com.hierynomus.smbj.SMBClient;
import com.hierynomus.smbj.auth.AuthenticationContext;
import com.hierynomus.smbj.share.DiskShare;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.descriptor.DescriptorCodec;
import org.sobercompass.sources.files.SharesCollecting;

/** Lists behind a share are changed over SMB, and put back; the file server decides in between. */
class SmbdAmendmentTest {
  private static final Map<String, Integer> MASKS =
      Map.of("read-data", 0x1, "write-data", 0x2, "read-permissions", 0x2_0000);
  private static final List<String> FOLDERS =
      List.of("vault", "vault/seeds", "vault/seeds/2026", "press", "press/ümlaut", "press/a b");

  @TempDir private Path folder;
  private Smbd smbd;
  private Path secret;
  private int shares;

  @BeforeEach
  void start() throws Exception {
    assumeTrue(Smbd.missing().isEmpty(), Smbd.missing());
    smbd = Smbd.start(folder);
    secret = Files.writeString(folder.resolve("secret"), Smbd.PASSWORD + "\n");
  }

  @AfterEach
  void end() {
    if (smbd != null) {
      smbd.close();
    }
  }

  /** Something done with the share, signed in as somebody. */
  private interface Use {
    void with(DiskShare share) throws Exception;
  }

  private void as(String account, Use use) throws Exception {
    try (SMBClient client = new SMBClient();
        var connection = client.connect("127.0.0.1", smbd.port());
        var session =
            connection.authenticate(
                new AuthenticationContext(account, Smbd.PASSWORD.toCharArray(), ""));
        var share = (DiskShare) session.connectShare(Smbd.SHARE)) {
      use.with(share);
    }
  }

  private static void set(DiskShare share, String path, String sddl) throws Exception {
    byte[] bytes = DescriptorCodec.write(Sddl.read(sddl, Optional.empty()));
    share.setSecurityInfo(
        path,
        EnumSet.of(
            SecurityInformation.DACL_SECURITY_INFORMATION,
            sddl.contains("D:P")
                ? SecurityInformation.PROTECTED_DACL_SECURITY_INFORMATION
                : SecurityInformation.UNPROTECTED_DACL_SECURITY_INFORMATION),
        SecurityDescriptor.read(new SMBBuffer(bytes)));
  }

  /** Folders whose lists hand entries on to what the server makes below; some are protected. */
  private void tree(Random random) throws Exception {
    as(
        Smbd.ADMIN,
        share -> {
          set(share, "", "D:(A;OICI;FA;;;" + smbd.sid(Smbd.ADMIN) + ")(A;OICI;0x1200a9;;;WD)");
          for (String path : FOLDERS) {
            String name = path.replace('/', '\\');
            share.mkdir(name);
            StringBuilder more = new StringBuilder();
            for (String account : Smbd.ACCOUNTS) {
              if (random.nextInt(3) > 0) {
                String flags = List.of("", "OICI", "CI", "OICIIO").get(random.nextInt(4));
                String mask =
                    List.of("0x1301bf", "0x1200a9", "0x2", "0x20000").get(random.nextInt(4));
                String type = random.nextInt(5) == 0 ? "D" : "A";
                more.append(
                    "(" + type + ";" + flags + ";" + mask + ";;;" + smbd.sid(account) + ")");
              }
            }
            String now = list(share, name);
            String own =
                now.substring(0, now.indexOf('(')) + more + now.substring(now.indexOf('('));
            boolean isProtected = random.nextInt(4) == 0;
            set(
                share,
                name,
                isProtected ? own.replace("ID;", ";").replaceFirst("D:[A-Z]*", "D:P") : own);
            try (var file =
                share.openFile(
                    name + "\\leaf",
                    EnumSet.of(AccessMask.GENERIC_WRITE),
                    null,
                    SMB2ShareAccess.ALL,
                    SMB2CreateDisposition.FILE_CREATE,
                    null)) {
              file.write(new byte[] {1}, 0);
            }
          }
        });
  }

  private static String list(DiskShare share, String path) throws Exception {
    SMBBuffer bytes = new SMBBuffer();
    share
        .getSecurityInfo(path, EnumSet.of(SecurityInformation.DACL_SECURITY_INFORMATION))
        .write(bytes);
    return Sddl.text(DescriptorCodec.read(bytes.getCompactData()));
  }

  private String collect() throws IOException {
    Path target = folder.resolve("field.jsonl");
    new SharesCollecting()
        .collect(
            new Collecting.Request(
                smbd.address(),
                target,
                Optional.of(Smbd.ADMIN),
                Optional.of(new Secret.File(secret)),
                false,
                Optional.empty()));
    return Files.readString(target);
  }

  /** The list of the share itself. */
  private String ofShare() throws IOException, InterruptedException {
    String conf = "--configfile=" + smbd.configuration();
    String said = Slapd.run(List.of("sharesec", conf, "--viewsddl", Smbd.SHARE));
    return said.lines()
        .filter(line -> line.startsWith("D:"))
        .findFirst()
        .orElseThrow(() -> new IOException(said));
  }

  private Organization read() throws IOException, InterruptedException {
    collect();
    StringBuilder ldif = new StringBuilder();
    for (String account : Smbd.ACCOUNTS) {
      ldif.append("dn: cn=" + account + ",dc=x\nobjectClass: user\nsAMAccountName: " + account);
      ldif.append("\nobjectSid: " + smbd.sid(account) + "\n\n");
    }
    Files.writeString(folder.resolve("desks.ldif"), ldif);
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  desks: {kind: ad, file: desks.ldif}\napplications: [s.yaml]\n");
    Files.writeString(
        folder.resolve("s.yaml"),
        "kind: shared-files\nid: s\nlists: field.jsonl\nshares:\n"
            + "  - {name: field, path: /, list: \""
            + ofShare()
            + "\"}\n");
    return Organization.open(folder);
  }

  private TargetKind.Door door(String target, String where) {
    return new TargetKind.Door(
        target,
        where,
        Optional.of(Smbd.ADMIN),
        Optional.of(new Secret.File(secret)),
        false,
        Optional.empty());
  }

  /** What the server lets every account do, in the order of our own answers. */
  private List<String> served(Organization now) throws Exception {
    List<String> all = new ArrayList<>();
    for (String account : Smbd.ACCOUNTS) {
      as(
          account,
          share -> {
            for (String path : paths(now)) {
              for (Map.Entry<String, Integer> right : new TreeMap<>(MASKS).entrySet()) {
                all.add(
                    account + " " + right.getKey() + " " + path + " " + may(share, path, right));
              }
            }
          });
    }
    return all;
  }

  private static boolean may(DiskShare share, String path, Map.Entry<String, Integer> right) {
    Set<AccessMask> mask =
        EnumSet.of(
            right.getValue() == 1
                ? AccessMask.FILE_READ_DATA
                : right.getValue() == 2 ? AccessMask.FILE_WRITE_DATA : AccessMask.READ_CONTROL);
    String name = path.equals("/") ? "" : path.substring(1).replace('/', '\\');
    try {
      share
          .open(name, mask, null, SMB2ShareAccess.ALL, SMB2CreateDisposition.FILE_OPEN, null)
          .close();
      return true;
    } catch (SMBApiException e) {
      assertThat(e.getStatus()).as(path).isEqualTo(NtStatus.STATUS_ACCESS_DENIED);
      return false;
    }
  }

  private static List<String> paths(Organization of) {
    SystemView view = of.model().system("s").orElseThrow();
    List<String> paths = new ArrayList<>();
    for (int r = 0; r < view.resources().size(); r++) {
      paths.add(view.resources().id(r));
    }
    return paths;
  }

  private static int account(AccessModel model, String login) {
    int account = 0;
    while (!model.facts().login(account).equals(login)) {
      account++;
    }
    return account;
  }

  private static List<String> decided(AccessModel model) {
    List<String> all = new ArrayList<>();
    SystemView view = model.system("s").orElseThrow();
    for (String account : Smbd.ACCOUNTS) {
      int number = account(model, account);
      for (int r = 0; r < view.resources().size(); r++) {
        for (String right : new TreeMap<>(MASKS).keySet()) {
          Question question = Question.of(r, view.rights().find(right).orElseThrow());
          boolean yes = model.asker().decide(view, number, question) == Verdict.YES;
          all.add(account + " " + right + " " + view.resources().id(r) + " " + yes);
        }
      }
    }
    return all;
  }

  /** Entries that go, and rights that are given, with what is handed on below. */
  private static Proposal random(Organization before, Random random, UnaryOperator<String> sid) {
    AccessModel model = before.assessment().model();
    SystemView view = before.model().system("s").orElseThrow();
    List<Change> changes = new ArrayList<>();
    for (int g = 0; g < view.grants().size(); g++) {
      boolean named = view.system().entry(g).isPresent();
      if (named && random.nextInt(5) == 0 && view.system().isRemovable(g, view.basis())) {
        changes.add(new Change.AssignmentRemoved(view.number(), g));
      }
    }
    List<Step> steps = new ArrayList<>(Proposal.of("", model, changes).steps());
    for (int i = 0; i < 2; i++) {
      String account = Smbd.ACCOUNTS.get(random.nextInt(Smbd.ACCOUNTS.size()));
      int resource = random.nextInt(view.resources().size());
      ListWish wish =
          new ListWish(
              before.names().account(account),
              resource,
              List.of(view.rights().find(random.nextBoolean() ? "read" : "change").orElseThrow()),
              true);
      for (ListWish.Edit edit : view.system().giving(wish)) {
        steps.add(
            new Step.ListItem(
                "s", view.resources().id(edit.resource()), edit.text(), edit.added()));
      }
    }
    String some = Smbd.ACCOUNTS.get(random.nextInt(Smbd.ACCOUNTS.size()));
    String entry = "share field (D;;0x2;;;" + sid.apply(some) + ")";
    steps.add(new Step.ListItem("s", "/", entry, true));
    return new Proposal("", steps.stream().distinct().toList());
  }

  /** Lists of paths over the wire, those of shares on the server itself. */
  private void carried(Amended made, boolean undo) {
    for (Amendment.Target target : made.folder().amendment().targets()) {
      boolean ofShares = target.kind().equals("share-lists");
      String where = ofShares ? smbd.configuration().toString() : smbd.address();
      Amended one = new Amended(made.folder(), door(target.name(), where), "");
      Work work = undo ? one.undo(target.name()) : one.carryOut(target.name());
      assertThat(work.isWhole()).as(work.failed() + work.stopped()).isTrue();
      shares += ofShares ? 1 : 0;
    }
  }

  @Test
  void listsAreChangedAndPutBackAndTheServerAgrees() throws Exception {
    Random random = new Random(17);
    tree(random);
    int moved = 0;
    int records = 0;
    for (int round = 0; round < 6; round++) {
      Organization before = read();
      String all = collect();
      String share = ofShare();
      assertThat(decided(before.model())).isEqualTo(served(before));
      Proposal proposal = random(before, random, smbd::sid);
      List<Change> changes = proposal.on(before.assessment().model()).changes();
      Path at = folder.resolve("a" + round);
      Amended made = Amended.of(before, proposal, at, door("s", smbd.address()), "");
      records += made.records().size();
      carried(made, false);
      Organization after = read();
      assertThat(decided(after.model())).isEqualTo(served(after));
      assertThat(decided(after.model())).isEqualTo(decided(before.model().with(changes)));
      moved += decided(after.model()).equals(decided(before.model())) ? 0 : 1;
      carried(made, true);
      assertThat(collect()).isEqualTo(all);
      assertThat(ofShare()).isEqualTo(share);
    }
    assertThat(moved).as("rounds in which something was decided otherwise").isGreaterThan(3);
    assertThat(records).as("lists set").isGreaterThan(30);
    assertThat(shares).as("lists of shares set").isGreaterThan(1);
  }

  @Test
  void killedAtAnyPointItGoesOn() throws Exception {
    Random random = new Random(23);
    tree(random);
    int killed = 0;
    for (int round = 0; killed < Amended.KILLS; round++) {
      Organization before = read();
      String all = collect();
      Proposal proposal = random(before, random, smbd::sid);
      List<Step> ofPaths =
          proposal.steps().stream()
              .filter(step -> !step.toString().contains("share field"))
              .filter(step -> !(step instanceof Step.Entry))
              .toList();
      Proposal some = new Proposal("", ofPaths);
      List<Change> changes = some.on(before.assessment().model()).changes();
      TargetKind.Door door =
          new TargetKind.Door(
              "s",
              smbd.address(),
              Optional.of(Smbd.ADMIN),
              Optional.of(new Secret.Environment("PASSWORD")),
              true,
              Optional.empty());
      Amended made = Amended.of(before, some, folder.resolve("k" + round), door, Smbd.PASSWORD);
      killed += made.killed(false, random);
      assertThat(decided(read().model())).isEqualTo(decided(before.model().with(changes)));
      killed += made.killed(true, random);
      assertThat(collect()).isEqualTo(all);
    }
    System.out.println("A share: killed " + killed + " times.");
  }

  @Test
  void aListThatSomebodyElseChangedIsLeftAlone() throws Exception {
    tree(new Random(4));
    Organization before = read();
    ListWish wish =
        new ListWish(
            before.names().account("daemon"),
            before.model().system("s").orElseThrow().resources().find("/press").orElseThrow(),
            List.of(0),
            true);
    List<Step> steps = new ArrayList<>();
    for (ListWish.Edit edit : before.model().system("s").orElseThrow().system().giving(wish)) {
      steps.add(new Step.ListItem("s", "/press", edit.text(), true));
    }
    Amended made =
        Amended.of(
            before, new Proposal("", steps), folder.resolve("a"), door("s", smbd.address()), "");
    as(Smbd.ADMIN, share -> set(share, "press", "D:P(A;;FA;;;" + smbd.sid("games") + ")"));
    String changed = collect();
    assertThat(made.carryOut().failed().get(0).why())
        .startsWith("its list is O:" + smbd.sid(Smbd.ADMIN))
        .endsWith("D:P(A;;0x1f01ff;;;" + smbd.sid("games") + ")");
    assertThat(collect()).isEqualTo(changed);
  }

  @Test
  void whoIsNotKnownOrMistypedIsTold() throws Exception {
    TargetKind.Door stranger =
        new TargetKind.Door(
            "s",
            smbd.address(),
            Optional.of("nobody-here"),
            Optional.of(new Secret.File(secret)),
            false,
            Optional.empty());
    TargetKind kind = TargetKinds.of("shared-files").orElseThrow();
    assertThatThrownBy(() -> kind.open(stranger, Secret.Origins.PROCESS))
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("the name or the password is wrong for nobody-here");
    for (String where :
        List.of("smb://127.0.0.1", "smb://root:x@127.0.0.1/field", "//127.0.0.1/field")) {
      assertThatThrownBy(() -> kind.open(door("s", where), Secret.Origins.PROCESS))
          .isInstanceOf(Collecting.Mistyped.class)
          .hasMessageContaining("expected smb://HOST/SHARE");
    }
    String none = "smb://127.0.0.1:" + Slapd.freePort() + "/field";
    assertThatThrownBy(() -> kind.open(door("s", none), Secret.Origins.PROCESS))
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("is not reached");
    String absent = smbd.address() + "x";
    assertThatThrownBy(() -> kind.open(door("s", absent), Secret.Origins.PROCESS))
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("there is no share fieldx");
    try (LiveTarget open = kind.open(door("s", smbd.address()), Secret.Origins.PROCESS)) {
      assertThat(open.identity()).isEqualTo(Smbd.ADMIN);
      assertThat(open.reached()).endsWith(", SMB 3.1.1, encrypted");
    }
  }
}
