package org.sobercompass.sources.workspace;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.SourceKinds;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Moments;
import org.sobercompass.sources.text.Node;

/**
 * One directory of the workspace, as configured.
 *
 * @param name its name in the workspace
 * @param kind how it is read and reached
 * @param file the export, relative to the workspace; empty for a live directory
 * @param taken when it was exported, epoch second, or {@link Facts#NEVER} when not said
 * @param live how to reach it, for one that is read over the wire
 * @param login the attribute people sign in by, where it is said
 * @param schema its schema as LDIF, relative to the workspace, for an export
 * @param accountsOf the directory whose accounts sign in to a database by the names of its roles
 * @param names further files (LDIF) with classes, attributes and rights, for a directory with lists
 * @param implicitEverywhere whether everyone signed in counts as a member of every group that lists
 *     it, not only of built-in ones
 * @param place where it stands in the workspace
 */
public record DirectorySettings(
    String name,
    SourceKind kind,
    String file,
    long taken,
    Optional<LiveSource> live,
    Optional<String> login,
    Optional<String> schema,
    Optional<String> accountsOf,
    List<String> names,
    boolean implicitEverywhere,
    Place place) {

  private static final Set<String> OWN =
      Set.of("kind", "file", "taken", "login-attribute", "schema");

  /** Whether it is read over the wire. */
  public boolean isLive() {
    return live.isPresent();
  }

  /** All that changes what is read, as one text that is the same in every process. */
  String settings() {
    return String.join(
        "\n", name, kind.id(), login.orElse(""), file, "" + taken, accountsOf.orElse(""));
  }

  /** Reads all directories of {@code compass.yaml}. */
  static List<DirectorySettings> read(Node main, ZoneId zone, Folder root, Problems problems) {
    List<DirectorySettings> all = new ArrayList<>();
    Optional<Node> nodes = main.get("directories");
    if (nodes.isEmpty()) {
      main.wrong("there are no directories", "directories: and at least one");
    }
    nodes.ifPresent(
        node ->
            node.entries()
                .forEach((name, entry) -> all.add(one(name, entry, zone, root, problems))));
    List<String> names = all.stream().map(DirectorySettings::name).toList();
    for (DirectorySettings settings : all) {
      settings
          .accountsOf()
          .filter(other -> !names.contains(other) || other.equals(settings.name()))
          .ifPresent(
              other ->
                  problems.unknown(
                      settings.place(),
                      "accounts-of: there is no other directory " + Problem.quote(other),
                      "a directory of this workspace",
                      other,
                      names));
    }
    return all;
  }

  private static DirectorySettings one(
      String name, Node node, ZoneId zone, Folder root, Problems problems) {
    Set<String> keys = new HashSet<>(OWN);
    SourceKinds.all().forEach(known -> keys.addAll(known.settings()));
    node.only(keys);
    if (!name.matches("[a-z0-9][a-z0-9-]*")) {
      node.wrong(
          Problem.quote(name) + " is no name for a directory",
          "lower-case letters, digits and hyphens");
    }
    boolean isLive = node.get("address").isPresent();
    if (isLive == node.get("file").isPresent()) {
      node.wrong(
          isLive
              ? "the directory has both a file and an address"
              : "the directory has neither a file nor an address",
          "file: and an export (LDIF), or address: of a live directory");
    }
    SourceKind kind = kind(node, problems);
    return new DirectorySettings(
        name,
        kind,
        node.text("file").orElse(""),
        taken(node, zone),
        isLive ? kind.live(name, node, root) : Optional.empty(),
        node.text("login-attribute"),
        schema(node, kind, isLive),
        accountsOf(node, kind),
        ofLists(node, kind, "names").map(n -> node.texts("names")).orElse(List.of()),
        ofLists(node, kind, "signed-in-members").filter(DirectorySettings::everywhere).isPresent(),
        node.place());
  }

  /** A live directory is asked for its schema; the other kinds have none. */
  private static Optional<String> schema(Node node, SourceKind kind, boolean isLive) {
    Optional<String> schema = node.text("schema");
    if (schema.isPresent() && (isLive || !kind.hasSchema())) {
      node.wrong(
          isLive ? "a live directory is asked for its schema" : "there is no schema of this kind",
          "schema: beside the file: of an LDIF export only");
    }
    return schema;
  }

  /** A setting that only directories with lists of their own have. */
  private static Optional<Node> ofLists(Node node, SourceKind kind, String key) {
    Optional<Node> said = node.get(key);
    if (said.isPresent() && !kind.settings().contains(key)) {
      node.wrong(key + ": is said of a directory of kind " + kind.id(), "kind: ad");
    }
    return said;
  }

  private static boolean everywhere(Node node) {
    String word = node.text();
    if (!word.equals("built-in") && !word.equals("all")) {
      node.wrong(
          "signed-in-members: " + Problem.quote(word) + " is neither",
          "built-in, as domain controllers count, or all");
    }
    return word.equals("all");
  }

  private static Optional<String> accountsOf(Node node, SourceKind kind) {
    Optional<String> directory = node.text("accounts-of");
    if (directory.isPresent() && !kind.settings().contains("accounts-of")) {
      node.wrong(
          "accounts-of: is said of a directory of kind " + kind.id(),
          "kind: postgresql, whose roles are signed in as by accounts of that directory");
    }
    return directory;
  }

  private static SourceKind kind(Node node, Problems problems) {
    String word = node.text("kind").orElse(SourceKinds.USUAL);
    Optional<SourceKind> kind = SourceKinds.of(word);
    if (kind.isEmpty()) {
      List<String> known = SourceKinds.all().stream().map(SourceKind::id).toList();
      problems.unknown(
          node.place(),
          Problem.quote(word) + " is no kind of directory",
          "one of " + String.join(", ", known),
          word,
          known);
    }
    return kind.or(() -> SourceKinds.of(SourceKinds.USUAL)).orElseThrow();
  }

  private static long taken(Node node, ZoneId zone) {
    Optional<String> written = node.text("taken");
    Optional<Instant> at = written.flatMap(text -> Moments.begin(text, zone));
    if (written.isPresent() && at.isEmpty()) {
      node.wrong("taken: " + Problem.quote(written.get()) + " is no date", Moments.EXPECTED);
    }
    return at.map(Instant::getEpochSecond).orElse(Facts.NEVER);
  }
}
