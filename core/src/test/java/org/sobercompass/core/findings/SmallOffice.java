package org.sobercompass.core.findings;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Console;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.findings.details.Details;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.core.scope.ScopeItem;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.roles.ApplicationDefinition;
import org.sobercompass.core.system.roles.Combining;
import org.sobercompass.core.system.roles.RoleApplication;
import org.sobercompass.core.system.roles.RoleCompiler;
import org.sobercompass.core.system.roles.RoleDefinition;
import org.sobercompass.core.system.roles.RoleRights;
import org.sobercompass.core.system.scopes.ScopeSystem;

/**
 * A made-up organization for tests of finders, said in a few words: a directory {@code d}, and
 * applications with the nodes top, north and south, the areas a and b, and the roles reader (sees
 * all), clerk (edits a), owner (owns a), both (owns a and b), stop (denies editing a).
 */
public final class SmallOffice {
  /** As of when it is looked at. */
  public static final long NOW = 1_000_000_000;

  /** Seconds. */
  public static final long DAY = 86_400;

  private static final List<String> NODES = List.of("top", "north", "south");
  private static final RoleRights RIGHTS =
      new RoleRights(List.of("a", "b"), List.of("see", "edit", "own"), List.of());

  private final FactsBuilder builder =
      new FactsBuilder(
          List.of("loginshell", "lastlogontimestamp", "title", "owner", "shadowmax"),
          dn -> dn,
          new Problems());
  private final FactsSource source = builder.source("d");
  private final Map<String, Integer> rows = new LinkedHashMap<>();
  private final Map<String, App> apps = new LinkedHashMap<>();
  private UnaryOperator<FindingRules.Builder> rules = usual -> usual;
  private boolean isOpen;
  private Combining combining = Combining.UNION;
  private Optional<Facts> built = Optional.empty();

  private final List<AdminScope> scopes = new ArrayList<>();
  private final List<AdminRole> adminRoles = new ArrayList<>();
  private final List<AdminGrant> adminGrants = new ArrayList<>();
  private final List<NamedPower> powers = new ArrayList<>();
  private long[] ofPerson = {};

  private record Given(
      String role, String subject, String node, long from, long until, boolean on) {}

  private static final class App {
    final List<Given> actual = new ArrayList<>();
    final List<Given> intended = new ArrayList<>();
  }

  private int add(SubjectKind kind, String name, int flags, long expires) {
    SubjectRow row = new SubjectRow(kind, name, name, name, name, name, "", flags, expires);
    rows.put(name, source.add(row));
    source.name(rows.get(name), kind == SubjectKind.UNIT ? Space.DN : Space.LOGIN, name);
    return rows.get(name);
  }

  /** Accounts that work. */
  public SmallOffice accounts(String... names) {
    for (String name : names) {
      add(SubjectKind.ACCOUNT, name, 0, Facts.NEVER);
    }
    return this;
  }

  /** An account with flags of {@link Facts} and an end. */
  public SmallOffice account(String name, int flags, long expires) {
    add(SubjectKind.ACCOUNT, name, flags, expires);
    return this;
  }

  /** A value of an attribute. */
  public SmallOffice value(String name, String attribute, String value) {
    source.values(rows.getOrDefault(name, -1), attribute, List.of(value));
    return this;
  }

  /** An account that is locked until somebody unlocks it. */
  public SmallOffice locked(String name) {
    add(SubjectKind.ACCOUNT, name, 0, Facts.NEVER);
    source.lockedUntil(rows.getOrDefault(name, -1), Facts.UNTIL_LIFTED);
    return this;
  }

  /** A group with members: accounts or groups, there or not. */
  public SmallOffice group(String name, String... members) {
    int row = add(SubjectKind.GROUP, name, 0, Facts.NEVER);
    for (String member : members) {
      source.refer(row, Via.MEMBER, Space.LOGIN, member);
    }
    return this;
  }

  /** How grants combine, in all applications. */
  public SmallOffice combining(Combining how) {
    combining = how;
    return this;
  }

  /** Applications that ask for no sign-in. */
  public SmallOffice open() {
    isOpen = true;
    return this;
  }

  private App app(String id) {
    return apps.computeIfAbsent(id, i -> new App());
  }

