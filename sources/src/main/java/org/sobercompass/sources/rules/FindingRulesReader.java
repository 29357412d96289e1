package org.sobercompass.sources.rules;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Thresholds;
import org.sobercompass.core.findings.Usage;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.Node;

/** Reads what findings are made by: {@code separation}, {@code findings} and {@code usage}. */
public final class FindingRulesReader {
  private static final Set<String> KEYS =
      Set.of(
          "accepted",
          "broad",
          "everyday",
          "powerful",
          "services",
          "peers",
          "dormant",
          "nesting",
          "unused",
          "used-share",
          "emergency",
          "everywhere",
          "owners",
          "owner-attributes",
          "both-sides",
          "blocking-roles",
          "from-anywhere",
          "sensitive",
          "weights",
          "off",
          "removals",
          "routine");
  private static final Set<String> OWNED = Set.of("applications", "groups", "scopes");

  /** What accounts may say of their password and shell. */
  private static final Set<String> OF_ACCOUNTS =
      Set.of("useraccountcontrol", "shadowmax", "loginshell", "whencreated", "createtimestamp");

  private final Folder root;
  private final ZoneId zone;
  private final Facts facts;
  private final List<AccessSystem> systems;
  private final SideReader sides;
  private final Administration administration;
  private final Problems problems;

  /** A reader of the rules over these facts and systems. */
  public FindingRulesReader(
      Folder root,
      ZoneId zone,
      Facts facts,
      List<AccessSystem> systems,
      Administration administration,
      Problems problems) {
    this.root = root;
    this.zone = zone;
    this.facts = facts;
    this.systems = systems;
    this.sides = new SideReader(systems, administration, facts, problems);
    this.administration = administration;
    this.problems = problems;
  }

  /** The attributes (lower case) that the rules of a workspace need. */
  public static Set<String> needs(Node main) {
    Node node = main.get("findings").orElseGet(Node::nothing);
    Set<String> needs = new TreeSet<>(OF_ACCOUNTS);
    needs.addAll(lower(node.get("peers").map(n -> n.texts("by")).orElse(List.of())));
    needs.addAll(signIn(node));
    needs.addAll(ownerAttributes(node));
    return needs;
  }

  /** The files that the rules of a workspace name, relative to it. */
  public static List<String> files(Node main) {
    List<String> files = new ArrayList<>(main.texts("separation-table"));
    for (Node usage : main.get("usage").map(Node::items).orElse(List.of())) {
      files.addAll(usage.texts("file"));
    }
    files.addAll(main.texts("waivers"));
    files.addAll(main.texts("expectations"));
    return files;
  }

  private static List<String> lower(List<String> names) {
    return names.stream().map(name -> name.toLowerCase(Locale.ROOT)).toList();
  }

  private static List<String> signIn(Node node) {
    List<String> named =
        lower(node.get("dormant").map(n -> n.texts("attributes")).orElse(List.of()));
    return named.isEmpty() ? FindingRules.SIGN_IN_ATTRIBUTES : named;
  }

  private static List<String> ownerAttributes(Node node) {
    List<String> named = lower(node.texts("owner-attributes"));
    return named.isEmpty() ? FindingRules.OWNER_ATTRIBUTES : named;
  }

