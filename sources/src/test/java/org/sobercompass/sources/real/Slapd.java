package org.sobercompass.sources.real;

import static com.unboundid.ldap.sdk.ModificationType.ADD;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFReader;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;

/**
 * A real slapd on loopback, with its data in a folder of its own, with memberOf and dynamic lists.
 * Closing it ends the process that was started here, and no other.
 */
public final class Slapd implements AutoCloseable {
  public static final String SUFFIX = "dc=alderfen,dc=example";
  public static final String ROOT_DN = "cn=root," + SUFFIX;
  public static final String PASSWORD = "only-for-tests";
  public static final String READER = "cn=reader," + SUFFIX;

  private final Process process;
  private final int port;

  private Slapd(Process process, int port) {
    this.process = process;
    this.port = port;
  }

  public static boolean isThere() {
    return Files.isExecutable(Path.of("/usr/sbin/slapd"))
        && Files.isRegularFile(Path.of("/usr/lib/ldap/memberof.la"));
  }

  public int port() {
    return port;
  }

  public String address() {
    return "ldap://127.0.0.1:" + port;
  }

  /** Starts one, filled with an LDIF, with further lines for its database. */
  public static Slapd start(Path folder, Path ldif, String... more) {
    try {
      Path data = Files.createDirectories(folder.resolve("data"));
      Path conf = folder.resolve("slapd.conf");
      Path own = Files.writeString(folder.resolve("own.schema"), RealTree.SCHEMA);
      String schema = "include /etc/ldap/schema/";
      Files.write(
          conf,
          List.of(
              schema + "core.schema",
              schema + "cosine.schema",
              schema + "inetorgperson.schema",
              schema + "nis.schema",
              schema + "dyngroup.schema",
              "include " + own,
              "modulepath /usr/lib/ldap",
              "moduleload back_mdb",
              "moduleload memberof",
              "moduleload dynlist",
              "moduleload ppolicy",
              "pidfile " + folder.resolve("slapd.pid"),
              "database mdb",
              "suffix " + SUFFIX,
              "rootdn " + ROOT_DN,
              "rootpw " + PASSWORD,
              "directory " + data,
              "maxsize 1073741824",
              "dbnosync",
              "index objectClass,entryUUID,member,uid eq",
              "sizelimit unlimited",
              String.join("\n", more),
              "overlay ppolicy",
              "overlay memberof",
              "memberof-dangling ignore",
              "overlay dynlist",
              "dynlist-attrset groupOfURLs memberURL member"));
      int port = freePort();
      Process process =
          new ProcessBuilder(
                  "/usr/sbin/slapd",
                  "-f",
                  conf.toString(),
                  "-h",
                  "ldap://127.0.0.1:" + port + "/",
                  "-d",
                  "0")
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("slapd.log").toFile())
              .start();
      Slapd slapd = new Slapd(process, port);
      slapd.await(folder);
      slapd.fill(ldif);
      return slapd;
    } catch (IOException | InterruptedException | LDAPException | LDIFException e) {
      throw new IllegalStateException(e);
    }
  }

  /**
   * Adds all entries over the wire, groups in groups last: memberOf is kept only for what is added
   * so, after the member is there.
   */
  private void fill(Path ldif) throws IOException, LDAPException, LDIFException {
    try (LDAPConnection connection = new LDAPConnection("127.0.0.1", port, ROOT_DN, PASSWORD);
        LDIFReader reader = new LDIFReader(ldif.toFile())) {
      List<ModifyRequest> nested = new ArrayList<>();
      for (Entry entry = reader.readEntry(); entry != null; entry = reader.readEntry()) {
        String[] members = entry.getAttributeValues("member");
        for (String member : members == null ? new String[0] : members) {
          if (member.toLowerCase().startsWith("cn=")
              && entry.removeAttributeValue("member", member)) {
            nested.add(new ModifyRequest(entry.getDN(), new Modification(ADD, "member", member)));
          }
        }
        if (entry.hasObjectClass("groupOfNames") && !entry.hasAttribute("member")) {
          entry.addAttribute("member", "");
        }
        connection.add(entry);
      }
      for (ModifyRequest one : nested) {
        connection.modify(one);
      }
    }
  }

  private void await(Path folder) throws IOException, InterruptedException {
    for (int i = 0; i < 200; i++) {
      try (Socket socket = new Socket(InetAddress.getLoopbackAddress(), port)) {
        if (socket.isConnected()) {
          return;
        }
      } catch (IOException e) {
        Thread.sleep(50);
      }
    }
    throw new IOException("slapd did not start: " + Files.readString(folder.resolve("slapd.log")));
  }

  static int freePort() throws IOException {
    try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      return socket.getLocalPort();
    }
  }

  static String run(List<String> command) throws IOException, InterruptedException {
    Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
    String said = new String(process.getInputStream().readAllBytes());
    if (process.waitFor() != 0) {
      throw new IOException(String.join(" ", command) + " ended badly: " + said);
    }
    return said;
  }

  @Override
  public void close() {
    process.destroy();
    try {
      if (!process.waitFor(5, TimeUnit.SECONDS)) {
        process.destroyForcibly().waitFor();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** All entries as the server has them, but for when and by whom they were changed. */
  static Map<String, Set<String>> dump(LDAPConnection connection) throws LDAPException {
    Map<String, Set<String>> all = new TreeMap<>();
    for (SearchResultEntry entry :
        connection
            .search(SUFFIX, SearchScope.SUB, "(objectClass=*)", "*", "pwdAccountLockedTime")
            .getSearchEntries()) {
      Set<String> values = new TreeSet<>();
      for (Attribute attribute : entry.getAttributes()) {
        for (String value : attribute.getValues()) {
          values.add(attribute.getName() + ": " + value);
        }
      }
      all.put(entry.getDN(), values);
    }
    return all;
  }
}
