package org.sobercompass.sources.real;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.ManageDsaITRequestControl;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Workspace;

/** A real slapd decides: what we read and compute is what the server itself says. */
class SlapdTest {
  private static final Secret.Origins ORIGINS =
      new Secret.Origins(name -> Optional.of(Slapd.PASSWORD), question -> Optional.empty());

  @TempDir static Path folder;
  private static Slapd slapd;
  private static Path workspace;
  private static LDAPConnection connection;

  @BeforeAll
  static void start() throws IOException, LDAPException {
    assumeTrue(Slapd.isThere(), "no slapd here: scripts/install-servers installs it");
    Path ldif = folder.resolve("tree.ldif");
    Files.writeString(ldif, RealTree.ldif(7));
    slapd = Slapd.start(Files.createDirectory(folder.resolve("slapd")), ldif);
    workspace = Files.createDirectory(folder.resolve("live"));
    Files.writeString(
        workspace.resolve("compass.yaml"),
        "directories:\n  main:\n    address: "
            + slapd.address()
            + "\n    plain: yes\n    bind: \""
            + Slapd.ROOT_DN
            + "\"\n    password: {env: PASSWORD}\n    page: 37\n");
    new Surveyor(ORIGINS, Clock.systemUTC(), (source, count) -> {})
        .take(workspace, List.of(), Optional.empty());
    connection = new LDAPConnection("127.0.0.1", slapd.port(), Slapd.ROOT_DN, Slapd.PASSWORD);
  }

  @AfterAll
  static void stop() {
    if (slapd != null) {
      connection.close();
      slapd.close();
    }
  }

  private static Set<String> groupsOf(Facts facts, int subject, Set<Via> counted) {
    Set<String> groups = new TreeSet<>();
    var up = facts.arrays().up();
    for (int at = up.start(subject); at < up.end(subject); at++) {
      if (counted.contains(Via.of(facts.arrays().upVia()[at]))) {
        groups.add(facts.arrays().dnForm().get(up.at(at)));
      }
    }
    return groups;
  }

  private static Set<String> forms(String[] dns) {
    Set<String> forms = new TreeSet<>();
    for (String dn : dns == null ? new String[0] : dns) {
      forms.add(DnForm.of(dn));
    }
    return forms;
  }

  @Test
  void listedGroupsAreTheServersOwnMemberOf() throws LDAPException {
    Facts facts = Workspace.open(workspace).facts();
    assertThat(facts.accounts()).isGreaterThanOrEqualTo(RealTree.ACCOUNTS);
    int compared = 0;
    int pairs = 0;
    for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
      SearchResultEntry entry = connection.getEntry(facts.dn(subject), "memberOf");
      Set<String> theirs = forms(entry.getAttributeValues("memberOf"));
      assertThat(groupsOf(facts, subject, Set.of(Via.MEMBER)))
          .as(facts.dn(subject))
          .isEqualTo(theirs);
      compared++;
      pairs += theirs.size();
    }
    assertThat(compared).isGreaterThan(RealTree.ACCOUNTS + RealTree.GROUPS);
    assertThat(pairs).isGreaterThan(300);
  }

  @ParameterizedTest
  @ValueSource(strings = {"keepers", "vault-or-new", "office-only", "mail-of-seed"})
  void groupsByRuleHaveTheMembersThatTheServerExpands(String name) throws LDAPException {
    Facts facts = Workspace.open(workspace).facts();
    String dn = "cn=" + name + ",ou=groups," + Slapd.SUFFIX;
    Set<String> theirs = forms(connection.getEntry(dn, "member").getAttributeValues("member"));
    Set<String> ours = new TreeSet<>();
    for (int subject = 0; subject < facts.firstGroup(); subject++) {
      if (groupsOf(facts, subject, Set.of(Via.DYNAMIC)).contains(dn.toLowerCase())) {
        ours.add(facts.arrays().dnForm().get(subject));
      }
    }
    assertThat(theirs).isNotEmpty();
    assertThat(ours).isEqualTo(theirs);
  }

  @ParameterizedTest
  @CsvFileSource(resources = "filters.csv", delimiter = ';', quoteCharacter = '`')
  void filtersFitTheSameEntriesAsTheServerSays(String filter) throws Exception {
    Set<String> theirs = new TreeSet<>();
    SearchRequest request = new SearchRequest(Slapd.SUFFIX, SearchScope.SUB, filter, "1.1");
    request.addControl(new ManageDsaITRequestControl(true));
    connection
        .search(request)
        .getSearchEntries()
        .forEach(entry -> theirs.add(DnForm.of(entry.getDN())));
    var parsed = FilterParser.parse(filter);
    Set<String> needs = new TreeSet<>();
    parsed.collectAttributes(needs);
    Facts facts = Workspace.open(workspace, needs).facts();
    Set<String> ours = new TreeSet<>();
    for (int subject = 0; subject < facts.subjects(); subject++) {
      boolean implicit = facts.dn(subject).isEmpty();
      if (!implicit && parsed.test(new Visibility.SubjectValues(facts, subject)) == Truth.TRUE) {
        ours.add(facts.arrays().dnForm().get(subject));
      }
    }
    assertThat(ours).isEqualTo(theirs);
  }

  /** All that facts say, by name, so that two ways of reading can be compared. */
  private static Map<String, String> told(Facts facts) {
    Map<String, String> all = new TreeMap<>();
    for (int s = 0; s < facts.subjects(); s++) {
      all.put(
          facts.key(s).text(),
          facts.dn(s)
              + " "
              + facts.login(s)
              + " "
              + facts.label(s)
              + " "
              + groupsOf(facts, s, Set.of(Via.values()))
              + " "
              + facts.container(s));
    }
    facts.arrays().dangling().forEach(d -> all.put("dangling " + all.size(), d.toString()));
    return all;
  }

  @Test
  void anExportOfTheServerGivesTheSameFactsAsReadingIt(@TempDir Path other) throws Exception {
    String conf = folder.resolve("slapd").resolve("slapd.conf").toString();
    Path export = other.resolve("export.ldif");
    Slapd.run(List.of("/usr/sbin/slapcat", "-f", conf, "-l", export.toString()));
    Files.writeString(other.resolve("compass.yaml"), "directories: {main: {file: export.ldif}}\n");
    assertThat(told(Workspace.open(workspace).facts()))
        .hasSizeGreaterThan(RealTree.ACCOUNTS)
        .isEqualTo(told(Workspace.open(other).facts()));
  }

  @Test
  void noSecretIsInTheSurvey() throws IOException {
    Workspace.open(workspace);
    List<Path> ldif = new ArrayList<>();
    try (var files = Files.walk(workspace.resolve("surveys"))) {
      files.filter(f -> f.toString().contains("parts/main.ldif")).forEach(ldif::add);
    }
    assertThat(ldif).isNotEmpty();
    for (Path file : ldif) {
      assertThat(Files.readString(file).toLowerCase())
          .contains("dn: " + Slapd.READER.toLowerCase())
          .doesNotContain("userpassword");
    }
  }
}
