package org.sobercompass.sources.scim;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.ConnectException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Flow;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.IntConsumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Bounds;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.ObjectMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Reads all users and groups of a SCIM service (RFC 7644) page by page and writes them as JSON
 * lines. Reads only; redirects are not followed, so the token goes nowhere else.
 */
public final class ScimService {
  private static final int PAGE = 200;

  /** The most bytes of one answer. */
  private static final long LARGEST = 64L << 20;

  private static final int MOST_PAGES = 1_000_000;

  private final String name;
  private final URI base;
  private final Optional<String> token;
  private final Duration patience;
  private final Bounds bounds;
  private final HttpClient client;
  private final ObjectMapper mapper = new ObjectMapper();

  /**
   * A service.
   *
   * @param name how the user names it
   * @param base its address, as in {@code https://host/scim/v2}
   * @param token the bearer token (RFC 6750), if one is asked for
   * @param patience how long one answer may take
   */
  public ScimService(String name, URI base, Optional<String> token, Duration patience) {
    this.name = name;
    this.base = base;
    this.token = token;
    this.patience = patience;
    this.bounds = new Bounds();
    this.client =
        HttpClient.newBuilder()
            .connectTimeout(patience)
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();
  }

  /**
   * Writes all users and groups into a new file, one a line.
   *
   * @param progress is told the number of resources now and then
   * @return how many resources
   * @throws OutsideException when the service cannot be read whole; the file is useless then
   */
  public int into(Path file, IntConsumer progress) {
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      int users = all("Users", out, 0, progress);
      return all("Groups", out, users, progress);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private int all(String type, BufferedWriter out, int before, IntConsumer progress)
      throws IOException {
    int read = 0;
    for (int page = 0; page < MOST_PAGES; page++) {
      URI uri =
          URI.create(
              base.toString().replaceAll("/+$", "")
                  + "/"
                  + type
                  + "?startIndex="
                  + (read + 1)
                  + "&count="
                  + PAGE);
      JsonNode answer = get(uri);
      int total = answer.path("totalResults").asInt(-1);
      if (total < 0) {
        throw failure(uri, "the answer is no list response", "a SCIM 2.0 service at this address");
      }
      int got = write(answer, out);
      read += got;
      progress.accept(before + read);
      if (read >= total) {
        return before + read;
      }
      if (got == 0) {
        throw failure(
            uri,
            "it says there are " + total + " " + type + ", but stops after " + read,
            "a service that gives all its pages");
      }
    }
    throw failure(base, "there is no end of pages", "a service that ends");
  }

  /** Writes the resources of an answer, without passwords; how many there were. */
  private int write(JsonNode answer, BufferedWriter out) throws IOException {
    int got = 0;
    for (JsonNode resource : answer.path("Resources").values()) {
      if (resource instanceof ObjectNode object) {
        object.remove("password");
      }
      String line = resource.toString();
      bounds.came(Place.of(name), line.length());
      out.write(line);
      out.write('\n');
      got++;
    }
    return got;
  }

  private JsonNode get(URI uri) {
    HttpResponse<byte[]> answer = send(uri, HttpRequest.newBuilder(uri).GET());
    if (answer.statusCode() != 200) {
      throw status(uri, answer.statusCode());
    }
    return json(uri, answer);
  }

  private JsonNode json(URI uri, HttpResponse<byte[]> answer) {
    try {
      return mapper.readTree(answer.body());
    } catch (JacksonException e) {
      throw failure(uri, "the answer is not JSON", "a SCIM 2.0 service at this address");
    }
  }

  /**
   * One resource as it is now.
   *
   * @param status the status of the answer (RFC 9110 section 15)
   * @param resource the resource; nothing where there is none
   * @param version its entity tag, or empty
   */
  record Version(int status, JsonNode resource, String version) {}

  /**
   * One resource.
   *
   * @param path below the address, as in {@code Groups/17}
   * @throws OutsideException when the service does not answer, or with something else
   */
  Version resource(String path) {
    URI uri = uri(path);
    HttpResponse<byte[]> answer = send(uri, HttpRequest.newBuilder(uri).GET());
    if (answer.statusCode() == 404) {
      return new Version(404, mapper.createObjectNode(), "");
    }
    if (answer.statusCode() != 200) {
      throw status(uri, answer.statusCode());
    }
    JsonNode resource = json(uri, answer);
    String version =
        answer
            .headers()
            .firstValue("ETag")
            .orElse(resource.path("meta").path("version").asString(""));
    return new Version(200, resource, version);
  }

  /**
   * Changes one resource (RFC 7644 section 3.5.2), only as long as it has this version.
   *
   * @param version its entity tag, or empty where the service gives none
   * @return the status of the answer
   * @throws OutsideException when the service does not answer
   */
  int patch(String path, String body, String version) {
    URI uri = uri(path);
    HttpRequest.Builder request =
        HttpRequest.newBuilder(uri)
            .method("PATCH", HttpRequest.BodyPublishers.ofString(body))
            .header("Content-Type", "application/scim+json");
    if (!version.isEmpty()) {
      request.header("If-Match", version);
    }
    return send(uri, request).statusCode();
  }

  private URI uri(String path) {
    return URI.create(base.toString().replaceAll("/+$", "") + "/" + path);
  }

  private HttpResponse<byte[]> send(URI uri, HttpRequest.Builder request) {
    request.timeout(patience).header("Accept", "application/scim+json");
    token.ifPresent(text -> request.header("Authorization", "Bearer " + text));
    try {
      CompletableFuture<HttpResponse<byte[]>> asked =
          client.sendAsync(request.build(), info -> new Limited());
      try {
        return asked.get(patience.toMillis(), TimeUnit.MILLISECONDS);
      } catch (TimeoutException e) {
        asked.cancel(true);
        throw new HttpTimeoutException("no end");
      }
    } catch (ExecutionException e) {
      throw failed(uri, e.getCause());
    } catch (HttpTimeoutException e) {
      throw failed(uri, e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw failure(uri, "interrupted", "another try");
    }
  }

  private OutsideException failed(URI uri, @Nullable Throwable cause) {
    if (cause instanceof HttpTimeoutException) {
      return failure(
          uri,
          "no whole answer came within " + patience.toSeconds() + " seconds",
          "a faster answer, or a longer patience:");
    }
    if (cause instanceof ConnectException) {
      return failure(
          uri, "nothing listens there", "the service running, its address, no firewall between");
    }
    if (cause instanceof TooLong) {
      return failure(
          uri, "an answer has more than " + (LARGEST >> 20) + " MiB", "a service that gives pages");
    }
    return failure(
        uri,
        "the connection ended (" + Problem.quote(String.valueOf(cause)) + ")",
        "a service that stays up");
  }

  /** An answer is longer than it may be. */
  private static final class TooLong extends IOException {
    private static final long serialVersionUID = 1L;
  }

  /** Takes the bytes of an answer up to the most there may be. */
  private static final class Limited implements HttpResponse.BodySubscriber<byte[]> {
    private final HttpResponse.BodySubscriber<byte[]> all =
        HttpResponse.BodySubscribers.ofByteArray();
    private Flow.@Nullable Subscription subscription;
    private long length;

    @Override
    public CompletionStage<byte[]> getBody() {
      return all.getBody();
    }

    @Override
    public void onSubscribe(Flow.Subscription one) {
      subscription = one;
      all.onSubscribe(one);
    }

    @Override
    public void onNext(List<ByteBuffer> buffers) {
      length += buffers.stream().mapToLong(ByteBuffer::remaining).sum();
      if (length <= LARGEST) {
        all.onNext(buffers);
      } else {
        Objects.requireNonNull(subscription).cancel();
        all.onError(new TooLong());
      }
    }

    @Override
    public void onError(Throwable thrown) {
      all.onError(thrown);
    }

    @Override
    public void onComplete() {
      all.onComplete();
    }
  }

  private OutsideException status(URI uri, int code) {
    String mend =
        switch (code) {
          case 401 -> "a token that is valid: token: {env: NAME} or {file: PATH}";
          case 403 -> "the right to read users and groups, for this token";
          case 404 -> "the address that ends before /Users, often /scim/v2";
          case 301, 302, 307, 308 -> "the address it redirects to, written out";
          case 429 -> "another try later; the service asks for fewer requests";
          default -> "a service that answers";
        };
    return failure(uri, "the service answers with status " + code, mend);
  }

  private OutsideException failure(URI uri, String what, String mend) {
    return new OutsideException(
        Problem.error(Place.of(name).entry(uri.toString()), "cannot read: " + what, mend));
  }
}
