package org.sobercompass.sources.scim;

import java.net.URI;
import java.net.URISyntaxException;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.function.IntConsumer;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.survey.SurveyPart;
import org.sobercompass.sources.text.Node;

/**
 * How to reach a SCIM service.
 *
 * @param name how the user names the service
 * @param address as in {@code https://host/scim/v2}
 * @param token where its bearer token comes from
 * @param patience how long one answer may take
 */
public record ScimAccess(String name, URI address, Optional<Secret> token, Duration patience)
    implements LiveSource {
  static Optional<ScimAccess> read(String name, Node node, Folder root) {
    String text = node.need("address");
    if (Secret.isIn(text)) {
      node.wrong(
          "the address holds a user or a password, which do not belong there",
          "one like https://host/scim/v2, and token: {env: NAME} or {file: PATH}");
      return Optional.empty();
    }
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
      Optional<Secret> token = node.get("token").flatMap(n -> Secret.of(n, "the service", root));
      return Optional.of(new ScimAccess(name, uri, token, PATIENCE));
    } catch (URISyntaxException e) {
      node.wrong(
          Problem.quote(text) + " is no address of a service", "one like https://host/scim/v2");
      return Optional.empty();
    }
  }

  @Override
  public boolean isPlain() {
    return !"https".equals(address.getScheme());
  }

  @Override
  public Taken collect(Path content, Secret.Origins origins, Clock clock, IntConsumer progress) {
    Instant started = clock.instant().truncatedTo(ChronoUnit.MILLIS);
    Optional<String> bearer = token.map(secret -> secret.read(origins));
    int resources = new ScimService(name, address, bearer, patience).into(content, progress);
    SurveyPart part =
        new SurveyPart(
            name,
            "scim",
            address.toString(),
            bearer.isPresent() ? "a bearer token" : "anonymous",
            isPlain() ? "no TLS, in clear" : "TLS from the start",
            started,
            clock.instant().truncatedTo(ChronoUnit.MILLIS),
            true,
            List.of(),
            resources,
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            "parts/" + name + ".jsonl",
            Optional.empty());
    return new Taken(part, Optional.empty());
  }
}
