package org.sobercompass.sources.live;

import static org.assertj.core.api.Assertions.assertThat;

import com.unboundid.ldap.listener.InMemoryDirectoryServer;
import com.unboundid.ldap.listener.InMemoryDirectoryServerConfig;
import com.unboundid.ldap.listener.InMemoryListenerConfig;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldif.LDIFException;
import java.net.InetAddress;
import java.net.URI;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.sobercompass.sources.Secret;

/** What is proposed fits what is there, and says how much it brings in. */
class ProbeTest {
  private InMemoryDirectoryServer server;

  @BeforeEach
  void start() throws LDAPException, LDIFException {
    InMemoryDirectoryServerConfig config = new InMemoryDirectoryServerConfig("dc=x");
    config.setSchema(null);
    config.setListenerConfigs(
        InMemoryListenerConfig.createLDAPConfig(
            "plain", InetAddress.getLoopbackAddress(), 0, null));
    server = new InMemoryDirectoryServer(config);
    server.add("dn: dc=x", "objectClass: domain", "dc: x");
    server.startListening();
  }

  @AfterEach
  void stop() {
    server.shutDown(true);
  }

  private void unit(String dn) throws LDAPException, LDIFException {
    server.add("dn: " + dn, "objectClass: organizationalUnit");
  }

  private void person(String name, String base, String... more)
      throws LDAPException, LDIFException {
    String[] lines = new String[3 + more.length];
    lines[0] = "dn: uid=" + name + "," + base;
    lines[1] = "objectClass: inetOrgPerson";
    lines[2] = "uid: " + name;
    System.arraycopy(more, 0, lines, 3, more.length);
    server.add(lines);
  }

  private SettingsProposal propose() {
    LdapAccess access =
        AccessSettings.of("main", URI.create("ldap://127.0.0.1:" + server.getListenPort()), true)
            .with(
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                List.of(),
                3,
                Duration.ofSeconds(5));
    try (LdapSession session = LdapSession.open(access, Secret.Origins.PROCESS)) {
      return new Probe(session).propose();
    }
  }

  private static SettingsProposal.Setting setting(SettingsProposal proposal, String name) {
    return proposal.setting(name).orElseThrow();
  }

  @Test
  void anEmptyDirectoryProposesNothingAndSaysSo() {
    SettingsProposal proposal = propose();
    assertThat(proposal.accounts().accounts()).isZero();
    assertThat(proposal.bases().accounts()).isEmpty();
    assertThat(setting(proposal, "login name").value()).isEmpty();
    assertThat(setting(proposal, "account filter").value()).isEmpty();
    assertThat(proposal.all()).isTrue();
  }

  @Test
  void basesGoAsDeepAsTheAccountsStandTogether() throws LDAPException, LDIFException {
    unit("ou=org,dc=x");
    unit("ou=people,ou=org,dc=x");
    unit("ou=vault,ou=people,ou=org,dc=x");
    unit("ou=glass,ou=people,ou=org,dc=x");
    person("a", "ou=vault,ou=people,ou=org,dc=x");
    assertThat(propose().bases().accounts()).containsExactly("ou=vault,ou=people,ou=org,dc=x");
    person("b", "ou=glass,ou=people,ou=org,dc=x");
    assertThat(propose().bases().accounts())
        .containsExactly("ou=glass,ou=people,ou=org,dc=x", "ou=vault,ou=people,ou=org,dc=x");
    person("c", "ou=people,ou=org,dc=x");
    assertThat(propose().bases().accounts()).containsExactly("ou=people,ou=org,dc=x");
  }

  @Test
  void manyBranchesAreOneBaseAboveThem() throws LDAPException, LDIFException {
    for (int i = 0; i < 5; i++) {
      unit("ou=site" + i + ",dc=x");
      person("p" + i, "ou=site" + i + ",dc=x");
    }
    assertThat(propose().bases().accounts()).containsExactly("dc=x");
  }

  @Test
  void aLoginNameThatIsNotUniqueGivesWayToOneThatIs() throws LDAPException, LDIFException {
    unit("ou=a,dc=x");
    unit("ou=b,dc=x");
    person("same", "ou=a,dc=x", "mail: one@x.example");
    person("same", "ou=b,dc=x", "mail: two@x.example");
    SettingsProposal.Setting login = setting(propose(), "login name");
    assertThat(login.value()).isEqualTo("mail");
    assertThat(login.unique()).isTrue();
    assertThat(login.others()).containsExactly("uid (2 of 2)");
  }

  @Test
  void accountsOfRfc2307AloneAreThePosixKind() throws LDAPException, LDIFException {
    server.add("dn: uid=a,dc=x", "objectClass: account", "objectClass: posixAccount", "uid: a");
    server.add("dn: cn=g,dc=x", "objectClass: posixGroup", "cn: g", "memberUid: a");
    SettingsProposal proposal = propose();
    assertThat(proposal.kind()).isEqualTo("posix");
    assertThat(setting(proposal, "members").value()).isEqualTo("memberUid");
    assertThat(setting(proposal, "members").example()).isEqualTo("a");
    person("b", "dc=x");
    assertThat(propose().kind()).isEqualTo("standard");
  }

  @Test
  void theFilterBringsInAllWithTheFewestClasses() throws LDAPException, LDIFException {
    person("a", "dc=x");
    person("b", "dc=x");
    server.add("dn: uid=c,dc=x", "objectClass: account", "uid: c");
    assertThat(setting(propose(), "account filter").value())
        .isEqualTo("(|(objectClass=inetOrgPerson)(objectClass=account))");
    server.delete("uid=c,dc=x");
    assertThat(setting(propose(), "account filter").value())
        .isEqualTo("(objectClass=inetOrgPerson)");
  }

  @Test
  void hostsAreNoAccountsAndEveryPageIsRead() throws LDAPException, LDIFException {
    for (int i = 0; i < 10; i++) {
      person("p" + i, "dc=x");
    }
    server.add("dn: cn=pc,dc=x", "objectClass: device", "objectClass: person", "cn: pc");
    SettingsProposal proposal = propose();
    assertThat(proposal.root().pages()).isTrue();
    assertThat(proposal.looked()).isEqualTo(12);
    assertThat(proposal.accounts()).isEqualTo(new SettingsProposal.Counts(10, 0, 1, 1));
  }
}
