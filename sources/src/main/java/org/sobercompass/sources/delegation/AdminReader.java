package org.sobercompass.sources.delegation;

import java.nio.file.Path;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Console;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.FilterSyntaxException;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.scopes.ScopeSystem;
import org.sobercompass.sources.FileSettings;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Moments;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YesNo;

/**
 * Reads what a workspace states of delegated administration: its file {@code admin:} with scopes,
 * roles, further actions and the console, and the CSV files it names. Not thread-safe.
 */
public final class AdminReader {
  private static final Set<String> ITEMS =
      Set.of("subtree", "account", "group", "unit", "file", "where", "scope");
  private static final List<String> LISTED = List.of("kind", "subject");
  private static final List<String> ASSIGNED =
      List.of("role", "kind", "subject", "scope", "from", "until", "on");

  private final Folder root;
  private final Facts facts;
  private final List<String> directories;
  private final ZoneId zone;
  private final Problems problems;
  private final NameResolver names;
  private final Optional<Path> catalogue;

  /**
   * A reader.
   *
   * @param root the folder of the workspace
   * @param directories the names of its directories
   * @param zone in which dates are whole days
   * @param catalogue admin actions kept with a survey, instead of those that ship
   */
  public AdminReader(
      Folder root,
      Facts facts,
      List<String> directories,
      ZoneId zone,
      Optional<Path> catalogue,
      Problems problems) {
    this.catalogue = catalogue;
    this.root = root;
    this.facts = facts;
    this.directories = List.copyOf(directories);
    this.zone = zone;
    this.problems = problems;
    this.names = new NameResolver(facts, problems);
  }

  /** The attributes (lower case) that the rules of scopes ask for. */
  public static Set<String> needs(Node file) {
    Set<String> needs = new LinkedHashSet<>();
    for (Node scope : file.get("scopes").map(Node::entries).orElse(Map.of()).values()) {
      for (String side : List.of("include", "except")) {
        for (Node item : scope.get(side).map(Node::items).orElse(List.of())) {
          item.get("where")
              .flatMap(where -> filter(where, false))
              .ifPresent(filter -> filter.collectAttributes(needs));
        }
      }
    }
    return needs;
  }

  /** The further files it names, relative to the workspace. */
  public static List<String> files(Node file) {
    List<String> files = new ArrayList<>(file.texts("assignments"));
    for (Node scope : file.get("scopes").map(Node::entries).orElse(Map.of()).values()) {
      for (String side : List.of("include", "except")) {
        scope
            .get(side)
            .map(Node::items)
            .orElse(List.of())
            .forEach(i -> files.addAll(i.texts("file")));
      }
    }
    return files;
  }

  /** All of it. */
  public Administration read(Node file) {
    file.only(Set.of("console", "actions", "scopes", "roles", "assignments", "powers"));
    List<AdminAction> actions = actions(file);
    List<AdminScope> scopes = scopes(file);
    List<AdminRole> roles = roles(file, actions);
    List<AdminGrant> grants = new ArrayList<>();
    for (String name : file.texts("assignments")) {
      new CsvReader(name, ASSIGNED, List.of("role", "kind", "subject", "scope"), problems)
          .read(root.resolve(name), row -> grant(row, roles, scopes).ifPresent(grants::add));
    }
    List<NamedPower> powers = new ArrayList<>();
    file.get("powers")
        .map(Node::entries)
        .orElse(Map.of())
        .forEach((id, node) -> powers.add(power(id, node)));
    Administration all =
        new Administration(actions, scopes, roles, grants, console(file.get("console")), powers);
    String name = file.place().file();
    return name.isEmpty() ? all : all.with(settings(name));
  }

  private List<AdminAction> actions(Node file) {
    return CatalogueReader.read(catalogue, file.get("actions"), problems);
  }

