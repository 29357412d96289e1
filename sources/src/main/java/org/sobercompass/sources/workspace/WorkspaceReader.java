package org.sobercompass.sources.workspace;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.SystemFormat;
import org.sobercompass.sources.SystemFormats;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.LdifSource;
import org.sobercompass.sources.text.Moments;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/** Reads compass.yaml and all it names. */
final class WorkspaceReader {
  static final String MAIN = "compass.yaml";
  private static final Set<String> KEYS =
      Set.of("zone", "directories", "applications", "separation");

  private final Path root;
  private final Set<String> needs = new TreeSet<>();
  private final Problems problems = new Problems();
  private final Map<String, Node> applications = new LinkedHashMap<>();

  WorkspaceReader(Path root, Set<String> attributes) {
    this.root = root;
    for (String attribute : attributes) {
      needs.add(attribute.toLowerCase(Locale.ROOT));
    }
  }

  Workspace read() {
    if (!Files.isRegularFile(root.resolve(MAIN))) {
      problems.error(
          Place.of(root.resolve(MAIN).toString()),
          "there is no workspace here",
          "a folder with " + MAIN + "; `sober begin DIR` makes one");
      problems.throwIfErrors();
    }
    Node main =
        YamlReader.read(root.resolve(MAIN), MAIN, problems).orElseGet(Node::nothing).only(KEYS);
    problems.throwIfErrors();
    ZoneId zone = zone(main);
    List<DirectoryFile> directories = directories(main, zone);
    FactsCache cache = new FactsCache(root, directories);
    applications(main);
    Facts facts = facts(directories, cache);
    List<AccessSystem> systems = systems(facts, directories, zone);
    List<SeparationRule> rules =
        new SeparationReader(systems, problems).read(main.get("separation"));
    problems.throwIfErrors();
    List<Problem> told = new ArrayList<>(facts.arrays().problems());
    told.addAll(problems.list());
    return new Workspace(root, zone, facts, systems, rules, List.copyOf(told));
  }

  private ZoneId zone(Node main) {
    String text = main.text("zone").orElse("UTC");
    try {
      return ZoneId.of(text);
    } catch (DateTimeException e) {
      problems.error(
          main.get("zone").map(Node::place).orElse(main.place()),
          Problem.quote(text) + " is no time zone",
          "a zone like Europe/Lisbon or UTC");
      return ZoneOffset.UTC;
    }
  }

  private List<DirectoryFile> directories(Node main, ZoneId zone) {
    List<DirectoryFile> files = new ArrayList<>();
    Optional<Node> all = main.get("directories");
    if (all.isEmpty()) {
      main.wrong("there are no directories", "directories: and at least one");
    }
    all.ifPresent(
        node -> node.entries().forEach((name, entry) -> files.add(directory(name, entry, zone))));
    return files;
  }

  private DirectoryFile directory(String name, Node node, ZoneId zone) {
    node.only(Set.of("kind", "file", "taken", "login-attribute"));
    if (!name.matches("[a-z0-9][a-z0-9-]*")) {
      node.wrong(
          Problem.quote(name) + " is no name for a directory",
          "lower-case letters, digits and hyphens");
    }
    String kindWord = node.text("kind").orElse(DirectoryKind.STANDARD.id());
    Optional<DirectoryKind> kind = DirectoryKind.of(kindWord);
    if (kind.isEmpty()) {
      List<String> known = DirectoryKind.ALL.stream().map(DirectoryKind::id).toList();
      problems.unknown(
          node.place(),
          Problem.quote(kindWord) + " is no kind of directory",
          "one of " + String.join(", ", known),
          kindWord,
          known);
    }
    long taken = Facts.NEVER;
    Optional<String> written = node.text("taken");
    if (written.isPresent()) {
      Optional<Instant> at = Moments.begin(written.get(), zone);
      if (at.isEmpty()) {
        node.wrong("taken: " + Problem.quote(written.get()) + " is no date", Moments.EXPECTED);
      }
      taken = at.map(Instant::getEpochSecond).orElse(Facts.NEVER);
    }
    DirectoryKind used = kind.orElse(DirectoryKind.STANDARD);
    Optional<String> login = node.text("login-attribute");
    return new DirectoryFile(
        name, login.map(used::withLogin).orElse(used), node.need("file"), taken);
  }