  /** Reads them; what is wrong goes to the problems. */
  public FindingRules read(Node main) {
    List<SeparationRule> separation =
        new SeparationReader(sides)
            .read(main.get("separation"), main.get("separation-table"), root);
    Node node = main.get("findings").orElseGet(Node::nothing).only(KEYS);
    Optional<Node> broad = node.get("broad").map(n -> n.only(Set.of("share", "groups")));
    Optional<Node> peers = node.get("peers").map(n -> n.only(Set.of("by", "at-least", "share")));
    Optional<Node> services = node.get("services").map(n -> n.only(Set.of("accounts", "may-hold")));
    return new FindingRules.Builder()
        .separation(separation)
        .thresholds(thresholds(node, broad, peers))
        .broad(subjects(broad, "groups"))
        .everyday(permissions(node, "everyday"))
        .powerful(permissions(node, "powerful"))
        .services(subjects(services, "accounts"))
        .ofServices(services.map(n -> permissions(n, "may-hold")).orElse(List.of()))
        .peers(lower(peers.map(n -> n.texts("by")).orElse(List.of())))
        .owners(owners(node))
        .ownerAttributes(ownerAttributes(node))
        .bothSides(applications(node))
        .signInAttributes(signIn(node))
        .blockingRoles(node.yes("blocking-roles", false))
        .fromAnywhere(powers(node))
        .sensitive(sensitive(node))
        .usage(usage(main))
        .weights(weights(node))
        .off(off(node))
        .removals(new WishesReader(systems, sides).read(node.get("removals")))
        .routine(new RoutineReader(systems, sides, facts, problems).read(node.get("routine")))
        .build();
  }

  private Thresholds thresholds(Node node, Optional<Node> broad, Optional<Node> peers) {
    Optional<Node> dormant = node.get("dormant").map(n -> n.only(Set.of("days", "attributes")));
    Optional<Node> all = Optional.of(node);
    Thresholds usual = Thresholds.USUAL;
    return new Thresholds(
        number(broad, "share", usual.broadPercent(), 1, 100),
        number(all, "everywhere", usual.narrower(), 1, 1000),
        number(dormant, "days", usual.dormantDays(), 1, 36_500),
        number(all, "nesting", usual.nesting(), 1, 1000),
        number(all, "unused", usual.unusedDays(), 1, 36_500),
        number(all, "used-share", usual.usedPercent(), 0, 100),
        number(all, "emergency", usual.untriedDays(), 1, 36_500),
        number(peers, "at-least", usual.peersAtLeast(), 2, 1_000_000),
        number(peers, "share", usual.peersPercent(), 0, 99));
  }

  private static int number(Optional<Node> node, String key, int usual, int least, int most) {
    Optional<String> text = node.flatMap(n -> n.text(key));
    if (text.isEmpty()) {
      return usual;
    }
    boolean isNumber = text.get().matches("-?[0-9]{1,7}");
    int value = isNumber ? Integer.parseInt(text.get()) : least - 1;
    if (value < least || value > most) {
      Node at = node.get().get(key).orElse(node.get());
      at.wrong(
          key
              + ": "
              + Problem.quote(text.get())
              + (isNumber ? " is out of range" : " is no whole number"),
          "a number from " + least + " to " + most + "; without it " + usual);
      return usual;
    }
    return value;
  }

  private Set<Integer> subjects(Optional<Node> node, String key) {
    Set<Integer> found = new HashSet<>();
    for (Node item : node.flatMap(n -> n.get(key)).map(Node::items).orElse(List.of())) {
      int subject = sides.subject(item.text(), item.place());
      if (subject >= 0) {
        found.add(subject);
      }
    }
    return found;
  }

  private List<Permission> permissions(Node node, String key) {
    return node.get(key).map(Node::items).orElse(List.of()).stream()
        .flatMap(item -> sides.permission(item.text(), item.place()).stream())
        .toList();
  }

  private Set<String> owners(Node node) {
    Set<String> found = new HashSet<>();
    for (Node item : node.get("owners").map(Node::items).orElse(List.of())) {
      if (!OWNED.contains(item.text())) {
        problems.unknown(
            item.place(),
            Problem.quote(item.text()) + " is nothing that has an owner",
            "applications, groups or scopes",
            item.text(),
            OWNED);
      }
      found.add(item.text());
    }
    return found;
  }

  private Set<String> applications(Node node) {
    Set<String> found = new HashSet<>();
    for (Node item : node.get("both-sides").map(Node::items).orElse(List.of())) {
      sides.system(item.text(), item.text(), item.place()).ifPresent(s -> found.add(s.id()));
    }
    return found;
  }