  private List<AdminScope> scopes(Node file) {
    List<AdminScope> scopes = new ArrayList<>();
    Map<String, Node> nodes = file.get("scopes").map(Node::entries).orElse(Map.of());
    nodes.forEach((id, node) -> scopes.add(scope(id, node, nodes.keySet())));
    return scopes;
  }

  private List<AdminRole> roles(Node file, List<AdminAction> actions) {
    List<AdminRole> roles = new ArrayList<>();
    file.get("roles")
        .map(Node::entries)
        .orElse(Map.of())
        .forEach((id, node) -> roles.add(role(id, node, actions)));
    return roles;
  }

  /** Its scopes and roles as they could be written otherwise. */
  private FileSettings settings(String name) {
    return new FileSettings(
        root.resolve(name),
        name,
        Map.of("scopes", true, "roles", true),
        (node, telling) ->
            new AdminReader(root, facts, directories, zone, catalogue, telling).defined(node),
        (node, telling) -> needs(node));
  }

  private AccessSystem defined(Node file) {
    List<AdminAction> actions = actions(file);
    return ScopeSystem.of(
        facts,
        new ActionRights(actions),
        scopes(file),
        roles(file, actions),
        List.of(),
        Optional.empty());
  }

  /** A power that the workspace names by those who hold it. */
  private NamedPower power(String id, Node node) {
    node.only(Set.of("name", "accounts", "groups", "application"));
    List<Integer> holders = new ArrayList<>();
    for (Node item : node.get("accounts").map(Node::items).orElse(List.of())) {
      holders.add(names.resolve(SubjectKind.ACCOUNT, item.text(), item.place()));
    }
    for (Node item : node.get("groups").map(Node::items).orElse(List.of())) {
      holders.add(names.resolve(SubjectKind.GROUP, item.text(), item.place()));
    }
    holders.removeIf(holder -> holder < 0);
    if (holders.isEmpty()) {
      node.wrong("nobody holds the power", "accounts: or groups: and who holds it");
    }
    boolean ofApplication = node.yes("application", false);
    return new NamedPower(id, node.text("name").orElse(id), !ofApplication, holders);
  }

  private Console console(Optional<Node> node) {
    return node.map(
            n -> {
              n.only(Set.of("name", "directories", "hosts", "sign-in"));
              return new Console(
                  n.text("name").orElse(""),
                  n.texts("directories"),
                  n.texts("hosts"),
                  n.text("sign-in").orElse(""));
            })
        .orElse(Console.ANY);
  }

  private AdminScope scope(String id, Node node, Set<String> known) {
    node.only(Set.of("name", "owner", "include", "except"));
    List<ScopeItem> include = items(node, "include", known);
    if (include.isEmpty()) {
      node.wrong("the scope includes nothing", "include: and a list");
    }
    return new AdminScope(
        id, node.text("name").orElse(id), include, items(node, "except", known), node.place());
  }

  private List<ScopeItem> items(Node node, String side, Set<String> known) {
    List<ScopeItem> items = new ArrayList<>();
    for (Node item : node.get(side).map(Node::items).orElse(List.of())) {
      item(item, known).ifPresent(items::add);
    }
    return items;
  }

  private Optional<ScopeItem> item(Node node, Set<String> known) {
    Set<String> allowed = new LinkedHashSet<>(ITEMS);
    allowed.addAll(Set.of("groups", "nested", "directory"));
    node.only(allowed);
    List<String> named = node.entries().keySet().stream().filter(ITEMS::contains).toList();
    if (named.size() != 1) {
      node.wrong(
          named.isEmpty()
              ? "the line names nothing"
              : "the line names " + String.join(" and ", named),
          "one of " + String.join(", ", ITEMS.stream().sorted().toList()));
      return Optional.empty();
    }
    Node value = node.get(named.get(0)).orElse(node);
    Optional<GroupMeaning> groups = groups(node);
    String words = named.get(0) + " " + value.text();
    return switch (named.get(0)) {
      case "subtree" -> subtree(node, value, groups, words);
      case "where" -> rule(node, value, groups, words);
      case "scope" -> other(node, value, known, words);
      case "file" -> Optional.of(listed(file(value), groups, node, words));
      default -> {
        SubjectKind kind =
            named.get(0).equals("account")
                ? SubjectKind.ACCOUNT
                : named.get(0).equals("group") ? SubjectKind.GROUP : SubjectKind.UNIT;
        int subject = names.resolve(kind, value.text(), value.place());
        yield Optional.of(listed(subject < 0 ? List.of() : List.of(subject), groups, node, words));
      }
    };
  }

