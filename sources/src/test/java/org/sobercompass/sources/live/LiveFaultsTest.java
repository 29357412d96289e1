package org.sobercompass.sources.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.unboundid.ldap.listener.InMemoryDirectoryServer;
import com.unboundid.ldap.listener.InMemoryDirectoryServerConfig;
import com.unboundid.ldap.listener.InMemoryListenerConfig;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedSearchEntry;
import com.unboundid.ldap.listener.interceptor.InMemoryInterceptedSearchRequest;
import com.unboundid.ldap.listener.interceptor.InMemoryOperationInterceptor;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.util.ssl.KeyStoreKeyManager;
import com.unboundid.util.ssl.SSLUtil;
import com.unboundid.util.ssl.TrustAllTrustManager;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.sources.Bounds;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.directory.Secrets;

/** What can go wrong with a directory is told with its mend, and half is never taken for all. */
class LiveFaultsTest {
  private static final String BASE = "dc=x";
  private static final String READER = "cn=reader,dc=x";
  private static final int ENTRIES = 400;

  @TempDir static Path folder;
  private static InMemoryDirectoryServer server;
  private static volatile Behaviour behaviour = Behaviour.USUAL;

  private enum Behaviour {
    USUAL,
    SLOW,
    SIZE_LIMIT,
    FORBIDDEN,
    RANGES,
    DRIPS
  }

  @TempDir Path out;

  @BeforeAll
  static void start() throws Exception {
    InMemoryDirectoryServerConfig config = new InMemoryDirectoryServerConfig(BASE);
    config.addAdditionalBindCredentials(READER, "pa55-word");
    config.setSchema(null);
    config.addInMemoryOperationInterceptor(new Misbehaving());
    SSLUtil ssl =
        new SSLUtil(
            new KeyStoreKeyManager(keyStore("long").toFile(), "secret".toCharArray()),
            new TrustAllTrustManager());
    config.setListenerConfigs(
        InMemoryListenerConfig.createLDAPConfig(
            "plain", InetAddress.getLoopbackAddress(), 0, ssl.createSSLSocketFactory()),
        InMemoryListenerConfig.createLDAPSConfig(
            "tls",
            InetAddress.getLoopbackAddress(),
            0,
            ssl.createSSLServerSocketFactory(),
            ssl.createSSLSocketFactory()));
    server = new InMemoryDirectoryServer(config);
    server.add("dn: dc=x", "objectClass: domain", "dc: x");
    for (int i = 0; i < ENTRIES; i++) {
      server.add(
          "dn: uid=u" + i + ",dc=x", "objectClass: inetOrgPerson", "uid: u" + i, "sn: s", "cn: c");
    }
    Entry group = new Entry("cn=all,dc=x", new Attribute("objectClass", "groupOfNames"));
    List<String> members = new ArrayList<>();
    for (int i = 0; i < ENTRIES; i++) {
      members.add("uid=u" + i + ",dc=x");
    }
    group.addAttribute(new Attribute("member", members));
    server.add(group);
    server.startListening();
  }

  /** A key store with a certificate for 127.0.0.1. */
  private static Path keyStore(String name, String... more) throws Exception {
    Path file = folder.resolve(name + ".p12");
    List<String> command =
        new ArrayList<>(
            List.of(
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
                "-genkeypair",
                "-keystore",
                file.toString(),
                "-storetype",
                "PKCS12",
                "-storepass",
                "secret",
                "-alias",
                "server",
                "-keyalg",
                "EC",
                "-dname",
                "CN=127.0.0.1",
                "-ext",
                "san=ip:127.0.0.1",
                "-validity",
                "2"));
    command.addAll(List.of(more));
    assertThat(new ProcessBuilder(command).inheritIO().start().waitFor()).isZero();
    return file;
  }

  @AfterAll
  static void stop() {
    server.shutDown(true);
  }

  @BeforeEach
  void behave() {
    behaviour = Behaviour.USUAL;
  }