  /** Powers are those of directories and applications, and the ones that the workspace names. */
  private Set<String> powers(Node node) {
    Set<String> known = new TreeSet<>(facts.arrays().sources());
    systems.forEach(system -> known.add(system.id()));
    administration.powers().forEach(power -> known.add(power.id()));
    Set<String> found = new HashSet<>();
    for (Node item : node.get("from-anywhere").map(Node::items).orElse(List.of())) {
      if (!known.contains(item.text())) {
        problems.unknown(
            item.place(),
            "there is no power " + Problem.quote(item.text()),
            "a directory, an application or a power of the workspace",
            item.text(),
            known);
      }
      found.add(item.text());
    }
    return found;
  }

  /** Places that not everyone should read; one that is not there is told. */
  private Set<String> sensitive(Node node) {
    Set<String> found = new TreeSet<>();
    for (Node item : node.get("sensitive").map(Node::items).orElse(List.of())) {
      String text = item.text();
      int colon = text.indexOf(':');
      boolean there =
          colon > 0
              && systems.stream()
                  .filter(system -> system.id().equals(text.substring(0, colon)))
                  .anyMatch(s -> s.resources().find(text.substring(colon + 1)).isPresent());
      if (there) {
        found.add(text);
      } else {
        item.wrong(
            Problem.quote(text) + " is no place of an application",
            "an application, a colon and a node, as in fieldshare:/office/finance");
      }
    }
    return found;
  }

  private Map<FindingKind, Weight> weights(Node node) {
    Map<FindingKind, Weight> weights = new EnumMap<>(FindingKind.class);
    node.get("weights")
        .map(Node::entries)
        .orElse(Map.of())
        .forEach(
            (id, value) ->
                kind(id, value)
                    .ifPresent(
                        kind -> weights.put(kind, sides.weight(value.text(), value.place()))));
    return weights;
  }

  private Set<FindingKind> off(Node node) {
    Set<FindingKind> off = EnumSet.noneOf(FindingKind.class);
    for (Node item : node.get("off").map(Node::items).orElse(List.of())) {
      kind(item.text(), item).ifPresent(off::add);
    }
    return off;
  }

  private Optional<FindingKind> kind(String id, Node at) {
    Optional<FindingKind> found =
        Arrays.stream(FindingKind.values()).filter(kind -> kind.id().equals(id)).findFirst();
    if (found.isEmpty()) {
      problems.unknown(
          at.place(),
          "there is no kind of finding " + Problem.quote(id),
          "a kind that docs/findings.md lists",
          id,
          Arrays.stream(FindingKind.values()).map(FindingKind::id).toList());
    }
    return found;
  }

  private Usage usage(Node main) {
    Map<String, Usage.OfSystem> all = new HashMap<>();
    long now = latest();
    for (Node node : main.get("usage").map(Node::items).orElse(List.of())) {
      node.only(Set.of("application", "file", "since"));
      String id = node.need("application");
      Optional<AccessSystem> system = sides.system(id, id, node.place());
      String file = node.need("file");
      Optional<Instant> since =
          UsageReader.moment(node.need("since"), "since", zone, node.place(), problems);
      if (system.isPresent() && since.isPresent()) {
        long from = since.get().getEpochSecond();
        Usage.OfSystem read =
            new UsageReader(file, system.get(), facts, zone, now, problems)
                .read(root.resolve(file), from);
        if (all.putIfAbsent(id, read) != null) {
          node.wrong("the usage of " + id + " stands twice", "each application once");
        }
      }
    }
    return new Usage(all);
  }

  /** When the directories were read: what is said of later is a date in the future. */
  private long latest() {
    long latest = Long.MIN_VALUE;
    for (long taken : facts.arrays().taken()) {
      latest = taken == Facts.NEVER ? latest : Math.max(latest, taken);
    }
    return latest == Long.MIN_VALUE
        ? java.time.Clock.systemUTC().instant().getEpochSecond()
        : latest;
  }
}