  /** An assignment. */
  public SmallOffice given(String app, String role, String subject, String node) {
    return given(app, role, subject, node, Long.MIN_VALUE, Long.MAX_VALUE);
  }

  /** An assignment from when on, and before when. */
  public SmallOffice given(
      String app, String role, String subject, String node, long from, long until) {
    app(app).actual.add(new Given(role, subject, node, from, until, true));
    return this;
  }

  /** An assignment that is switched off. */
  public SmallOffice off(String app, String role, String subject, String node) {
    app(app).actual.add(new Given(role, subject, node, Long.MIN_VALUE, Long.MAX_VALUE, false));
    return this;
  }

  /** An assignment that was agreed, whether it is there or not. */
  public SmallOffice agreed(String app, String role, String subject, String node) {
    return agreed(app, role, subject, node, Long.MAX_VALUE);
  }

  /** The same before when. */
  public SmallOffice agreed(String app, String role, String subject, String node, long until) {
    app(app).intended.add(new Given(role, subject, node, Long.MIN_VALUE, until, true));
    return this;
  }

  /** An admin role with actions: set-password (the object itself), unlock (much), look (little). */
  public SmallOffice adminRole(String id, String... actions) {
    adminRoles.add(new AdminRole(id, id, Set.of(actions), true, Place.of(id)));
    return this;
  }

  /** An admin scope of accounts and groups. */
  public SmallOffice scope(String id, String... subjects) {
    List<Integer> all = Stream.of(subjects).map(this::subject).toList();
    Optional<GroupMeaning> both = GroupMeaning.of("both", true);
    ScopeItem line = new ScopeItem.Listed(all, both, Place.of(id), "listed");
    scopes.add(new AdminScope(id, id, List.of(line), List.of(), Place.of(id)));
    return this;
  }

  /** An admin role over a scope; over everything where that is empty. */
  public SmallOffice entrusted(String role, String subject, String scope) {
    return entrusted(role, subject, scope, Long.MAX_VALUE);
  }

  /** The same before when. */
  public SmallOffice entrusted(String role, String subject, String scope, long until) {
    List<String> ids = adminRoles.stream().map(AdminRole::id).toList();
    List<String> over = scopes.stream().map(AdminScope::id).toList();
    adminGrants.add(
        new AdminGrant(
            ids.indexOf(role),
            trustee(subject),
            subject,
            scope.isEmpty() ? AdminGrant.EVERYTHING : over.indexOf(scope),
            Long.MIN_VALUE,
            until,
            true,
            Place.of("given", adminGrants.size() + 1)));
    return this;
  }

  /** A power worth following, and who holds it. */
  public SmallOffice power(String id, String... holders) {
    List<Integer> all = Stream.of(holders).map(this::subject).toList();
    powers.add(new NamedPower(id, "do " + id, false, all));
    return this;
  }

  /** Accounts that are one person's. */
  public SmallOffice person(String... accounts) {
    if (ofPerson.length == 0) {
      ofPerson = LongStream.range(0, facts().accounts()).toArray();
    }
    for (String account : accounts) {
      ofPerson[subject(account)] = subject(accounts[0]);
    }
    return this;
  }

  /** By which rules it is judged. */
  public SmallOffice rules(UnaryOperator<FindingRules.Builder> more) {
    UnaryOperator<FindingRules.Builder> before = rules;
    rules = all -> more.apply(before.apply(all));
    return this;
  }

  /** The facts; nothing can be added to them any more. */
  public Facts facts() {
    if (built.isEmpty()) {
      built = Optional.of(builder.build());
    }
    return built.get();
  }

  /** The number of a subject. */
  public int subject(String name) {
    Facts facts = facts();
    for (int subject = 0; subject < facts.subjects(); subject++) {
      if (facts.label(subject).equals(name)) {
        return subject;
      }
    }
    throw new IllegalArgumentException(name);
  }

  /** The number of a right, such as {@code a:own}. */
  public static int right(String text) {
    return RIGHTS.find(text).orElseThrow();
  }

  private int trustee(String name) {
    return name.startsWith("missing") ? Grant.MISSING : subject(name);
  }

