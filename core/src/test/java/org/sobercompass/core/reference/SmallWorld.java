package org.sobercompass.core.reference;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.roles.ApplicationDefinition;
import org.sobercompass.core.system.roles.Combining;
import org.sobercompass.core.system.roles.RoleApplication;
import org.sobercompass.core.system.roles.RoleCompiler;
import org.sobercompass.core.system.roles.RoleDefinition;
import org.sobercompass.core.system.roles.RoleRights;

/** A small random organization with one application, the same for the same seed. */
public final class SmallWorld {
  static final long NOW = 1_000_000;

  final Random random;
  final Facts facts;
  final Sight sight;
  final RoleApplication application;
  final List<RoleDefinition> definitions = new ArrayList<>();
  final RoleRights rights;

  /** Makes the organization of a seed. */
  public SmallWorld(long seed) {
    random = new Random(seed * 0x9e3779b97f4a7c15L + 1);
    facts = facts();
    rights =
        new RoleRights(
            List.of("a", "a/b", "a/b/c", "d"), List.of("view", "edit", "own"), List.of("print"));
    sight = sight();
    application = application("app", sight, definitions);
  }

  /** The model with more applications, each with a sight of its own or with that of the first. */
  public AccessModel modelOf(int applications) {
    List<AccessSystem> all = new ArrayList<>(List.of(application));
    for (int i = 1; i < applications; i++) {
      Sight own = random.nextBoolean() ? sight : sight();
      all.add(application("app" + i, own, new ArrayList<>()));
    }
    return AccessModel.of(facts, all, Instant.ofEpochSecond(NOW), Optional.empty());
  }

  /** The model of the organization. */
  public AccessModel model() {
    return AccessModel.of(
        facts, List.of(application), Instant.ofEpochSecond(NOW), Optional.empty());
  }

  /** The model with an application beside in which roles are given that hold no right. */
  AccessModel modelBesideOneWithoutRights() {
    RoleRights none = new RoleRights(List.of(), List.of("view"), List.of());
    RoleCompiler compiler = new RoleCompiler(none);
    RoleDefinition empty =
        new RoleDefinition("r", "Role", "", List.of(), Map.of(), Map.of(), Place.of("test"));
    List<RoleInfo> roles = compiler.compile(List.of(empty), false, new Problems());
    Resources nodes = nodes();
    var definition =
        new ApplicationDefinition(
            "without",
            "Without rights",
            none,
            nodes,
            roles,
            compiler,
            Combining.UNION,
            sight,
            new Admission(facts, false, Set.of("directory"), Optional.empty()),
            List.of(),
            Optional.empty());
    List<Grant> grants = new ArrayList<>();
    for (Grant grant : grants(nodes)) {
      grants.add(
          new Grant(
              grant.id(),
              0,
              grant.subject(),
              "",
              grant.resource(),
              grant.descends(),
              grant.from(),
              grant.until(),
              true,
              "",
              "",
              Place.of("test"),
              false));
    }
    AccessSystem without = new RoleApplication(facts, definition, Map.of(Basis.ACTUAL, grants));
    return AccessModel.of(
        facts, List.of(application, without), Instant.ofEpochSecond(NOW), Optional.empty());
  }

