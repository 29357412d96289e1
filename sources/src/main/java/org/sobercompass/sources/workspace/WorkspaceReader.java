package org.sobercompass.sources.workspace;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
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
import java.util.stream.Collectors;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.crosswalk.Crosswalk;
import org.sobercompass.core.expect.Expectation;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.Waiver;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.SystemFormat;
import org.sobercompass.sources.SystemFormats;
import org.sobercompass.sources.crosswalk.CrosswalkFile;
import org.sobercompass.sources.crosswalk.CrosswalkSettings;
import org.sobercompass.sources.delegation.AdminReader;
import org.sobercompass.sources.delegation.CatalogueReader;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.rules.ExpectationReader;
import org.sobercompass.sources.rules.FindingRulesReader;
import org.sobercompass.sources.rules.WaiverReader;
import org.sobercompass.sources.survey.SurveyFile;
import org.sobercompass.sources.survey.SurveyPart;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YamlReader;

/** Reads compass.yaml and all it names. */
final class WorkspaceReader {
  static final String MAIN = "compass.yaml";
  private static final Set<String> KEYS =
      Set.of(
          "zone",
          "directories",
          "applications",
          "separation",
          "separation-table",
          "findings",
          "usage",
          "waivers",
          "expectations",
          "groups",
          "persons",
          "crosswalks",
          "admin");

  /**
   * What accounts, groups and memberships are made of: answers depend on it when it is withheld.
   */
  private static final Set<String> WEIGHTY =
      Set.of(
          "objectclass",
          "member",
          "uniquemember",
          "memberuid",
          "memberurl",
          "uid",
          "samaccountname",
          "objectsid",
          "gidnumber");

  private final Workspace.Origin origin;
  private final Folder root;
  private final Set<String> needs = new TreeSet<>();
  private final Problems problems = new Problems();
  private final Map<String, Node> applications = new LinkedHashMap<>();

  private final Optional<SurveyFile> frozen;
  private RuleGroups rules = RuleGroups.NONE;
  private ZoneId zone = ZoneOffset.UTC;

