package org.sobercompass.sources.real;

import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.organization.Organization;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.workspace.Surveyor;

/** A slapd with a tree in it, and a workspace of which it is the directory {@code main}. */
final class LiveSlapd implements AutoCloseable {
  private static final Secret.Origins ORIGINS =
      new Secret.Origins(name -> Optional.of(Slapd.PASSWORD), question -> Optional.empty());

  private final Path folder;
  private final Slapd slapd;
  private final Path workspace;
  private final LDAPConnection connection;
  private int made;

  private LiveSlapd(Path folder, Slapd slapd, Path workspace, LDAPConnection connection) {
    this.folder = folder;
    this.slapd = slapd;
    this.workspace = workspace;
    this.connection = connection;
  }

  /**
   * Starts it.
   *
   * @param seed of the tree
   * @param more further lines for its database
   */
  static LiveSlapd start(Path folder, long seed, String... more) throws IOException, LDAPException {
    assumeTrue(Slapd.isThere(), "no slapd here: scripts/install-servers installs it");
    Path ldif = folder.resolve("tree.ldif");
    Files.writeString(ldif, RealTree.ldif(seed).replace("CN=", "cn="));
    Slapd slapd = Slapd.start(Files.createDirectory(folder.resolve("slapd")), ldif, more);
    Path workspace = Files.createDirectory(folder.resolve("live"));
    Files.writeString(
        workspace.resolve("compass.yaml"),
        "directories:\n  main:\n    address: "
            + slapd.address()
            + "\n    plain: yes\n    bind: \""
            + Slapd.ROOT_DN
            + "\"\n    password: {env: PASSWORD}\n");
    return new LiveSlapd(
        folder,
        slapd,
        workspace,
        new LDAPConnection("127.0.0.1", slapd.port(), Slapd.ROOT_DN, Slapd.PASSWORD));
  }

  LDAPConnection connection() {
    return connection;
  }

  Slapd slapd() {
    return slapd;
  }

  Path workspace() {
    return workspace;
  }

  Map<String, Set<String>> dump() throws LDAPException {
    return Slapd.dump(connection);
  }

  /** What is there now: a survey, read. */
  Organization read() {
    new Surveyor(ORIGINS, Clock.systemUTC(), (source, count) -> {})
        .take(workspace, List.of(), Optional.empty());
    return Organization.open(workspace);
  }

  TargetKind.Door door() {
    return door(slapd.address());
  }

  static TargetKind.Door door(String address) {
    return new TargetKind.Door(
        "main",
        address,
        Optional.of(Slapd.ROOT_DN),
        Optional.of(new Secret.Environment("PASSWORD")),
        true,
        Optional.empty());
  }

  /** A folder for one more amendment. */
  Path next() {
    return folder.resolve("a" + made++);
  }

  Amended amend(Organization before, Proposal proposal) {
    return Amended.of(before, proposal, next(), door(), Slapd.PASSWORD);
  }

  @Override
  public void close() {
    connection.close();
    slapd.close();
  }
}
