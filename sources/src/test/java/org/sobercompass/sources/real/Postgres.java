package org.sobercompass.sources.real;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** A real PostgreSQL on loopback, with its data in a folder of its own. */
final class Postgres implements AutoCloseable {
  private static final Path PROGRAMS = Path.of("/usr/lib/postgresql/15/bin");
  private final Path folder;
  private final int port;

  private Postgres(Path folder, int port) {
    this.folder = folder;
    this.port = port;
  }

  static boolean isThere() {
    return Files.isExecutable(PROGRAMS.resolve("initdb"))
        && System.getProperty("user.name").equals("root");
  }

  int port() {
    return port;
  }

  static Postgres start() throws IOException, InterruptedException {
    Path folder = Files.createTempDirectory("sober-pg");
    run("chown", "postgres", folder.toString());
    int port;
    try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      port = socket.getLocalPort();
    }
    Postgres made = new Postgres(folder, port);
    made.as("initdb", "-D", folder + "/data", "-A", "trust", "--no-sync");
    made.as(
        "pg_ctl",
        "-D",
        folder + "/data",
        "-w",
        "-l",
        folder + "/log",
        "-o",
        "-p "
            + port
            + " -c listen_addresses=127.0.0.1 -c fsync=off -c unix_socket_directories="
            + folder,
        "start");
    return made;
  }

  private void as(String program, String... arguments) throws IOException, InterruptedException {
    List<String> command = new ArrayList<>(List.of("runuser", "-u", "postgres", "--"));
    command.add(PROGRAMS.resolve(program).toString());
    command.addAll(List.of(arguments));
    run(command.toArray(String[]::new));
  }

  Connection connect(String role, String database) throws SQLException {
    return DriverManager.getConnection(
        "jdbc:postgresql://127.0.0.1:" + port + "/" + database, role, "");
  }

  private static void run(String... command) throws IOException, InterruptedException {
    Process process =
        new ProcessBuilder(command)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    if (!process.waitFor(60, TimeUnit.SECONDS) || process.exitValue() != 0) {
      throw new IOException(String.join(" ", command) + " failed");
    }
  }

  @Override
  public void close() {
    try {
      as("pg_ctl", "-D", folder + "/data", "-m", "immediate", "stop");
      run("rm", "-rf", folder.toString());
    } catch (IOException | InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }
}
