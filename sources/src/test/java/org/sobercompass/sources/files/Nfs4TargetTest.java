package org.sobercompass.sources.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.google.common.jimfs.Configuration;
import com.google.common.jimfs.Jimfs;
import java.io.IOException;
import java.nio.file.FileSystem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.AclEntry;
import java.nio.file.attribute.AclEntryPermission;
import java.nio.file.attribute.AclEntryType;
import java.nio.file.attribute.AclFileAttributeView;
import java.nio.file.attribute.PosixFileAttributeView;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Carrying;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.amendment.Work;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Question;
import org.sobercompass.organization.Organization;

/** NFSv4 lists are changed through Java's file API, on a file system that has them in memory. */
class Nfs4TargetTest {
  private static final List<String> PATHS =
      List.of("/lab", "/lab/soil", "/lab/soil/probe", "/lab/a b", "/lab/a b/leaf");
  private static final List<String> WHO =
      List.of("OWNER@", "GROUP@", "EVERYONE@", "ann@x", "bo@x", "g:crew@x");

  @TempDir private Path folder;
  private final FileSystem files =
      Jimfs.newFileSystem(
          Configuration.unix().toBuilder()
              .setAttributeViews("basic", "owner", "posix", "unix", "acl")
              .build());
  private final Path root = files.getPath("/srv");

  @BeforeEach
  void paths() throws IOException {
    Files.createDirectories(root);
    for (String path : PATHS) {
      Path made = root.resolve(path.substring(1));
      if (path.endsWith("probe") || path.endsWith("leaf")) {
        Files.createFile(made);
      } else {
        Files.createDirectory(made);
      }
      var names = files.getUserPrincipalLookupService();
      Files.getFileAttributeView(made, AclFileAttributeView.class)
          .setOwner(names.lookupPrincipalByName("ann"));
      Files.getFileAttributeView(made, PosixFileAttributeView.class)
          .setGroup(names.lookupPrincipalByGroupName("crew"));
    }
  }

  @AfterEach
  void end() throws IOException {
    files.close();
  }

  private static AclFileAttributeView view(Path path) {
    return Files.getFileAttributeView(path, AclFileAttributeView.class);
  }

  private void random(Random random) throws IOException {
    for (String path : PATHS) {
      List<AclEntry> entries = new ArrayList<>();
      for (int i = 0; i < 5; i++) {
        String who = WHO.get(random.nextInt(WHO.size()));
        var names = files.getUserPrincipalLookupService();
        AclEntry.Builder entry =
            AclEntry.newBuilder()
                .setType(random.nextInt(4) == 0 ? AclEntryType.DENY : AclEntryType.ALLOW)
                .setPrincipal(
                    who.startsWith("g:")
                        ? names.lookupPrincipalByGroupName(who.substring(2))
                        : names.lookupPrincipalByName(who));
        List<AclEntryPermission> some = new ArrayList<>();
        for (AclEntryPermission one : AclEntryPermission.values()) {
          if (random.nextBoolean()) {
            some.add(one);
          }
        }
        entries.add(entry.setPermissions(some.toArray(AclEntryPermission[]::new)).build());
      }
      view(root.resolve(path.substring(1))).setAcl(entries);
    }
  }

  /** All lists, as a tool of a host would write them. */
  private String lists() throws IOException {
    StringBuilder text = new StringBuilder();
    for (String path : PATHS) {
      Path one = root.resolve(path.substring(1));
      text.append("# file: " + path.replace(" ", "\\040") + "\n# owner: ");
      text.append(view(one).getOwner().getName() + "\n# group: ");
      text.append(Files.getAttribute(one, "posix:group") + "\n");
      text.append(Files.isDirectory(one) ? "# folder\n" : "");
      for (AclEntry entry : view(one).getAcl()) {
        text.append(Nfs4Target.text(entry)).append("\n");
      }
      text.append("\n");
    }
    return text.toString();
  }

  private Organization read() throws IOException {
    Files.writeString(folder.resolve("lists.nfs4"), lists());
    Files.writeString(
        folder.resolve("host.getent"),
        "root:x:0:0::/:/\nann:x:1:1::/:/\nbo:x:2:1::/:/\ncy:x:3:1::/:/\nroot:x:0:\ncrew:x:1:cy\n");
    Files.writeString(
        folder.resolve("compass.yaml"),
        "directories:\n  host: {kind: host, file: host.getent}\napplications: [s.yaml]\n");
    Files.writeString(
        folder.resolve("s.yaml"), "kind: nfs4-files\nid: s\nlists: lists.nfs4\nabove: open\n");
    return Organization.open(folder);
  }