  private static final class Misbehaving extends InMemoryOperationInterceptor {
    @Override
    public void processSearchRequest(InMemoryInterceptedSearchRequest request)
        throws LDAPException {
      if (request.getRequest().getBaseDN().isEmpty()) {
        return;
      }
      switch (behaviour) {
        case SLOW -> pause(2500);
        case SIZE_LIMIT -> throw new LDAPException(ResultCode.SIZE_LIMIT_EXCEEDED, "500");
        case FORBIDDEN -> throw new LDAPException(ResultCode.INSUFFICIENT_ACCESS_RIGHTS, "no");
        default -> {}
      }
    }

    private static void pause(long milliseconds) {
      try {
        Thread.sleep(milliseconds);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }

    /** Gives at most 150 values of member at once, as some servers do. */
    @Override
    public void processSearchEntry(InMemoryInterceptedSearchEntry entry) {
      if (behaviour == Behaviour.DRIPS) {
        pause(20);
      }
      if (behaviour != Behaviour.RANGES || !entry.getSearchEntry().getDN().startsWith("cn=all")) {
        return;
      }
      String[] all = server(entry.getSearchEntry().getDN());
      int from = 0;
      for (String asked : entry.getRequest().getAttributeList()) {
        if (asked.startsWith("member;range=")) {
          from = Integer.parseInt(asked.replaceAll("member;range=([0-9]+)-.*", "$1"));
        }
      }
      int to = Math.min(all.length, from + 150);
      Entry copy = entry.getSearchEntry().duplicate();
      copy.removeAttribute("member");
      copy.addAttribute(
          "member;range=" + from + "-" + (to == all.length ? "*" : to - 1),
          java.util.Arrays.copyOfRange(all, from, to));
      entry.setSearchEntry(new com.unboundid.ldap.sdk.SearchResultEntry(copy));
    }

    private static String[] server(String dn) {
      try {
        return LiveFaultsTest.server.getEntry(dn).getAttributeValues("member");
      } catch (LDAPException e) {
        throw new IllegalStateException(e);
      }
    }
  }

  private static LdapAccess access(LdapAccess.Tls tls, int port) {
    return new LdapAccess(
        "main",
        "127.0.0.1",
        port,
        tls,
        Optional.empty(),
        Optional.of(READER),
        Optional.of(new Secret.Environment("P")),
        List.of(BASE),
        50,
        Duration.ofSeconds(1));
  }

  private static LdapAccess plain() {
    return access(LdapAccess.Tls.PLAIN, server.getListenPort("plain"));
  }

  private Collected collect(LdapAccess access, String password) {
    return new Collector(
            access,
            new Secret.Origins(name -> Optional.of(password), question -> Optional.empty()),
            Clock.systemUTC(),
            count -> {})
        .into(out.resolve("entries.ldif"));
  }

  private void fails(LdapAccess access, String password, String... says) {
    assertThatThrownBy(() -> collect(access, password))
        .isInstanceOf(OutsideException.class)
        .message()
        .contains("main (ldap")
        .contains(says)
        .doesNotContain(password);
  }

  @Test
  void allIsRead() throws IOException {
    Collected read = collect(plain(), "pa55-word");
    assertThat(read.entries()).isEqualTo(ENTRIES + 2);
    assertThat(read.attempts()).isEqualTo(1);
    assertThat(Files.readString(out.resolve("entries.ldif"))).contains("dn: uid=u399,dc=x");
    assertThat(read.completeness())
        .anyMatch(c -> c.attribute().equals("uid") && c.returned() == ENTRIES);
  }

  @Test
  void valuesThatComeInRangesAreReadWhole() throws IOException {
    behaviour = Behaviour.RANGES;
    collect(plain(), "pa55-word");
    String ldif = Files.readString(out.resolve("entries.ldif"));
    assertThat(ldif.lines().filter(line -> line.startsWith("member: "))).hasSize(ENTRIES);
    assertThat(ldif).doesNotContain("range=");
  }

  @Test
  void aWrongPasswordAndAMissingOne() {
    fails(plain(), "not-that-one", "cannot sign in", "the name or the password is wrong", READER);
    assertThatThrownBy(
            () ->
                new Secret.Environment("NOT_SET_ANYWHERE")
                    .read(new Secret.Origins(n -> Optional.empty(), q -> Optional.empty())))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("NOT_SET_ANYWHERE");
  }

