package org.sobercompass.cli;

import com.unboundid.ldap.listener.InMemoryDirectoryServer;
import com.unboundid.ldap.listener.InMemoryDirectoryServerConfig;
import com.unboundid.ldap.listener.InMemoryListenerConfig;
import com.unboundid.ldap.sdk.LDAPException;
import java.net.InetAddress;
import java.nio.file.Path;

/** The demo's staff directory as a live server in this process, on loopback. */
final class DemoDirectory implements AutoCloseable {
  private final InMemoryDirectoryServer server;

  /** Starts one with the entries of an LDIF file, on any free port. */
  DemoDirectory(Path ldif, String suffix) {
    try {
      InMemoryDirectoryServerConfig config = new InMemoryDirectoryServerConfig(suffix);
      config.setVendorName("Alderfen Botanic Trust");
      config.setVendorVersion("demo");
      config.setSchema(null);
      config.setGenerateOperationalAttributes(false);
      config.setListenerConfigs(
          InMemoryListenerConfig.createLDAPConfig(
              "demo", InetAddress.getLoopbackAddress(), 0, null));
      server = new InMemoryDirectoryServer(config);
      server.importFromLDIF(true, ldif.toFile());
      server.startListening();
    } catch (LDAPException e) {
      throw new IllegalStateException(e);
    }
  }

  String address() {
    return "ldap://127.0.0.1:" + server.getListenPort();
  }

  @Override
  public void close() {
    server.shutDown(true);
  }
}
