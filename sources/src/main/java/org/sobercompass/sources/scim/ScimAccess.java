package org.sobercompass.sources.workspace;

import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.live.AccessSettings;
import org.sobercompass.sources.live.LdapAccess;
import org.sobercompass.sources.live.Secret;
import org.sobercompass.sources.text.Node;

/**
 * How to reach a SCIM service.
 *
 * @param address as in {@code https://host/scim/v2}
 * @param token where its bearer token comes from
 * @param patience how long one answer may take
 */
public record ScimSettings(URI address, Optional<Secret> token, Duration patience) {
  static final Set<String> KEYS = Set.of("token");

  static Optional<ScimSettings> read(Node node, DirectoryKind kind, Path root) {
    if (!kind.id().equals(DirectoryKind.SCIM.id())) {
      node.wrong("accounts of a file have no address", "file: and a CSV file");
      return Optional.empty();
    }
    String text = node.need("address");
    try {
      URI uri = new URI(text.strip());
      boolean plain = "http".equals(uri.getScheme());
      if (uri.getHost() == null || (!plain && !"https".equals(uri.getScheme()))) {
        throw new URISyntaxException(text, "no web address");
      }
      if (plain && !node.yes("plain", false)) {
        node.wrong(
            "the service would be asked in clear, its token too",
            "https://, or plain: yes if it must be");
      }
      Optional<Secret> token =
          node.get("token").flatMap(n -> AccessSettings.secret(n, "the service", root));
      return Optional.of(new ScimSettings(uri, token, LdapAccess.PATIENCE));
    } catch (URISyntaxException e) {
      node.wrong(
          Problem.quote(text) + " is no address of a service", "one like https://host/scim/v2");
      return Optional.empty();
    }
  }
}