  private Facts facts() {
    FactsBuilder builder =
        new FactsBuilder(
            List.of("uidnumber", "host", "userworkstations"), dn -> dn, new Problems());
    FactsSource source = builder.source("dir");
    String[] units = {"ou=x", "ou=y,ou=x", "ou=z"};
    for (String unit : units) {
      add(source, SubjectKind.UNIT, unit, 0);
    }
    List<Integer> groups = new ArrayList<>();
    int groupCount = 2 + random.nextInt(6);
    for (int g = 0; g < groupCount; g++) {
      int flags = random.nextInt(6) == 0 ? Facts.MAIL_ONLY : 0;
      int row = add(source, SubjectKind.GROUP, "cn=g" + g + ",ou=z", flags);
      source.name(row, Space.GID, "" + g);
      number(source, row);
      groups.add(row);
    }
    List<Integer> accounts = new ArrayList<>();
    for (int a = 0; a < 5; a++) {
      int flags = random.nextInt(6) == 0 ? Facts.DISABLED : 0;
      int row =
          add(source, SubjectKind.ACCOUNT, "uid=a" + a + "," + units[random.nextInt(3)], flags);
      number(source, row);
      accounts.add(row);
      if (random.nextInt(3) == 0) {
        source.refer(row, Via.PRIMARY, Space.GID, "" + random.nextInt(groupCount));
      }
      source.name(row, Space.LOGIN, "a" + a);
    }
    for (int i = 0; i < groupCount * 3; i++) {
      int group = groups.get(random.nextInt(groups.size()));
      switch (random.nextInt(5)) {
        case 0 -> source.refer(group, Via.MEMBER_UID, Space.LOGIN, "a" + random.nextInt(6));
        case 1, 2 ->
            source.refer(
                group, Via.MEMBER, Space.DN, "cn=g" + random.nextInt(groupCount) + ",ou=z");
        default -> {
          String dn =
              builder.source("dir") == source ? dnOfAccount(builder, random.nextInt(5)) : "";
          source.refer(
              group,
              random.nextBoolean() ? Via.MEMBER : Via.UNIQUE_MEMBER,
              Space.DN,
              dn.getBytes(StandardCharsets.UTF_8));
        }
      }
    }
    return builder.build();
  }

  private final Map<Integer, String> accountDns = new HashMap<>();

  private String dnOfAccount(FactsBuilder builder, int a) {
    return accountDns.getOrDefault(a, "uid=missing");
  }

  private int add(FactsSource source, SubjectKind kind, String dn, int flags) {
    if (kind == SubjectKind.ACCOUNT) {
      accountDns.put(accountDns.size(), dn);
    }
    return source.add(new SubjectRow(kind, dn, dn, dn, dn, dn, "", flags, Facts.NEVER));
  }

  /** Small numbers are out of sight, large ones in sight, words undecided. */
  private void number(FactsSource source, int row) {
    int kind = random.nextInt(10);
    source.values(row, "uidnumber", List.of(kind == 0 ? "word" : kind == 1 ? "1" : "7"));
  }

  private Sight sight() {
    Set<Via> counts = EnumSet.allOf(Via.class);
    if (random.nextInt(3) == 0) {
      counts.remove(Via.PRIMARY);
    }
    if (random.nextInt(3) == 0) {
      counts.remove(Via.UNIQUE_MEMBER);
    }
    int[] nestings = {0, 1, 2, MembershipProfile.FULL, MembershipProfile.FULL};
    MembershipProfile profile =
        new MembershipProfile(counts, nestings[random.nextInt(5)], random.nextBoolean());
    boolean filtered = random.nextInt(3) == 0;
    var filter =
        filtered
            ? Optional.of(FilterParser.parse("(uidNumber>=5)"))
            : Optional.<org.sobercompass.core.filter.Filter>empty();
    return new Sight(
        "dir",
        List.of(),
        true,
        List.of(),
        random.nextBoolean() ? filter : Optional.empty(),
        List.of(),
        filter,
        Optional.empty(),
        profile);
  }

  private RoleApplication application(
      String id, Sight ownSight, List<RoleDefinition> ownDefinitions) {
    ApplicationDefinition definition = definition(id, ownSight, ownDefinitions, Optional.empty());
    return new RoleApplication(facts, definition, Map.of(Basis.ACTUAL, grants(definition.nodes())));
  }

  /** The same application before and after its file says something else. */
  record Rewritten(AccessModel before, AccessModel after) {}

  /** What it sees, whom it lets in, how it combines and what its roles allow is otherwise after. */
  Rewritten rewritten() {
    ApplicationDefinition was = definition("x", sight(), new ArrayList<>(), Optional.empty());
    ApplicationDefinition is =
        definition("x", sight(), new ArrayList<>(), Optional.of(was.nodes()));
    Map<Basis, List<Grant>> grants = Map.of(Basis.ACTUAL, grants(was.nodes()));
    RoleApplication other = new RoleApplication(facts, is, Map.of());
    return new Rewritten(
        model(new RoleApplication(facts, was.with(new OneSetting(other)), grants)),
        model(
            new RoleApplication(
                facts, is.with(was.admission().onTermsOf(is.admission())), grants)));
  }

