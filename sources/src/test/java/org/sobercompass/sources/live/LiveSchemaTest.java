package org.sobercompass.sources.live;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.listener.InMemoryDirectoryServer;
import com.unboundid.ldap.listener.InMemoryDirectoryServerConfig;
import com.unboundid.ldap.listener.InMemoryListenerConfig;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedSearchEntry;
import com.unboundid.ldap.listener.interceptor.InMemoryOperationInterceptor;
import com.unboundid.ldap.sdk.Entry;
import java.net.InetAddress;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.workspace.Surveyor;
import org.sobercompass.sources.workspace.Workspace;

/** A live directory is asked for its schema; what it must have shown and did not is counted. */
class LiveSchemaTest {
  @TempDir Path root;
  private InMemoryDirectoryServer server;
  private String hidden = "";

  @BeforeEach
  void start() throws Exception {
    InMemoryDirectoryServerConfig config = new InMemoryDirectoryServerConfig("dc=x");
    config.setListenerConfigs(
        InMemoryListenerConfig.createLDAPConfig(
            "plain", InetAddress.getLoopbackAddress(), 0, null));
    config.addInMemoryOperationInterceptor(
        new InMemoryOperationInterceptor() {
          @Override
          public void processSearchEntry(InMemoryInterceptedSearchEntry request) {
            Entry entry = request.getSearchEntry().duplicate();
            if (entry.getDN().startsWith("uid=bo")) {
              entry.removeAttribute(hidden);
              request.setSearchEntry(entry);
            }
          }
        });
    server = new InMemoryDirectoryServer(config);
    server.add("dn: dc=x", "objectClass: top", "objectClass: domain", "dc: x");
    for (String name : List.of("ann", "bo")) {
      server.add(
          "dn: uid=" + name + ",dc=x",
          "objectClass: top",
          "objectClass: person",
          "objectClass: organizationalPerson",
          "objectClass: inetOrgPerson",
          "uid: " + name,
          "cn: " + name,
          "sn: " + name);
    }
    server.add(
        "dn: cn=crew,dc=x",
        "objectClass: top",
        "objectClass: groupOfNames",
        "cn: crew",
        "member: uid=ann,dc=x");
    server.startListening();
  }

  @AfterEach
  void stop() {
    server.shutDown(true);
  }

  private LdapAccess access() {
    return AccessSettings.of("main", URI.create("ldap://127.0.0.1:" + server.getListenPort()), true)
        .with(
            Optional.empty(),
            Optional.empty(),
            Optional.empty(),
            List.of(),
            10,
            Duration.ofSeconds(5));
  }

  private Collected collect() {
    return new Collector(access(), Secret.Origins.PROCESS, Clock.systemUTC(), count -> {})
        .into(root.resolve("entries.ldif"));
  }

  private static Completeness of(Collected collected, String attribute) {
    return collected.completeness().stream()
        .filter(c -> c.attribute().equals(attribute))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void theSchemaComesAlongAndNothingIsWithheldFromWhoMayReadAll() {
    Collected collected = collect();
    assertThat(collected.schema().orElseThrow().attributeTypes()).isGreaterThan(100);
    assertThat(collected.completeness()).allMatch(c -> c.withheld() == 0);
    assertThat(of(collected, "sn")).isEqualTo(new Completeness("main", "sn", 4, 2, 0));
  }

  @Test
  void whatTheSchemaRequiresAndAnEntryDoesNotShowIsWithheld() {
    hidden = "sn";
    assertThat(of(collect(), "sn")).isEqualTo(new Completeness("main", "sn", 4, 1, 1));
    hidden = "objectClass";
    assertThat(of(collect(), "objectclass").withheld()).isEqualTo(1);
    hidden = "description";
    assertThat(collect().completeness()).allMatch(c -> c.withheld() == 0);
  }

  @Test
  void theProbeTellsHowTheLoginNameComparesAndCountsClassesBySchema() throws Exception {
    server.add("dn: uid=cy,dc=x", "objectClass: inetOrgPerson", "uid: cy", "cn: cy", "sn: cy");
    try (LdapSession session = LdapSession.open(access(), Secret.Origins.PROCESS)) {
      SettingsProposal proposal = new Probe(session).propose();
      SettingsProposal.Setting login = proposal.setting("login name").orElseThrow();
      assertThat(proposal.matching(login).orElseThrow().syntax().ignoresCase()).isTrue();
      assertThat(proposal.accounts().accounts()).isEqualTo(3);
      assertThat(proposal.schema()).isPresent();
    }
  }

  @Test
  void answersSayWhatWasWithheldOfWhatTheyHangOn() throws Exception {
    hidden = "objectClass";
    Files.writeString(
        root.resolve("compass.yaml"),
        "directories:\n  main:\n    address: ldap://127.0.0.1:"
            + server.getListenPort()
            + "\n    plain: yes\n");
    new Surveyor(Secret.Origins.PROCESS, Clock.systemUTC(), (source, count) -> {})
        .take(root, List.of(), Optional.empty());
    Workspace workspace = Workspace.open(root, Set.of());
    assertThat(workspace.facts().accounts()).isEqualTo(1);
    assertThat(workspace.facts().arrays().completeness())
        .anyMatch(c -> c.attribute().equals("objectclass") && c.withheld() == 1);
  }
}
