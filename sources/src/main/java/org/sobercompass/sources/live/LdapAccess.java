package org.sobercompass.sources.live;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import org.sobercompass.sources.Secret;

/**
 * How to reach a directory.
 *
 * @param name how the user names the directory, for messages
 * @param host a name or address
 * @param tls how the connection is protected
 * @param ca certificates (PEM) to trust instead of those of the Java runtime
 * @param bindDn as whom to bind; anonymous when empty
 * @param password where its password comes from
 * @param bases what to read; all naming contexts when empty
 * @param page how many entries are asked for at a time
 * @param patience how long one answer may take
 */
public record LdapAccess(
    String name,
    String host,
    int port,
    Tls tls,
    Optional<Path> ca,
    Optional<String> bindDn,
    Optional<Secret> password,
    List<String> bases,
    int page,
    Duration patience) {

  /** The usual number of entries in a page; servers often allow no more than a thousand. */
  public static final int PAGE = 1000;

  /** The usual patience. */
  public static final Duration PATIENCE = Duration.ofSeconds(60);

  /** How a connection is protected. */
  public enum Tls {
    /** TLS from the first byte (ldaps). */
    LDAPS("TLS from the start"),
    /** TLS by the extended operation of RFC 4511 section 4.14. */
    START("StartTLS"),
    /** None: what is read, and the password, cross in clear. */
    PLAIN("no TLS, in clear");

    private final String words;

    Tls(String words) {
      this.words = words;
    }

    /** In words. */
    public String words() {
      return words;
    }
  }

  /** {@code ldap://host:port}, as shown. */
  public String address() {
    return (tls == Tls.LDAPS ? "ldaps://" : "ldap://") + host + ":" + port;
  }

  /** The same with other bases. */
  public LdapAccess withBases(List<String> others) {
    return new LdapAccess(
        name, host, port, tls, ca, bindDn, password, List.copyOf(others), page, patience);
  }
}