  private AccessModel model(AccessSystem system) {
    return AccessModel.of(facts, List.of(system), Instant.ofEpochSecond(NOW), Optional.empty());
  }

  private ApplicationDefinition definition(
      String id, Sight ownSight, List<RoleDefinition> ownDefinitions, Optional<Resources> given) {
    Combining combining =
        switch (random.nextInt(5)) {
          case 0 -> Combining.UNION;
          case 1 -> Combining.DENY_OVERRIDES;
          case 2 -> Combining.nearest(true, false);
          case 3 -> Combining.nearest(false, true);
          default -> Combining.nearest(true, true);
        };
    boolean deny = combining.mode() == Combining.Mode.DENY_OVERRIDES;
    for (int r = 0; r < 4; r++) {
      ownDefinitions.add(
          new RoleDefinition(
              "r" + r,
              "Role " + r,
              r > 1 && random.nextInt(3) == 0 ? "r0" : "",
              r > 0 && random.nextInt(3) == 0 ? List.of("r" + random.nextInt(r)) : List.of(),
              entries(),
              deny && random.nextBoolean() ? entries() : Map.of(),
              Place.of("test")));
    }
    RoleCompiler compiler = new RoleCompiler(rights);
    List<RoleInfo> roles = compiler.compile(ownDefinitions, deny, new Problems());
    Resources nodes = given.orElseGet(this::nodes);
    Optional<List<Enrolment>> register =
        random.nextInt(3) == 0 ? Optional.of(register()) : Optional.empty();
    return new ApplicationDefinition(
        id,
        "Application " + id,
        rights,
        nodes,
        roles,
        compiler,
        combining,
        ownSight,
        new Admission(facts, random.nextInt(12) == 0, Set.of("directory"), register),
        List.of(),
        Optional.empty());
  }

  private List<Enrolment> register() {
    List<Enrolment> lines = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      lines.add(
          new Enrolment(
              random.nextInt(facts.accounts() + facts.groups()),
              "x",
              random.nextInt(4) == 0 ? "local" : "directory",
              random.nextInt(4) > 0,
              Place.of("test")));
    }
    return lines;
  }

  private Map<String, List<String>> entries() {
    Map<String, List<String>> entries = new HashMap<>();
    String[] areas = {"*", "a", "a/b", "a/b/c", "d"};
    String[] levels = {"none", "view", "edit", "own"};
    for (int i = 0; i < 2; i++) {
      List<String> words = new ArrayList<>(List.of(levels[random.nextInt(4)]));
      if (random.nextInt(3) == 0) {
        words.add("print");
      }
      entries.put(areas[random.nextInt(5)], words);
    }
    return entries;
  }

  private Resources nodes() {
    List<Resources.Item> items = new ArrayList<>();
    int count = 1 + random.nextInt(7);
    for (int n = 0; n < count; n++) {
      items.add(new Resources.Item("n" + n, "Node " + n, n == 0 ? "" : "n" + random.nextInt(n)));
    }
    return Resources.of(items);
  }

  private List<Grant> grants(Resources nodes) {
    List<Grant> grants = new ArrayList<>();
    int count = random.nextInt(12);
    for (int g = 0; g < count; g++) {
      long from = random.nextInt(4) == 0 ? NOW - 10 + random.nextInt(30) : Long.MIN_VALUE;
      long until = random.nextInt(4) == 0 ? NOW + 25 - random.nextInt(30) : Long.MAX_VALUE;
      grants.add(
          new Grant(
              "g" + g,
              random.nextInt(4),
              subject(),
              "",
              random.nextInt(nodes.size()),
              random.nextInt(4) > 0,
              Math.min(from, until - 1),
              until,
              random.nextInt(8) > 0,
              "",
              "",
              Place.of("test"),
              false));
    }
    return grants;
  }

  private int subject() {
    return switch (random.nextInt(8)) {
      case 0 -> facts.implicit(Implicit.values()[random.nextInt(3)]);
      case 1 -> facts.firstUnit() + random.nextInt(3);
      case 2 -> random.nextInt(facts.accounts());
      case 3 -> Grant.MISSING;
      default -> facts.firstGroup() + random.nextInt(facts.groups());
    };
  }

  /** The application as the rest of the product sees it. */
  public AccessSystem system() {
    return application;
  }
}