  private void applications(Node main) {
    Set<String> ids = new HashSet<>();
    for (Node entry : main.get("applications").map(Node::items).orElse(List.of())) {
      String file = entry.text();
      YamlReader.read(root.resolve(file), file, problems)
          .ifPresent(
              node -> {
                if (applications.putIfAbsent(file, node) != null
                    || !ids.add(node.text("id").orElse(file))) {
                  entry.wrong(
                      "the application " + node.text("id").orElse(file) + " stands twice",
                      "each once");
                }
                format(node, problems)
                    .ifPresent(format -> needs.addAll(format.needs(node, problems)));
              });
    }
  }

  private static Optional<SystemFormat> format(Node node, Problems problems) {
    String kind = node.text("kind").orElse("roles");
    Optional<SystemFormat> format = SystemFormats.of(kind);
    if (format.isEmpty()) {
      problems.unknown(
          node.place(),
          Problem.quote(kind) + " is no kind of system",
          "one of " + String.join(", ", SystemFormats.kinds()),
          kind,
          SystemFormats.kinds());
    }
    return format;
  }

  private Facts facts(List<DirectoryFile> directories, FactsCache cache) {
    problems.throwIfErrors();
    Optional<Facts> cached = cache.read(needs);
    if (cached.isPresent()) {
      return cached.get();
    }
    Problems reading = new Problems();
    FactsBuilder builder = new FactsBuilder(needs, DnForm::of, reading);
    for (DirectoryFile directory : directories) {
      FactsSource source = builder.source(directory.name());
      source.taken(directory.taken());
      new LdifSource(directory.file(), directory.kind(), source, reading)
          .read(root.resolve(directory.file()));
    }
    Facts facts = builder.build();
    reading.throwIfErrors();
    cache.write(facts, needs);
    return facts;
  }

  /** The applications, each read on its own, with problems of its own; kept in the order named. */
  private List<AccessSystem> systems(Facts facts, List<DirectoryFile> directories, ZoneId zone) {
    Set<String> names = new TreeSet<>();
    directories.forEach(directory -> names.add(directory.name()));
    List<Problems> told = new ArrayList<>();
    // A pool of its own: with one or two processors the common one starts a thread for each task.
    ExecutorService pool = Executors.newFixedThreadPool(Runtime.getRuntime().availableProcessors());
    List<CompletableFuture<Optional<AccessSystem>>> reading = new ArrayList<>();
    for (Node node : applications.values()) {
      Problems own = new Problems();
      told.add(own);
      var context =
          new SystemFormat.Context(root, facts, new NameResolver(facts, own), zone, names, own);
      Node moved = node.tellingTo(own);
      reading.add(
          CompletableFuture.supplyAsync(
              () -> format(moved, own).map(f -> f.read(moved, context)), pool));
    }
    pool.shutdown();
    List<AccessSystem> systems = new ArrayList<>();
    for (int i = 0; i < reading.size(); i++) {
      join(reading.get(i)).ifPresent(systems::add);
      problems.addAll(told.get(i));
    }
    return systems;
  }

  private static <T> T join(CompletableFuture<T> future) {
    try {
      return future.join();
    } catch (CompletionException e) {
      throw e.getCause() instanceof RuntimeException cause ? cause : e;
    }
  }

  /** One directory of the workspace, as configured. */
  record DirectoryFile(String name, DirectoryKind kind, String file, long taken) {
    /** All that changes what is read, as one text that is the same in every process. */
    String settings() {
      return String.join("\n", name, kind.id(), kind.logins().toString(), file, "" + taken, "");
    }
  }
}