  private Grant grant(String id, Given given, boolean isIntended) {
    List<String> roles = List.of("reader", "clerk", "owner", "both", "stop");
    return new Grant(
        (isIntended ? "i" : "a") + id,
        roles.indexOf(given.role),
        trustee(given.subject),
        given.subject,
        NODES.indexOf(given.node),
        true,
        given.from,
        given.until,
        given.on,
        "",
        "",
        Place.of(isIntended ? "intended" : "actual", Integer.parseInt(id)),
        false);
  }

  private List<Grant> grants(List<Given> given, boolean isIntended) {
    List<Grant> grants = new ArrayList<>();
    for (Given one : given) {
      grants.add(grant("" + (grants.size() + 1), one, isIntended));
    }
    return grants;
  }

  private static RoleDefinition role(
      String id, Map<String, List<String>> allows, Map<String, List<String>> denies) {
    return new RoleDefinition(id, id, "", List.of(), allows, denies, Place.of("test"));
  }

  private AccessSystem system(String id, App app) {
    boolean denies = combining.mode() == Combining.Mode.DENY_OVERRIDES;
    RoleCompiler compiler = new RoleCompiler(RIGHTS);
    List<RoleInfo> roles =
        compiler.compile(
            List.of(
                role("reader", Map.of("*", List.of("see")), Map.of()),
                role("clerk", Map.of("a", List.of("edit")), Map.of()),
                role("owner", Map.of("a", List.of("own")), Map.of()),
                role("both", Map.of("*", List.of("own")), Map.of()),
                role("stop", Map.of(), denies ? Map.of("a", List.of("own")) : Map.of())),
            denies,
            new Problems());
    ApplicationDefinition definition =
        new ApplicationDefinition(
            id,
            "Application " + id,
            RIGHTS,
            Resources.of(
                List.of(
                    new Resources.Item("top", "top", ""),
                    new Resources.Item("north", "north", "top"),
                    new Resources.Item("south", "south", "top"))),
            roles,
            compiler,
            combining,
            Sight.all("d"),
            new Admission(facts(), isOpen, Set.of("directory"), Optional.empty()),
            List.of(),
            Optional.empty());
    Map<Basis, List<Grant>> grants = new LinkedHashMap<>();
    grants.put(Basis.ACTUAL, grants(app.actual, false));
    if (!app.intended.isEmpty()) {
      grants.put(Basis.INTENDED, grants(app.intended, true));
    }
    return new RoleApplication(facts(), definition, grants);
  }

  /** The model. */
  public AccessModel model() {
    List<AccessSystem> systems = new ArrayList<>();
    apps.forEach((id, app) -> systems.add(system(id, app)));
    return AccessModel.of(facts(), systems, Instant.ofEpochSecond(NOW), Optional.of(Basis.ACTUAL));
  }

  private static AdminAction action(String id, int weight) {
    return new AdminAction(id, id, List.of(), new Requirement.Simple(1), weight);
  }

  /** What is judged. */
  public Assessment assessment() {
    Administration administration =
        new Administration(
            List.of(action("set-password", 2), action("unlock", 1), action("look", 0)),
            scopes,
            adminRoles,
            adminGrants,
            Console.ANY,
            powers);
    AccessSystem delegated =
        ScopeSystem.of(
            facts(),
            new ActionRights(administration.actions()),
            scopes,
            adminRoles,
            adminGrants,
            Optional.empty());
    AccessModel model = model().delegating(List.of(delegated));
    return new Assessment(
        model,
        rules.apply(FindingRules.of(List.of()).toBuilder()).build(),
        ofPerson.length == 0 ? Persons.none(facts()) : Persons.grouped(ofPerson),
        new Powers(model, administration, new DirectoryTrees(facts(), List.of())),
        Assessment.Owned.NOBODY,
        List.of(),
        List.of());
  }

  /** The findings of some kinds, worst first. */
  public List<Finding> find(FindingKind... kinds) {
    Set<FindingKind> asked = Set.of(kinds);
    return Findings.of(assessment()).stream().filter(f -> asked.contains(f.kind())).toList();
  }

  /** The one finding of some kinds. */
  public Finding only(FindingKind... kinds) {
    List<Finding> found = find(kinds);
    assertThat(found).hasSize(1);
    return found.get(0);
  }

  /** What the findings of some kinds are about. */
  public List<Details> details(FindingKind... kinds) {
    return find(kinds).stream().map(Finding::details).toList();
  }
}