  private static List<String> decided(AccessModel model) {
    SystemView view = model.system("s").orElseThrow();
    List<String> all = new ArrayList<>();
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (int r = 0; r < view.resources().size(); r++) {
        for (int right = 0; right < view.rights().size(); right++) {
          all.add(
              model.facts().login(account)
                  + view.resources().id(r)
                  + view.rights().text(right)
                  + model.asker().decide(view, account, Question.of(r, right)));
        }
      }
    }
    return all;
  }

  private static Proposal proposal(Organization before, Random random) {
    SystemView view = before.model().system("s").orElseThrow();
    List<Change> changes = new ArrayList<>();
    for (int g = 0; g < view.grants().size(); g++) {
      boolean some = view.system().entry(g).isPresent() && random.nextInt(5) == 0;
      if (some && view.grants().get(g).subject() >= 0) {
        changes.add(new Change.AssignmentRemoved(view.number(), g));
      }
    }
    List<Step> steps =
        new ArrayList<>(Proposal.of("", before.assessment().model(), changes).steps());
    ListWish wish =
        new ListWish(
            before.names().account("bo"),
            view.resources().find("/lab/soil").orElseThrow(),
            List.of(random.nextInt(3)),
            true);
    for (ListWish.Edit edit : view.system().giving(wish)) {
      String at = view.resources().id(edit.resource());
      steps.add(new Step.ListItem("s", at, edit.text(), edit.added()));
    }
    steps.add(new Step.ListItem("s", "/lab", "owner:ann", false));
    steps.add(new Step.ListItem("s", "/lab", "owner:bo", true));
    return new Proposal("", steps);
  }

  private Work carried(Amendment amendment, Journal journal, boolean undo) {
    try (Nfs4Target target = Nfs4Target.open(root)) {
      Carrying carrying = new Carrying(target, journal, Clock.systemUTC(), false, done -> {});
      List<AmendmentRecord> records = amendment.records();
      return undo ? carrying.undo(records) : carrying.carryOut(records);
    }
  }

  private static Journal journal() {
    return new Journal(
        List.of(),
        new Journal.Keeping() {
          @Override
          public void keep(List<Journal.Line> lines) {
            // What a process would find after its end is not asked here.
          }

          @Override
          public void force() {
            // The same.
          }
        });
  }

  @Test
  void listsAreChangedAndPutBack() throws IOException {
    int others = 0;
    for (int seed = 0; seed < 40; seed++) {
      Random random = new Random(seed);
      random(random);
      String all = lists();
      Organization before = read();
      Proposal proposal = proposal(before, random);
      List<Change> changes = proposal.on(before.assessment().model()).changes();
      Amendment amendment = before.amendment(proposal, change -> "a change", Map.of());
      assertThat(amendment.byHand()).isEmpty();
      Journal journal = journal();
      Work work = carried(amendment, journal, false);
      assertThat(work.isWhole()).as(seed + ": " + work.failed()).isTrue();
      Organization after = read();
      assertThat(decided(after.model())).isEqualTo(decided(before.model().with(changes)));
      others += decided(after.model()).equals(decided(before.model())) ? 0 : 1;
      assertThat(carried(amendment, journal, true).isWhole()).isTrue();
      assertThat(lists()).isEqualTo(all);
    }
    assertThat(others).isGreaterThan(20);
  }

  @Test
  void aListThatSomebodyElseChangedIsLeftAlone() throws IOException {
    random(new Random(1));
    Organization before = read();
    Proposal proposal =
        new Proposal("", List.of(new Step.ListItem("s", "/lab", "A::bo@x:rx", true)));
    Amendment amendment = before.amendment(proposal, change -> "a change", Map.of());
    view(root.resolve("lab")).setAcl(List.of());
    Work work = carried(amendment, journal(), false);
    assertThat(work.failed().get(0).why()).startsWith("its list is");
    assertThat(view(root.resolve("lab")).getAcl()).isEmpty();
  }

  @Test
  void whereJavaHasNoSuchListsItIsTold() {
    try (FileSystem plain = Jimfs.newFileSystem(Configuration.unix())) {
      assertThatThrownBy(() -> Nfs4Target.open(plain.getPath("/")))
          .isInstanceOf(OutsideException.class)
          .hasMessageContaining("Java's file API has no NFSv4 lists");
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }
}