  WorkspaceReader(Workspace.Origin origin) {
    this.origin = origin;
    this.root = origin.folder();
    this.frozen = origin.survey();
    for (String attribute : origin.attributes()) {
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
    zone = zone(main, problems);
    List<DirectorySettings> directories =
        DirectorySettings.read(main, zone, Folder.of(root.path()), problems);
    problems.throwIfErrors();
    List<Export> exports = exports(directories);
    rules = RuleGroups.read(main.get("groups"), directories, problems);
    FactsCache cache = new FactsCache(root.path(), exports, rules.settings());
    applications(main);
    needs.addAll(PersonReader.attributes(main));
    List<CrosswalkSettings> crosswalks =
        CrosswalkSettings.read(
            main,
            directories.stream().map(DirectorySettings::name).collect(Collectors.toSet()),
            problems);
    crosswalks.forEach(crosswalk -> needs.addAll(crosswalk.plan().needs()));
    needs.addAll(FindingRulesReader.needs(main));
    Optional<Node> admin =
        main.text("admin").flatMap(file -> YamlReader.read(root.resolve(file), file, problems));
    admin.ifPresent(file -> needs.addAll(AdminReader.needs(file)));
    Facts facts = facts(exports, cache);
    NamedAttributes.tell(main, facts, problems);
    List<AccessSystem> systems = systems(facts, directories, zone);
    List<Crosswalk> tables =
        crosswalks.stream()
            .map(
                crosswalk ->
                    new CrosswalkFile(facts, crosswalk, problems)
                        .read(root.resolve(crosswalk.file()), crosswalk.file()))
            .toList();
    Persons persons = PersonReader.read(main, root, facts, tables, problems);
    Administration administration =
        new AdminReader(
                root,
                facts,
                directories.stream().map(DirectorySettings::name).toList(),
                zone,
                frozen.map(survey -> survey.catalogue(CatalogueReader.NAME)),
                problems)
            .read(admin.orElseGet(Node::nothing));
    problems.throwIfErrors(facts.arrays().problems());
    FindingRules findingRules =
        new FindingRulesReader(root, zone, facts, systems, administration, problems).read(main);
    problems.throwIfErrors(facts.arrays().problems());
    List<Waiver> waivers =
        new WaiverReader(root, zone, facts, problems).read(main.texts("waivers"));
    List<Expectation> expectations =
        new ExpectationReader(root, facts, systems, administration, problems)
            .read(main.texts("expectations"));
    AnsweringReader answering = new AnsweringReader(facts, problems);
    Assessment.Owned owned =
        answering.owned(applications.values(), admin.orElseGet(Node::nothing), systems);
    List<Assessment.ReadingAccount> readers = answering.readers(directories, applications.values());
    Optional<Path> accepted = accepted(main);
    problems.throwIfErrors(facts.arrays().problems());
    List<Problem> told = new ArrayList<>(facts.arrays().problems());
    told.addAll(problems.list());
    List<TreeFile> trees =
        exports.stream()
            .filter(export -> export.settings().kind().hasLists())
            .map(
                export ->
                    new TreeFile(
                        export.settings().name(),
                        export.path(),
                        export.shown(),
                        export.settings().names().stream().map(root::resolve).toList(),
                        export.settings().implicitEverywhere()))
            .toList();
    return new Workspace(
        origin,
        zone,
        facts,
        systems,
        findingRules,
        persons,
        crosswalks,
        tables,
        administration,
        exports.stream().map(e -> e.directory(zone)).toList(),
        trees,
        owned,
        readers,
        accepted,
        directories.stream()
            .filter(directory -> directory.kind().isLocal())
            .map(DirectorySettings::name)
            .collect(Collectors.toSet()),
        waivers,
        expectations,
        told.stream().distinct().toList());
  }

  /**
   * Systems and rules over facts that were read elsewhere; whether all is right was asked there.
   */
  Mapping mapping(Facts facts) {
    Node main =
        YamlReader.read(root.resolve(MAIN), MAIN, problems).orElseGet(Node::nothing).only(KEYS);
    problems.throwIfErrors();
    zone = zone(main, problems);
    List<DirectorySettings> directories = DirectorySettings.read(main, zone, root, problems);
    rules = RuleGroups.read(main.get("groups"), directories, problems);
    applications(main);
    problems.throwIfErrors();
    List<AccessSystem> systems = systems(facts, directories, zone);
    Administration none =
        new AdminReader(
                root,
                facts,
                directories.stream().map(DirectorySettings::name).toList(),
                zone,
                Optional.empty(),
                problems)
            .read(Node.nothing());
    return new Mapping(
        systems, new FindingRulesReader(root, zone, facts, systems, none, problems).read(main));
  }

  /** The survey by which the directories' lists were accepted; one that is not here is told. */
  private Optional<Path> accepted(Node main) {
    Optional<Node> named = main.get("findings").flatMap(findings -> findings.get("accepted"));
    Optional<Path> survey =
        frozen.isPresent() ? Optional.empty() : named.map(Node::text).map(root::resolve);
    if (named.isEmpty() || survey.filter(Files::isRegularFile).isPresent()) {
      return survey;
    }
    Node place = named.orElseThrow();
    String what = "accepted: there is no survey " + Problem.quote(place.text());
    if (frozen.isPresent()) {
      problems.warning(place.place(), what + " here, so all that was added counts", "the survey");
    } else {
      problems.error(place.place(), what, "the path of a survey, as sober survey list names it");
    }
    return Optional.empty();
  }

  static ZoneId zone(Node main, Problems problems) {
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

  /** Where the entries of each directory stand: an export, or a part of a survey. */
  private Export ofFile(DirectorySettings directory) {
    return new Export(
        directory,
        root.resolve(directory.file()),
        directory.file(),
        directory.taken(),
        directory.schema().map(root::resolve),
        directory.schema().orElse(""),
        List.of());
  }

  private static Export ofSurvey(DirectorySettings directory, SurveyFile survey, SurveyPart part) {
    return new Export(
        directory,
        survey.entries(part),
        part.file(),
        part.dated() ? part.ended().getEpochSecond() : Facts.NEVER,
        survey.schema(part),
        part.schema().orElse(""),
        part.completeness().stream().filter(c -> c.withheld() > 0).toList());
  }

  private List<Export> exports(List<DirectorySettings> directories) {
    List<Export> exports = new ArrayList<>();
    Optional<SurveyFile> survey =
        frozen.isPresent() || directories.stream().noneMatch(DirectorySettings::isLive)
            ? frozen
            : Surveys.latest(root.path());
    for (DirectorySettings directory : directories) {
      Optional<SurveyPart> part = survey.flatMap(s -> s.part(directory.name()));
      if (frozen.isEmpty() && !directory.isLive()) {
        exports.add(ofFile(directory));
      } else if (part.isPresent()) {
        exports.add(ofSurvey(directory, survey.orElseThrow(), part.get()));
      } else {
        problems.error(
            directory.place(),
            "the directory " + directory.name() + " is live, and no survey of it is there",
            "`sober survey`, which takes one");
      }
    }
    return exports;
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

  static Optional<SystemFormat> format(Node node, Problems problems) {
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

  private Facts facts(List<Export> exports, FactsCache cache) {
    problems.throwIfErrors();
    boolean asRead = origin.expected().isEmpty();
    Optional<Facts> cached = asRead ? cache.read(needs) : Optional.empty();
    if (cached.isPresent()) {
      return cached.get();
    }
    Problems reading = new Problems();
    FactsBuilder builder = build(exports, needs, reading);
    if (!builder.missing().isEmpty()) {
      Set<String> more = new TreeSet<>(needs);
      more.addAll(builder.missing());
      reading = new Problems();
      builder = build(exports, more, reading);
    }
    Facts facts = builder.build();
    reading.throwIfErrors();
    if (asRead) {
      cache.write(facts, needs);
    }
    return facts;
  }

  /** Reads all directories; rules may ask for attributes that only a second reading keeps. */
  private FactsBuilder build(List<Export> exports, Set<String> attributes, Problems reading) {
    FactsBuilder builder = new FactsBuilder(attributes, DnForm::of, reading);
    for (Export export : exports) {
      FactsSource source = builder.source(export.settings().name());
      source.taken(export.taken());
      export.withheld().stream()
          .filter(c -> WEIGHTY.contains(c.attribute()) || attributes.contains(c.attribute()))
          .forEach(c -> source.withheld(c.attribute(), c.withheld()));
      export.settings().kind().read(export.source(zone), source, reading);
    }
    rules.add(builder);
    builder.expected();
    for (Export export : exports) {
      String directory = export.settings().name();
      List<Step.Presence> created =
          origin.expected().stream().filter(c -> c.subject().source().equals(directory)).toList();
      if (!created.isEmpty()) {
        export
            .settings()
            .kind()
            .readCreated(created, export.source(zone), builder.source(directory), reading);
      }
    }
    return builder;
  }

  /** The applications, each read on its own, with problems of its own; kept in the order named. */
  private List<AccessSystem> systems(
      Facts facts, List<DirectorySettings> directories, ZoneId zone) {
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
}