  private static ScopeItem listed(
      List<Integer> subjects, Optional<GroupMeaning> groups, Node node, String words) {
    return new ScopeItem.Listed(subjects, groups, node.place(), words);
  }

  private Optional<ScopeItem> subtree(
      Node node, Node value, Optional<GroupMeaning> groups, String words) {
    if (!DnForm.isDn(value.text())) {
      value.wrong(
          Problem.quote(value.text()) + " is no DN", "a DN like ou=people,dc=example,dc=org");
      return Optional.empty();
    }
    String form = DnForm.of(value.text());
    List<String> units = new ArrayList<>();
    boolean any = false;
    for (int subject = 0; subject < facts.subjects() && !any; subject++) {
      String own = facts.arrays().dnForm().get(subject);
      any = own.equals(form) || own.endsWith("," + form);
      if (facts.kind(subject) == SubjectKind.UNIT) {
        units.add(own);
      }
    }
    if (!any) {
      problems.add(
          Problem.warning(
                  value.place(),
                  "nothing that was read stands at or below " + Problem.quote(value.text()),
                  "the DN of a branch; the line brings nobody in")
              .near(Spelling.nearest(form, units).orElse("")));
    }
    return Optional.of(new ScopeItem.Subtree(form, groups, node.place(), words));
  }

  private Optional<ScopeItem> rule(
      Node node, Node value, Optional<GroupMeaning> groups, String words) {
    String directory =
        node.text("directory").orElse(directories.isEmpty() ? "" : directories.get(0));
    if (!directories.contains(directory)
        || (directories.size() > 1 && node.text("directory").isEmpty())) {
      node.wrong(
          node.text("directory").isEmpty()
              ? "the rule does not say which directory it is about"
              : "there is no directory " + Problem.quote(directory),
          "directory: and one of " + String.join(", ", directories));
    }
    return filter(value, true)
        .map(filter -> new ScopeItem.Rule(directory, filter, groups, node.place(), words));
  }

  private static Optional<Filter> filter(Node value, boolean tell) {
    try {
      return Optional.of(FilterParser.parse(value.text()));
    } catch (FilterSyntaxException e) {
      if (tell) {
        value.wrong(
            "the filter " + Problem.quote(value.text()) + " is wrong at its column " + e.column(),
            e.expected());
      }
      return Optional.empty();
    }
  }

  private Optional<ScopeItem> other(Node node, Node value, Set<String> known, String words) {
    if (!known.contains(value.text())) {
      problems.unknown(
          value.place(),
          "there is no scope " + Problem.quote(value.text()),
          "one of " + String.join(", ", known),
          value.text(),
          known);
      return Optional.empty();
    }
    return Optional.of(new ScopeItem.Other(value.text(), node.place(), words));
  }

  private List<Integer> file(Node value) {
    List<Integer> subjects = new ArrayList<>();
    new CsvReader(value.text(), LISTED, LISTED, problems)
        .read(
            root.resolve(value.text()),
            row ->
                kind(row)
                    .ifPresent(
                        kind -> {
                          int subject = names.resolve(kind, row.get("subject"), row.place());
                          if (subject >= 0) {
                            subjects.add(subject);
                          }
                        }));
    return subjects;
  }