  @Test
  void nothingListensThere() throws IOException {
    int free;
    try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      free = socket.getLocalPort();
    }
    fails(access(LdapAccess.Tls.PLAIN, free), "pa55-word", "nothing listens", "port " + free);
  }

  @Test
  void tlsToAPlainPortAndPlainToATlsPort() {
    fails(
        access(LdapAccess.Tls.LDAPS, server.getListenPort("plain")),
        "pa55-word",
        "does not speak TLS from the start",
        "ldap://");
    fails(access(LdapAccess.Tls.PLAIN, server.getListenPort("tls")), "pa55-word", "cannot sign in");
  }

  @Test
  void aCertificateThatNobodyHereKnows() {
    for (LdapAccess.Tls tls : List.of(LdapAccess.Tls.LDAPS, LdapAccess.Tls.START)) {
      String listener = tls == LdapAccess.Tls.LDAPS ? "tls" : "plain";
      fails(
          access(tls, server.getListenPort(listener)),
          "pa55-word",
          "signed by nobody known here",
          "ca:");
    }
  }

  @Test
  void aCertificateThatHasExpired() throws Exception {
    InMemoryDirectoryServerConfig config = new InMemoryDirectoryServerConfig(BASE);
    SSLUtil ssl =
        new SSLUtil(
            new KeyStoreKeyManager(
                keyStore("old", "-startdate", "2020/01/01").toFile(), "secret".toCharArray()),
            new TrustAllTrustManager());
    config.setListenerConfigs(
        InMemoryListenerConfig.createLDAPSConfig(
            "tls",
            InetAddress.getLoopbackAddress(),
            0,
            ssl.createSSLServerSocketFactory(),
            ssl.createSSLSocketFactory()));
    InMemoryDirectoryServer old = new InMemoryDirectoryServer(config);
    old.startListening();
    try {
      LdapAccess a = access(LdapAccess.Tls.LDAPS, old.getListenPort());
      fails(trusting(a, a.host(), pem("old")), "pa55-word", "its certificate has expired");
    } finally {
      old.shutDown(true);
    }
  }

  private static LdapAccess trusting(LdapAccess a, String host, Path pem) {
    return new LdapAccess(
        a.name(),
        host,
        a.port(),
        a.tls(),
        Optional.of(pem),
        a.bindDn(),
        a.password(),
        a.bases(),
        a.page(),
        a.patience());
  }

