package org.sobercompass.sources.real;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A real file server on loopback that shares one folder, with accounts of this machine that have a
 * password there only. Closing it ends the process that was started here.
 */
final class Smbd implements AutoCloseable {
  static final String PASSWORD = "Only4Tests.";
  static final String SHARE = "field";
  static final String ADMIN = "root";

  /** Accounts that every such system has. */
  static final List<String> ACCOUNTS = List.of("daemon", "bin", "games");

  private static final int PATIENCE_MILLIS = 20_000;

  private final Process process;
  private final Path configuration;
  private final int port;
  private final Map<String, String> sids = new TreeMap<>();

  private Smbd(Process process, Path configuration, int port) {
    this.process = process;
    this.configuration = configuration;
    this.port = port;
  }

  /** Why it cannot run here; empty when it can. */
  static String missing() {
    return Files.isExecutable(Path.of("/usr/sbin/smbd"))
        ? System.getProperty("user.name").equals("root") ? "" : "a file server needs root"
        : "no smbd here: scripts/install-servers installs it";
  }

  static Smbd start(Path folder) throws IOException, InterruptedException {
    int port = Slapd.freePort();
    Slapd.run(List.of("chmod", "755", folder.toString()));
    Path tree = Files.createDirectories(folder.resolve("shared"));
    Slapd.run(List.of("chmod", "777", tree.toString()));
    StringBuilder text = new StringBuilder("[global]\n");
    text.append("workgroup = FERNHOLLOW\nnetbios name = FIELD\nserver role = standalone server\n");
    text.append("interfaces = 127.0.0.1\nbind interfaces only = yes\n");
    text.append("smb ports = " + port + "\ndisable spoolss = yes\nload printers = no\n");
    text.append("min password length = 0\nlog file = " + folder.resolve("smbd.log") + "\n");
    for (String name : List.of("private", "state", "cache", "lock", "pid")) {
      Path made = Files.createDirectories(folder.resolve(name));
      String option = name.equals("private") ? "private dir" : name + " directory";
      text.append(option + " = " + made + "\n");
    }
    text.append("ncalrpc dir = " + folder.resolve("ncalrpc") + "\n");
    text.append("[" + SHARE + "]\npath = " + tree + "\nread only = no\n");
    text.append("vfs objects = acl_xattr\nacl_xattr:ignore system acls = yes\n");
    Path configuration = Files.writeString(folder.resolve("smb.conf"), text);
    for (String account : ACCOUNTS) {
      password(configuration, account);
    }
    password(configuration, ADMIN);
    Process process =
        // In a process group of its own, which it ends with itself.
        new ProcessBuilder("/usr/sbin/smbd", "-s", configuration.toString(), "-F")
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("smbd.out").toFile())
            .start();
    Smbd smbd = new Smbd(process, configuration, port);
    smbd.await();
    smbd.name();
    return smbd;
  }

  private static void password(Path configuration, String account)
      throws IOException, InterruptedException {
    Process process =
        new ProcessBuilder("smbpasswd", "-c", configuration.toString(), "-s", "-a", account)
            .redirectErrorStream(true)
            .start();
    String twice = PASSWORD + "\n" + PASSWORD + "\n";
    process.getOutputStream().write(twice.getBytes(StandardCharsets.UTF_8));
    process.getOutputStream().close();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (process.waitFor() != 0) {
      throw new IOException(said);
    }
  }

  private void await() throws InterruptedException, IOException {
    long end = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(PATIENCE_MILLIS);
    while (process.isAlive() && System.nanoTime() < end) {
      try (Socket socket = new Socket()) {
        socket.connect(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 500);
        return;
      } catch (IOException e) {
        Thread.sleep(50);
      }
    }
    close();
    throw new IOException("smbd did not come up on port " + port);
  }

  private void name() throws IOException, InterruptedException {
    String all = Slapd.run(List.of("pdbedit", "-s", configuration.toString(), "-L", "-v"));
    Matcher one =
        Pattern.compile("Unix username: +(\\S+).*?User SID: +(\\S+)", Pattern.DOTALL).matcher(all);
    while (one.find()) {
      sids.put(one.group(1), one.group(2));
    }
  }

  /** The SID of an account. */
  String sid(String account) {
    return sids.get(account);
  }

  /** Where its configuration stands. */
  Path configuration() {
    return configuration;
  }

  int port() {
    return port;
  }

  /** Where the share is. */
  String address() {
    return "smb://127.0.0.1:" + port + "/" + SHARE;
  }

  @Override
  public void close() {
    process.destroy();
    try {
      if (!process.waitFor(10, TimeUnit.SECONDS)) {
        process.destroyForcibly();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
