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

/** A small SCIM service on loopback: lists with paging and a bearer token, and nothing else. */
final class StandInService implements AutoCloseable {
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
