package org.sobercompass.sources.scim;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * A small SCIM service on loopback: lists with paging, single resources with versions, PATCH of
 * members and of whether a user is active, and a bearer token.
 */
final class StandInService implements AutoCloseable {
  private static final JsonMapper JSON = JsonMapper.shared();

  private final HttpServer server;
  private final String token;
  final List<String> users = new ArrayList<>();
  final List<String> groups = new ArrayList<>();
  int most = 50;
  int stopAfter = Integer.MAX_VALUE;
  int requests;

  StandInService(String token) throws IOException {
    this.token = token;
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext("/scim/v2/Users", exchange -> answer(exchange, users));
    server.createContext("/scim/v2/Groups", exchange -> answer(exchange, groups));
    server.createContext("/moved/Users", exchange -> reply(exchange, 302, ""));
    server.createContext("/page/Users", exchange -> reply(exchange, 200, "<html>hello</html>"));
    server.start();
  }

  URI address(String path) {
    return URI.create("http://127.0.0.1:" + server.getAddress().getPort() + path);
  }

  private void answer(HttpExchange exchange, List<String> all) throws IOException {
    requests++;
    if (!("Bearer " + token).equals(exchange.getRequestHeaders().getFirst("Authorization"))) {
      reply(exchange, 401, "{}");
      return;
    }
    String path = exchange.getRequestURI().getPath();
    if (path.matches(".*/(Users|Groups)/.+")) {
      one(exchange, all, path.replaceFirst(".*/", ""));
      return;
    }
    String query = exchange.getRequestURI().getQuery();
    int start = Integer.parseInt(query.replaceAll(".*startIndex=([0-9]+).*", "$1"));
    int count = Integer.parseInt(query.replaceAll(".*count=([0-9]+).*", "$1"));
    int from = Math.min(start - 1, all.size());
    int to =
        Math.min(Math.min(from + Math.min(count, most), all.size()), Math.max(from, stopAfter));
    String resources = all.subList(from, to).stream().collect(Collectors.joining(","));
    reply(
        exchange,
        200,
        "{\"schemas\":[\"urn:ietf:params:scim:api:messages:2.0:ListResponse\"],\"totalResults\":"
            + all.size()
            + ",\"startIndex\":"
            + start
            + ",\"itemsPerPage\":"
            + (to - from)
            + ",\"Resources\":["
            + resources
            + "]}");
  }

  /** Does something before the next change of a resource, as somebody else would. */
  Runnable meanwhile = () -> {};

  private void one(HttpExchange exchange, List<String> all, String id) throws IOException {
    boolean patch = exchange.getRequestMethod().equals("PATCH");
    if (patch) {
      Runnable now = meanwhile;
      meanwhile = () -> {};
      now.run();
    }
    int at = 0;
    while (at < all.size() && !JSON.readTree(all.get(at)).path("id").asString().equals(id)) {
      at++;
    }
    if (at == all.size()) {
      reply(exchange, 404, "{}");
      return;
    }
    if (patch) {
      String wanted = exchange.getRequestHeaders().getFirst("If-Match");
      if (!version(all.get(at)).equals(wanted)) {
        reply(exchange, 412, "{}");
        return;
      }
      String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
      all.set(at, patched((ObjectNode) JSON.readTree(all.get(at)), JSON.readTree(body)));
    }
    exchange.getResponseHeaders().add("ETag", version(all.get(at)));
    reply(exchange, 200, all.get(at));
  }

  private static String version(String resource) {
    return "W/\"" + Integer.toHexString(resource.hashCode()) + "\"";
  }

  private static String patched(ObjectNode resource, JsonNode body) {
    for (JsonNode operation : body.path("Operations").values()) {
      String path = operation.path("path").asString();
      switch (operation.path("op").asString()) {
        case "replace" -> resource.set(path, operation.path("value"));
        case "add" -> operation.path("value").values().forEach(resource.withArray("members")::add);
        default -> {
          ArrayNode members = resource.withArray("members");
          String gone = path.replaceFirst(".*eq \"", "").replaceFirst("\"]$", "");
          for (int i = members.size() - 1; i >= 0; i--) {
            if (members.get(i).path("value").asString().equals(gone)) {
              members.remove(i);
            }
          }
        }
      }
    }
    return resource.toString();
  }

  private static void reply(HttpExchange exchange, int status, String text) throws IOException {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    exchange.getResponseHeaders().add("Content-Type", "application/scim+json");
    exchange.sendResponseHeaders(status, bytes.length == 0 ? -1 : bytes.length);
    exchange.getResponseBody().write(bytes);
    exchange.close();
  }

  @Override
  public void close() {
    server.stop(0);
  }
}
