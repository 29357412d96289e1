package org.sobercompass.sources.real;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.util.ssl.PEMFileTrustManager;
import com.unboundid.util.ssl.SSLUtil;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.GeneralSecurityException;
import java.util.List;
import java.util.concurrent.TimeUnit;

/**
 * A real Samba domain controller on loopback, provisioned into a folder of its own. Its ports are
 * fixed, so only one runs at a time: tests in other processes wait for their turn. Closing it ends
 * the process that was started here.
 */
public final class SambaDc implements AutoCloseable {
  public static final String SUFFIX = "DC=alderfen,DC=example";
  public static final String ADMIN = "CN=Administrator,CN=Users," + SUFFIX;
  public static final String PASSWORD = "Only4Tests.";
  private static final int LDAPS = 636;

  /** Held by the process whose turn it is. */
  private static FileChannel turn;

  private final Process process;
  private final Path ca;

  private SambaDc(Process process, Path ca) {
    this.process = process;
    this.ca = ca;
  }

  /** Why it cannot run here; empty when it can. Waits for its turn, which ends with closing. */
  public static String missing() {
    if (!Files.isExecutable(Path.of("/usr/sbin/samba"))) {
      return "no samba here: scripts/install-servers installs it";
    }
    await();
    for (int port : new int[] {389, LDAPS, 3268}) {
      try (ServerSocket socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
        socket.getLocalPort();
      } catch (IOException e) {
        pass();
        return "port " + port + " is taken or not allowed";
      }
    }
    return "";
  }

  public Path ca() {
    return ca;
  }

  /** Provisions and starts one; takes about 15 seconds. */
  public static SambaDc start(Path folder) {
    try {
      Path conf = folder.resolve("smb.conf");
      Files.writeString(conf, configuration(folder));
      for (String name :
          List.of("private/tls", "state", "cache", "lock", "pid", "ncalrpc", "binddns", "sysvol")) {
        Files.createDirectories(folder.resolve(name));
      }
      Slapd.run(
          List.of(
              "samba-tool",
              "domain",
              "provision",
              "-s",
              conf.toString(),
              "--realm=ALDERFEN.EXAMPLE",
              "--domain=ALDERFEN",
              "--server-role=dc",
              "--dns-backend=NONE",
              "--host-name=dc1",
              "--host-ip=127.0.0.1",
              "--adminpass=" + PASSWORD,
              "--domain-sid=S-1-5-21-1001-2002-3003"));
      Path tls = folder.resolve("private/tls");
      certificate(tls);
      Process process =
          new ProcessBuilder("/usr/sbin/samba", "-s", conf.toString(), "-i", "-M", "single")
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("samba.log").toFile())
              .start();
      SambaDc dc = new SambaDc(process, tls.resolve("cert.pem"));
      dc.await(folder);
      return dc;
    } catch (IOException | InterruptedException e) {
      pass();
      throw new IllegalStateException(e);
    }
  }

  private static synchronized void await() {
    try {
      if (turn == null) {
        Path lock = Path.of(System.getProperty("java.io.tmpdir"), "sober-domain-controller.lock");
        turn = FileChannel.open(lock, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        turn.lock();
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static synchronized void pass() {
    try {
      if (turn != null) {
        turn.close();
        turn = null;
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Its own certificate has no address in it, so it gets one made here. */
  private static void certificate(Path tls) throws IOException, InterruptedException {
    Slapd.run(
        List.of(
            "openssl",
            "req",
            "-x509",
            "-newkey",
            "rsa:2048",
            "-nodes",
            "-keyout",
            tls.resolve("key.pem").toString(),
            "-out",
            tls.resolve("cert.pem").toString(),
            "-days",
            "2",
            "-subj",
            "/CN=dc1.alderfen.example",
            "-addext",
            "subjectAltName=IP:127.0.0.1,DNS:dc1.alderfen.example"));
    Files.copy(tls.resolve("cert.pem"), tls.resolve("ca.pem"));
    Slapd.run(List.of("chmod", "600", tls.resolve("key.pem").toString()));
  }

  private static String configuration(Path folder) {
    String lines =
        """
        [global]
        workgroup = ALDERFEN
        realm = ALDERFEN.EXAMPLE
        netbios name = DC1
        server role = dc
        server services = ldap
        dcerpc endpoint servers =
        interfaces = 127.0.0.1/8
        bind interfaces only = yes
        ldap server require strong auth = no
        private dir = FOLDER/private
        state directory = FOLDER/state
        cache directory = FOLDER/cache
        lock directory = FOLDER/lock
        pid directory = FOLDER/pid
        ncalrpc dir = FOLDER/ncalrpc
        binddns dir = FOLDER/binddns
        winbindd socket directory = FOLDER/winbindd
        ntp signd socket directory = FOLDER/ntp
        posix:eadb = FOLDER/eadb.tdb
        [sysvol]
        path = FOLDER/sysvol
        [netlogon]
        path = FOLDER/sysvol/scripts
        """;
    return lines.replace("FOLDER", folder.toString());
  }

  private void await(Path folder) throws IOException, InterruptedException {
    for (int i = 0; i < 150; i++) {
      try {
        connect().close();
        return;
      } catch (LDAPException e) {
        if (!process.isAlive()) {
          break;
        }
        Thread.sleep(200);
      }
    }
    process.destroy();
    throw new IOException("samba did not start: " + Files.readString(folder.resolve("samba.log")));
  }

  /** A connection over TLS, as the administrator. */
  public LDAPConnection connect() throws LDAPException {
    return connect(ADMIN, PASSWORD);
  }

  /** A connection over TLS, as somebody. */
  public LDAPConnection connect(String dn, String password) throws LDAPException {
    try {
      SSLUtil ssl = new SSLUtil(new PEMFileTrustManager(ca.toFile()));
      return new LDAPConnection(ssl.createSSLSocketFactory(), "127.0.0.1", LDAPS, dn, password);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  @Override
  public void close() {
    process.destroy();
    try {
      if (!process.waitFor(10, TimeUnit.SECONDS)) {
        process.destroyForcibly().waitFor();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } finally {
      pass();
    }
  }
}