  private Optional<SubjectKind> kind(CsvReader.Row row) {
    return switch (row.get("kind").toLowerCase(Locale.ROOT)) {
      case "account" -> Optional.of(SubjectKind.ACCOUNT);
      case "group" -> Optional.of(SubjectKind.GROUP);
      case "unit" -> Optional.of(SubjectKind.UNIT);
      default -> {
        problems.unknown(
            row.place(),
            Problem.quote(row.get("kind")) + " is no kind of object",
            "account, group or unit",
            row.get("kind"),
            List.of("account", "group", "unit"));
        yield Optional.empty();
      }
    };
  }

  private static Optional<GroupMeaning> groups(Node node) {
    Optional<String> word = node.text("groups");
    boolean nested = node.yes("nested", false);
    if (word.isPresent() && !GroupMeaning.WORDS.contains(word.get())) {
      node.wrong(
          "groups: " + Problem.quote(word.get()) + " is not known", "object, members or both");
    }
    return word.flatMap(w -> GroupMeaning.of(w, nested));
  }

  private AdminRole role(String id, Node node, List<AdminAction> actions) {
    node.only(Set.of("name", "actions", "limitable"));
    List<String> known = actions.stream().map(AdminAction::id).toList();
    Set<String> given = new LinkedHashSet<>();
    for (Node item : node.get("actions").map(Node::items).orElse(List.of())) {
      if (known.contains(item.text())) {
        given.add(item.text());
      } else {
        problems.unknown(
            item.place(),
            "there is no admin action " + Problem.quote(item.text()),
            "one of " + String.join(", ", known),
            item.text(),
            known);
      }
    }
    if (given.isEmpty()) {
      node.wrong("the admin role has no action", "actions: and a list");
    }
    return new AdminRole(
        id, node.text("name").orElse(id), given, node.yes("limitable", true), node.place());
  }

  private Optional<AdminGrant> grant(
      CsvReader.Row row, List<AdminRole> roles, List<AdminScope> scopes) {
    int before = problems.errors();
    int role = find(row, "role", roles.stream().map(AdminRole::id).toList());
    String scopeId = row.get("scope");
    int scope =
        scopeId.equals("everything")
            ? AdminGrant.EVERYTHING
            : find(row, "scope", scopes.stream().map(AdminScope::id).toList());
    Optional<SubjectKind> kind = kind(row);
    long from = moment(row, "from", true);
    long until = moment(row, "until", false);
    Optional<Boolean> on = row.get("on").isEmpty() ? Optional.of(true) : YesNo.parse(row.get("on"));
    if (on.isEmpty()) {
      problems.error(
          row.place(), "on: " + Problem.quote(row.get("on")) + " is neither", "yes or no");
    }
    if (problems.errors() > before || kind.isEmpty()) {
      return Optional.empty();
    }
    int subject = names.trustee(kind.get(), row.get("subject"), row.place());
    return Optional.of(
        new AdminGrant(
            role, subject, row.get("subject"), scope, from, until, on.orElse(true), row.place()));
  }

  private int find(CsvReader.Row row, String column, List<String> known) {
    int found = known.indexOf(row.get(column));
    if (found < 0) {
      problems.unknown(
          row.place(),
          row.get(column).isEmpty()
              ? "there is no " + column
              : "there is no admin " + column + " " + Problem.quote(row.get(column)),
          "one of " + String.join(", ", known) + (column.equals("scope") ? ", or everything" : ""),
          row.get(column),
          known);
    }
    return found;
  }

  private long moment(CsvReader.Row row, String column, boolean begin) {
    String text = row.get(column);
    if (text.isEmpty()) {
      return begin ? Long.MIN_VALUE : Long.MAX_VALUE;
    }
    var at = begin ? Moments.begin(text, zone) : Moments.end(text, zone);
    if (at.isEmpty()) {
      problems.error(
          row.place(), column + ": " + Problem.quote(text) + " is no date", Moments.EXPECTED);
    }
    return at.map(java.time.Instant::getEpochSecond).orElse(0L);
  }
}
