package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.live.AccessSettings;
import org.sobercompass.sources.live.LdapSession;
import org.sobercompass.sources.live.Probe;
import org.sobercompass.sources.live.SettingsProposal;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Workspace;

/**
 * A real slapd that does not let a plain account see the members of every third group, beside what
 * the administrator sees: what was withheld is undecided, and nothing definite differs.
 */
class SlapdWithheldTest {
  private static final Secret.Origins ORIGINS =
      new Secret.Origins(name -> Optional.of(Slapd.PASSWORD), question -> Optional.empty());

  @TempDir static Path folder;
  private static Slapd slapd;
  private static int hiddenGroups;

  @BeforeAll
  static void start() throws IOException {
    assumeTrue(Slapd.isThere(), "no slapd here: scripts/install-servers installs it");
    Path ldif = folder.resolve("tree.ldif");
    Files.writeString(ldif, RealTree.ldif(11));
    StringBuilder rules = new StringBuilder();
    for (int group = 0; group < RealTree.GROUPS; group += 3) {
      rules.append("access to dn.base=\"cn=group").append(group).append(",ou=groups,");
      rules.append(Slapd.SUFFIX).append("\" attrs=member by * none\n");
      hiddenGroups++;
    }
    rules.append("access to attrs=userPassword by anonymous auth by * none\n");
    rules.append("access to * by * read");
    slapd = Slapd.start(Files.createDirectory(folder.resolve("slapd")), ldif, rules.toString());
  }

  @AfterAll
  static void stop() {
    if (slapd != null) {
      slapd.close();
    }
  }

  /** A workspace as one account reads it: group N has a role at node gN. */
  private static Workspace as(String name, String bind) throws IOException {
    Path root = Files.createDirectories(folder.resolve(name));
    StringBuilder nodes = new StringBuilder();
    StringBuilder rows = new StringBuilder("role,kind,subject,node\n");
    for (int group = 0; group < RealTree.GROUPS; group++) {
      nodes.append(group == 0 ? "" : ", ").append("g").append(group).append(": {}");
      rows.append("reader,group,group").append(group).append(",g").append(group).append('\n');
    }
    Files.writeString(
        root.resolve("app.yaml"),
        "id: app\nsight: {directory: main}\nareas: [papers]\nlevels: [read]\nnodes: {top: {"
            + nodes
            + "}}\nroles: {reader: {allows: {papers: read}}}\n"
            + "assignments: {actual: rows.csv}\n");
    Files.writeString(root.resolve("rows.csv"), rows.toString());
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories:\n  main:\n    address: "
            + slapd.address()
            + "\n    plain: yes\n    bind: \""
            + bind
            + "\"\n    password: {env: PASSWORD}\napplications: [app.yaml]\n");
    new Surveyor(ORIGINS, Clock.systemUTC(), (source, count) -> {})
        .take(root, List.of(), Optional.empty());
    return Workspace.open(root);
  }

  private static Map<String, Verdict> answers(AccessModel model) {
    Map<String, Verdict> all = new TreeMap<>();
    SystemView view = model.systems().get(0);
    Asker asker = model.asker();
    int right = view.rights().find("papers:read").orElseThrow();
    for (int account = 0; account < model.facts().accounts(); account++) {
      for (int node = 1; node < view.resources().size(); node++) {
        all.put(
            model.facts().dn(account) + " " + view.resources().id(node),
            asker.can(view, account, right, node).verdict());
      }
    }
    return all;
  }

  @Test
  void whatAPlainAccountMayNotSeeIsUndecidedAndNothingDefiniteDiffers() throws IOException {
    Map<String, Verdict> whole = answers(as("whole", Slapd.ROOT_DN).model());
    Map<String, Verdict> plain = answers(as("plain", Slapd.READER).model());
    assertThat(plain.keySet()).isEqualTo(whole.keySet());
    Map<Verdict, Integer> counts = new TreeMap<>();
    whole.forEach(
        (asked, truth) -> {
          Verdict said = plain.getOrDefault(asked, Verdict.NO);
          counts.merge(said, 1, Integer::sum);
          assertThat(said).as(asked).isIn(truth, Verdict.UNDECIDED);
        });
    assertThat(whole).doesNotContainValue(Verdict.UNDECIDED);
    assertThat(counts.keySet()).containsExactlyInAnyOrder(Verdict.values());
    assertThat(counts.getOrDefault(Verdict.UNDECIDED, 0))
        .isGreaterThanOrEqualTo(hiddenGroups * RealTree.ACCOUNTS - whole.size() / 10);
  }

  @Test
  void noFindingSaysThatNobodyIsInAGroupWhoseMembersWereWithheld() throws IOException {
    Workspace plain = as("findings", Slapd.READER);
    List<Finding> found = Findings.of(plain.assessment(plain.model()));
    assertThat(found).noneMatch(f -> Set.of("assigned-to-empty-group").contains(f.kind().id()));
  }

  private static SettingsProposal probed(String bind) {
    try (LdapSession session =
        LdapSession.open(
            AccessSettings.of("main", URI.create(slapd.address()), true)
                .with(
                    Optional.empty(),
                    Optional.of(bind),
                    Optional.of(new Secret.Environment("PASSWORD")),
                    List.of(),
                    100,
                    Duration.ofSeconds(10)),
            ORIGINS)) {
      return new Probe(session).propose();
    }
  }

  @Test
  void probeSaysOfHowManyGroupsItCouldNotSeeTheMembers() {
    assertThat(probed(Slapd.READER).hidden()).isEqualTo(hiddenGroups);
    assertThat(probed(Slapd.ROOT_DN).hidden()).isZero();
  }
}