  /** The certificate of a key store. */
  private static Path pem(String name) throws IOException, InterruptedException {
    Path pem = folder.resolve(name + ".pem");
    Process export =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
                "-exportcert",
                "-rfc",
                "-keystore",
                folder.resolve(name + ".p12").toString(),
                "-storepass",
                "secret",
                "-alias",
                "server")
            .redirectOutput(pem.toFile())
            .start();
    assertThat(export.waitFor()).isZero();
    return pem;
  }

  @Test
  void theSameWithItsCertificateIsTrusted() throws Exception {
    LdapAccess a = access(LdapAccess.Tls.START, server.getListenPort("plain"));
    Path pem = pem("long");
    assertThat(collect(trusting(a, a.host(), pem), "pa55-word").entries()).isEqualTo(ENTRIES + 2);
    LdapAccess otherName = trusting(a, "localhost", pem);
    fails(otherName, "pa55-word", "for another name than localhost");
  }

  @Test
  void aBaseThatIsNotThere() {
    fails(
        plain().withBases(List.of("ou=nowhere,dc=x")),
        "pa55-word",
        "read below ou=nowhere,dc=x",
        "there is no such base",
        "the nearest above is dc=x");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "SIZE_LIMIT | only a part (its size limit) | narrower bases",
        "FORBIDDEN | may not read it | the right to read",
        "SLOW | no answer came within 1 seconds | patience"
      })
  void aServerThatRefusesOrIsSlow(Behaviour how, String says, String mend) {
    behaviour = how;
    fails(plain(), "pa55-word", says, mend);
  }

  /** Each entry comes well within the patience; the whole would never end. */
  @Test
  void aDirectoryThatDripsIsGivenUpInWhole() {
    behaviour = Behaviour.DRIPS;
    givenUp(
        new Bounds(1_000_000, 1L << 30, Duration.ofMillis(500), System::nanoTime),
        "reading was given up: it took longer than");
  }

  @Test
  void aDirectoryThatGivesMoreThanIsAllowedIsGivenUp() {
    givenUp(
        new Bounds(ENTRIES / 2, 1L << 30, Duration.ofHours(1), System::nanoTime),
        "reading was given up: more than " + ENTRIES / 2 + " entries came");
    givenUp(
        new Bounds(1_000_000, 2_000, Duration.ofHours(1), System::nanoTime),
        "reading was given up: more than");
  }

  private void givenUp(Bounds bounds, String says) {
    long begin = System.nanoTime();
    assertThatThrownBy(
            () ->
                new Collector(
                        plain(),
                        new Secret.Origins(name -> Optional.of("pa55-word"), q -> Optional.empty()),
                        Clock.systemUTC(),
                        entries -> {},
                        bounds)
                    .into(out.resolve("given-up.ldif")))
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining(says)
        .hasMessageContaining("thrown away");
    assertThat(Duration.ofNanos(System.nanoTime() - begin)).isLessThan(Duration.ofSeconds(20));
  }

  @Test
  void aConnectionCutOnceIsBegunAgainAndNothingIsThereTwice() throws IOException {
    try (CuttingProxy proxy = new CuttingProxy(server.getListenPort("plain"), 20_000, 1)) {
      Collected read = collect(access(LdapAccess.Tls.PLAIN, proxy.port()), "pa55-word");
      assertThat(proxy.connections()).isEqualTo(2);
      assertThat(read.attempts()).isEqualTo(2);
      assertThat(read.entries()).isEqualTo(ENTRIES + 2);
      assertThat(read.moved()).isEmpty();
      List<String> dns =
          Files.readString(out.resolve("entries.ldif"))
              .lines()
              .filter(line -> line.startsWith("dn: "))
              .toList();
      assertThat(dns).hasSize(ENTRIES + 2).doesNotHaveDuplicates();
      assertThat(read.completeness())
          .anyMatch(c -> c.attribute().equals("uid") && c.returned() == ENTRIES);
    }
  }

  @Test
  void aConnectionCutEachTimeIsAFailure() throws IOException {
    try (CuttingProxy proxy = new CuttingProxy(server.getListenPort("plain"), 20_000, 99)) {
      fails(access(LdapAccess.Tls.PLAIN, proxy.port()), "pa55-word", "read below dc=x");
      assertThat(proxy.connections()).isEqualTo(Collector.ATTEMPTS);
    }
  }

  /** The two names come to the same number where each letter is taken times 31. */
  @Test
  void twoNamesThatFallOnOneHashAreTwoEntries() throws Exception {
    InMemoryDirectoryServerConfig config = new InMemoryDirectoryServerConfig(BASE);
    config.addAdditionalBindCredentials(READER, "pa55-word");
    config.setSchema(null);
    config.setGenerateOperationalAttributes(false);
    config.setListenerConfigs(
        InMemoryListenerConfig.createLDAPConfig(
            "plain", InetAddress.getLoopbackAddress(), 0, null));
    InMemoryDirectoryServer bare = new InMemoryDirectoryServer(config);
    bare.add("dn: dc=x", "objectClass: domain", "dc: x");
    for (String uid : List.of("a~", "b_")) {
      bare.add("dn: uid=" + uid + ",dc=x", "objectClass: account", "uid: " + uid);
    }
    assertThat("uid=a~,dc=x").hasSameHashCodeAs("uid=b_,dc=x");
    bare.startListening();
    Collected read =
        collect(access(LdapAccess.Tls.PLAIN, bare.getListenPort("plain")), "pa55-word");
    bare.shutDown(true);
    assertThat(read.entries()).isEqualTo(3);
    assertThat(read.moved()).isEmpty();
  }

  @Test
  void whatIsSecretIsNotKept() {
    assertThat(Secrets.names())
        .containsAll(Set.of("userpassword", "unicodepwd", "krbprincipalkey"));
  }
}
