package org.sobercompass.sources.live;

import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;

/** Reads how to reach a directory from {@code compass.yaml}; told problems have their place. */
public final class AccessSettings {
  /** The settings of a live directory. */
  public static final Set<String> KEYS =
      Set.of("address", "plain", "ca", "bind", "password", "bases", "page", "patience");

  private static final String EXPECTED = "ldaps://host, or ldap://host for StartTLS";
  private static final int LDAP_PORT = 389;
  private static final int LDAPS_PORT = 636;

  private AccessSettings() {}

  /** The settings under a directory's name, if they can be used. */
  public static Optional<LdapAccess> read(String name, Node node, Folder root) {
    Optional<URI> address = address(node);
    if (address.isEmpty()) {
      return Optional.empty();
    }
    boolean plain = node.yes("plain", false);
    Optional<Secret> password = node.get("password").flatMap(n -> Secret.of(n, name, root));
    Optional<String> bind = node.text("bind");
    if (bind.isPresent() != node.get("password").isPresent()) {
      node.wrong(
          bind.isPresent()
              ? "there is a bind name without a password"
              : "there is a password without a bind name",
          "both bind and password, or neither for an anonymous connection");
    }
    checkBases(node);
    boolean tlsFirst = "ldaps".equals(address.get().getScheme());
    if (tlsFirst && plain) {
      node.wrong("plain: yes and ldaps contradict each other", "one of them");
    }
    return Optional.of(
        of(name, address.get(), plain)
            .with(
                node.text("ca").map(root::resolve),
                bind,
                password,
                node.texts("bases"),
                number(node, "page", LdapAccess.PAGE),
                Duration.ofSeconds(
                    number(node, "patience", (int) LdapAccess.PATIENCE.toSeconds()))));
  }

  /** An address without further settings. */
  public static Start of(String name, URI address, boolean plain) {
    boolean tlsFirst = "ldaps".equals(address.getScheme());
    LdapAccess.Tls tls =
        tlsFirst ? LdapAccess.Tls.LDAPS : plain ? LdapAccess.Tls.PLAIN : LdapAccess.Tls.START;
    int port = address.getPort() > 0 ? address.getPort() : tlsFirst ? LDAPS_PORT : LDAP_PORT;
    return new Start(name, address.getHost(), port, tls);
  }

  /** An address, to be completed. */
  public record Start(String name, String host, int port, LdapAccess.Tls tls) {
    /** With the rest. */
    public LdapAccess with(
        Optional<Path> ca,
        Optional<String> bind,
        Optional<Secret> password,
        List<String> bases,
        int page,
        Duration patience) {
      return new LdapAccess(
          name, host, port, tls, ca, bind, password, List.copyOf(bases), page, patience);
    }
  }

  /** An LDAP address, if the text is one. */
  public static Optional<URI> parse(String text) {
    try {
      URI uri = new URI(text.strip());
      boolean known = "ldap".equals(uri.getScheme()) || "ldaps".equals(uri.getScheme());
      return known && uri.getHost() != null && uri.getRawUserInfo() == null
          ? Optional.of(uri)
          : Optional.empty();
    } catch (URISyntaxException e) {
      return Optional.empty();
    }
  }

  private static Optional<URI> address(Node node) {
    String text = node.need("address");
    if (Secret.isIn(text)) {
      node.wrong("the address holds a user or a password, which do not belong there", EXPECTED);
      return Optional.empty();
    }
    Optional<URI> uri = parse(text);
    if (uri.isEmpty() && !text.isEmpty()) {
      node.wrong(Problem.quote(text) + " is no address of a directory", EXPECTED);
    }
    return uri;
  }

  private static void checkBases(Node node) {
    for (String base : node.texts("bases")) {
      if (!DnForm.isDn(base)) {
        node.wrong(
            "bases: " + Problem.quote(base) + " is no DN", "a DN like ou=people,dc=example,dc=org");
      }
    }
  }

  private static int number(Node node, String key, int otherwise) {
    Optional<String> text = node.text(key);
    if (text.isPresent() && !text.get().matches("[1-9][0-9]{0,5}")) {
      node.wrong(key + ": " + Problem.quote(text.get()) + " is no number", "a number from 1 up");
      return otherwise;
    }
    return text.map(Integer::parseInt).orElse(otherwise);
  }
}
