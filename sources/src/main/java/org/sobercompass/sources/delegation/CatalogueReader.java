package org.sobercompass.sources.delegation;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/** Reads admin actions: the catalogue that ships, and what a workspace adds to it or changes. */
public final class CatalogueReader {
  private static final Map<String, Integer> SIMPLE =
      Map.ofEntries(
          Map.entry("delete", DsRights.DELETE),
          Map.entry("delete-tree", DsRights.DELETE_TREE),
          Map.entry("list", DsRights.LIST),
          Map.entry("read-permissions", DsRights.READ_CONTROL),
          Map.entry("change-permissions", DsRights.WRITE_DAC),
          Map.entry("take-ownership", DsRights.WRITE_OWNER),
          Map.entry("create-any", DsRights.CREATE_CHILD),
          Map.entry("delete-any", DsRights.DELETE_CHILD),
          Map.entry("read-all", DsRights.READ_PROPERTY),
          Map.entry("write-all", DsRights.WRITE_PROPERTY),
          Map.entry("all-rights", DsRights.CONTROL_ACCESS),
          Map.entry("everything", DsRights.ALL));
  private static final Set<String> WORDS =
      Set.of(
          "write",
          "read",
          "right",
          "create",
          "delete-child",
          "do",
          "all",
          "any",
          "parent",
          "destination");
  private static final int DEEPEST = 20;

  /** The name of its file. */
  public static final String NAME = "admin-actions.yaml";

  private CatalogueReader() {}

  /**
   * The catalogue that ships, with these additions, in the order of their ids.
   *
   * @param kept a catalogue kept with a survey, instead of the one that ships
   */
  public static List<AdminAction> read(
      Optional<Path> kept, Optional<Node> more, Problems problems) {
    Map<String, AdminAction> actions = new LinkedHashMap<>();
    kept.filter(Files::isReadable)
        .flatMap(file -> YamlReader.read(file, NAME, problems))
        .orElseGet(() -> YamlReader.parse(text(), NAME, problems).orElseGet(Node::nothing))
        .entries()
        .forEach((id, node) -> actions.put(id, action(id, node)));
    more.map(Node::entries)
        .orElse(Map.of())
        .forEach((id, node) -> actions.put(id, action(id, node)));
    return List.copyOf(actions.values());
  }

  /** The catalogue that ships, as text. */
  public static String text() {
    try (InputStream in = CatalogueReader.class.getResourceAsStream(NAME)) {
      if (in == null) {
        throw new IllegalStateException("the program lacks its catalogue " + NAME);
      }
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static AdminAction action(String id, Node node) {
    node.only(Set.of("name", "on", "weight", "needs"));
    if (!id.matches("[a-z][a-z0-9-]*")) {
      node.wrong(
          Problem.quote(id) + " is no id of an action", "lower-case letters, digits and hyphens");
    }
    String weight = node.text("weight").orElse("0");
    if (!weight.matches("[0-2]")) {
      node.wrong("weight: " + Problem.quote(weight) + " is no weight", "0, 1 or 2");
      weight = "0";
    }
    Requirement need =
        node.get("needs")
            .map(needs -> need(needs, 0))
            .orElseGet(
                () -> {
                  node.wrong("the action needs nothing", "needs: and rights");
                  return new Requirement.All(List.of());
                });
    return new AdminAction(
        id, node.text("name").orElse(id), node.texts("on"), need, Integer.parseInt(weight));
  }

  private static Requirement need(Node node, int depth) {
    if (node.kind() == Node.Kind.SCALAR && node.text().equals("confidential")) {
      return new Requirement.Confidential();
    }
    if (node.entries().size() != 1 || depth > DEEPEST) {
      node.wrong(
          "this is no single right",
          "one of " + String.join(", ", WORDS.stream().sorted().toList()));
      return new Requirement.All(List.of());
    }
    node.only(WORDS);
    Map.Entry<String, Node> one = node.entries().entrySet().iterator().next();
    Node value = one.getValue();
    return switch (one.getKey()) {
      case "write" -> new Requirement.Attribute(DsRights.WRITE_PROPERTY, value.text());
      case "read" -> new Requirement.Attribute(DsRights.READ_PROPERTY, value.text());
      case "right" -> new Requirement.Control(value.text());
      case "create" -> child(DsRights.CREATE_CHILD, value);
      case "delete-child" -> child(DsRights.DELETE_CHILD, value);
      case "do" -> simple(value);
      case "all" -> new Requirement.All(parts(value, depth));
      case "any" -> new Requirement.Any(parts(value, depth));
      case "parent" -> new Requirement.At(Requirement.Where.PARENT, need(value, depth + 1));
      default -> new Requirement.At(Requirement.Where.DESTINATION, need(value, depth + 1));
    };
  }

  /**
   * One right as people type it: {@code write=telephoneNumber}, {@code right=Send-As}, {@code
   * create=user}, {@code delete-child=own}, {@code do=delete}; empty when it is none of these.
   */
  public static Optional<Requirement> single(String text) {
    int sign = text.indexOf('=');
    if (sign <= 0 || sign == text.length() - 1) {
      return Optional.empty();
    }
    String what = text.substring(sign + 1);
    return switch (text.substring(0, sign)) {
      case "write" -> Optional.of(new Requirement.Attribute(DsRights.WRITE_PROPERTY, what));
      case "read" -> Optional.of(new Requirement.Attribute(DsRights.READ_PROPERTY, what));
      case "right" -> Optional.of(new Requirement.Control(what));
      case "create" -> Optional.of(child(DsRights.CREATE_CHILD, what));
      case "delete-child" -> Optional.of(child(DsRights.DELETE_CHILD, what));
      case "do" -> Optional.ofNullable(SIMPLE.get(what)).map(Requirement.Simple::new);
      default -> Optional.empty();
    };
  }

  private static Requirement child(int mask, Node value) {
    return child(mask, value.text());
  }

  private static Requirement child(int mask, String objectClass) {
    return new Requirement.Child(mask, objectClass.equals("own") ? "" : objectClass);
  }

  private static List<Requirement> parts(Node list, int depth) {
    List<Requirement> parts = new ArrayList<>();
    list.items().forEach(item -> parts.add(need(item, depth + 1)));
    if (parts.isEmpty()) {
      list.wrong("there is nothing in the list", "rights");
    }
    return parts;
  }

  private static Requirement simple(Node value) {
    Integer mask = SIMPLE.get(value.text());
    if (mask == null) {
      value.wrong(
          Problem.quote(value.text()) + " is nothing to do",
          "one of " + String.join(", ", SIMPLE.keySet().stream().sorted().toList()));
    }
    return new Requirement.Simple(mask == null ? DsRights.ALL : mask);
  }
}
