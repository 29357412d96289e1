package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Climb;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Hindrance;
import org.sobercompass.core.system.ListLine;
import org.sobercompass.core.system.ListMark;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.Trustees;

/** A database as an {@link AccessSystem}. Frozen and thread-safe. */
public final class DatabaseAccess extends ListedSystem {
  /** The name of this kind of system. */
  public static final String KIND = "postgresql";

  private final DatabaseFacts facts;
  private final Facts subjects;
  private final DatabaseGrants grants;
  private final DatabaseDecider decider;

  /** A database with its objects. O(objects + grants). */
  public DatabaseAccess(Definition definition, DatabaseFacts facts, Facts subjects) {
    super(definition);
    this.facts = facts;
    this.subjects = subjects;
    this.grants = new DatabaseGrants(facts, subjects);
    this.decider = new DatabaseDecider(facts, grants);
  }

  @Override
  public boolean isRemovable(int grant, Basis basis) {
    return grants.entry(grant).isPresent();
  }

  @Override
  protected AccessSystem without(int grant) {
    return new DatabaseAccess(definition(), grants.without(grant), subjects);
  }

  @Override
  protected AccessSystem defined(Definition other) {
    return new DatabaseAccess(other, facts, subjects);
  }

  /** The objects and grants. */
  public DatabaseFacts facts() {
    return facts;
  }

  @Override
  public String kind() {
    return KIND;
  }

  @Override
  public String combining() {
    return "all grants together; connecting and usage of the schema are needed on the way";
  }

  @Override
  public Rights rights() {
    return DatabaseRights.RIGHTS;
  }

  @Override
  public Resources resources() {
    return facts.tree;
  }

  @Override
  public List<RoleInfo> roles() {
    return grants.roles();
  }

  @Override
  public List<Grant> grants(Basis basis) {
    return grants.all();
  }

  @Override
  public OptionalInt entry(int grant) {
    return grants.entry(grant);
  }

  @Override
  public Optional<String> entryText(int grant) {
    OptionalInt given = grants.entry(grant);
    return given.isEmpty()
        ? Optional.empty()
        : Optional.of(
            item(facts.item(grants.all().get(grant).resource()), given.getAsInt()).text());
  }

  @Override
  public List<ListWish.Edit> entryFor(int grant, int subject) {
    return entryText(grant)
        .flatMap(AclItem::of)
        .filter(item -> !item.grantee().isEmpty())
        .map(
            item ->
                wished()
                    .change(
                        grants.all().get(grant).resource(),
                        new AclItem(wished().role(subject), item.mask(), item.grantor())))
        .orElse(List.of());
  }

  @Override
  public boolean goesWithOwner(int grant) {
    DatabaseFacts.Item object = facts.item(grants.all().get(grant).resource());
    OptionalInt entry = grants.entry(grant);
    return entry.isPresent() && object.given().get(entry.getAsInt()).trustee() == object.owner();
  }

  private AclItem item(DatabaseFacts.Item object, int number) {
    DatabaseFacts.Given given = object.given().get(number);
    boolean everybody = given.trustee() == Trustees.EVERYONE;
    return new AclItem(
        everybody ? "" : facts.trustees().text(given.trustee()), given.mask(), given.by());
  }

  @Override
  public Hindrance hindrance(ListWish.Edit entry) {
    boolean whole = facts.item(entry.resource()).kind() == DatabaseFacts.Kind.DATABASE;
    return whole && DatabaseOwners.is(entry.text()) ? Hindrance.BY_HAND : Hindrance.NONE;
  }

  @Override
  public boolean isExclusive(String text) {
    return DatabaseOwners.is(text);
  }

  @Override
  public boolean hasItem(int resource, String text) {
    return new DatabaseOwners(facts).has(resource, text)
        || new DatabaseDefaults(facts).has(resource, text);
  }

  @Override
  public Map<Integer, List<ListWish.Edit>> items() {
    Map<Integer, List<ListWish.Edit>> all = new DatabaseOwners(facts).all();
    new DatabaseDefaults(facts).all(all);
    return all;
  }

  @Override
  public String itemFor(String text, int subject) {
    String role = wished().role(subject);
    return DefaultPrivileges.item(text)
        .map(item -> DatabaseDefaults.with(item, role))
        .orElseGet(() -> DatabaseOwners.text(role));
  }

  @Override
  public Optional<String> joined(String text, String other) {
    return DefaultPrivileges.joined(text, other);
  }

  @Override
  public String entryWords(String text) {
    if (DatabaseOwners.is(text)) {
      return DatabaseOwners.words(text);
    }
    Optional<DefaultPrivileges.Item> later = DefaultPrivileges.item(text);
    if (later.isPresent()) {
      return later.get().words();
    }
    return AclItem.of(text)
        .map(
            item ->
                DatabaseRights.words(item.mask())
                    + " for "
                    + (item.grantee().isEmpty() ? "everyone" : item.grantee()))
        .orElse(text);
  }

  @Override
  public OptionalInt entryOf(int resource, String text) {
    Optional<AclItem> wanted = AclItem.of(text);
    DatabaseFacts.Item object = facts.item(resource);
    for (int i = 0; i < object.given().size(); i++) {
      if (wanted.equals(Optional.of(item(object, i)))) {
        return OptionalInt.of(grants.first(resource) + 1 + i);
      }
    }
    return OptionalInt.empty();
  }

  @Override
  public List<ListWish.Edit> giving(ListWish wish) {
    return wished().giving(wish, mask(wish));
  }

  @Override
  public List<ListWish.Edit> taking(ListWish wish) {
    return wished().taking(wish, mask(wish));
  }

  private WishedGrants wished() {
    return new WishedGrants(facts, subjects, this::item);
  }

  private static long mask(ListWish wish) {
    long mask = 0;
    for (int right : wish.rights()) {
      mask |= DatabaseRights.RIGHTS.mask(right);
    }
    return mask;
  }

  @Override
  public AccessSystem redefined(Redefinition how) {
    return how.byKind(
        super::redefined,
        super::redefined,
        super::redefined,
        item -> giving(item),
        super::redefined);
  }

  /** The same with one more grant, another owner or default; to a role that is there. */
  private AccessSystem giving(Redefinition.ListItem more) {
    Optional<DefaultPrivileges.Item> later = DefaultPrivileges.item(more.text());
    if (later.isPresent()) {
      return new DatabaseAccess(
          definition(), new DatabaseDefaults(facts).with(more, later.get(), name()), subjects);
    }
    if (DatabaseOwners.is(more.text())) {
      return new DatabaseAccess(
          definition(), new DatabaseOwners(facts).with(more, name()), subjects);
    }
    AclItem item = WishedGrants.item(more.text());
    for (String role : List.of(item.grantee(), item.grantor())) {
      if (!role.isEmpty() && facts.trustees().find(role) < 0) {
        throw new IllegalArgumentException(
            "there is no role " + Problem.quote(role) + " in " + name());
      }
    }
    int trustee =
        item.grantee().isEmpty() ? Trustees.EVERYONE : facts.trustees().find(item.grantee());
    DatabaseFacts.Given given = new DatabaseFacts.Given(trustee, item.mask(), item.grantor());
    return new DatabaseAccess(definition(), facts.with(more.resource(), given), subjects);
  }

  @Override
  public Decider decider(Basis basis) {
    return decider;
  }

  @Override
  public List<Remark> remarks(long asOf, IntFunction<SubjectSet> subjectsOf) {
    return new DatabaseRemarks(facts, grants, subjectsOf).all();
  }

  @Override
  public List<Integer> controllers() {
    return new DatabaseClimbs(facts).controllers();
  }

  @Override
  public List<Climb> climbs() {
    return new DatabaseClimbs(facts).climbs();
  }

  @Override
  public int unread() {
    int count = 0;
    for (DatabaseFacts.Item item : facts.items) {
      count += item.known() ? 0 : 1;
    }
    return count;
  }

  @Override
  public List<ListLine> list(int resource) {
    List<ListLine> lines = new ArrayList<>();
    for (int g = grants.first(resource); g < grants.end(resource); g++) {
      Grant grant = grants.all().get(g);
      boolean owner = g == grants.first(resource);
      lines.add(
          new ListLine(
              facts.items[resource].kind().word(),
              resource,
              owner ? ListLine.Origin.OWNER : ListLine.Origin.EXPLICIT,
              grant.subjectText(),
              grant.subject(),
              "allow",
              owner ? "own, and grant everything" : grants.roles().get(grant.role()).name(),
              grant.grantedBy().isEmpty() ? "" : "granted by " + grant.grantedBy()));
    }
    return List.copyOf(lines);
  }

  /** What default privileges give to what is made in a schema, or anywhere in the database. */
  @Override
  public List<String> made(int resource) {
    List<String> made = new ArrayList<>();
    for (int at = resource; at >= 0; at = facts.tree.parent(at)) {
      facts.defaults.getOrDefault(at, List.of()).forEach(one -> made.add(one.words()));
    }
    boolean holds =
        facts.items[resource].kind() == DatabaseFacts.Kind.SCHEMA
            || facts.items[resource].kind() == DatabaseFacts.Kind.DATABASE;
    return holds ? List.copyOf(made) : List.of();
  }

  @Override
  public String what(int resource) {
    DatabaseFacts.Item item = facts.items[resource];
    String whose = item.owner() < 0 ? "" : " of " + facts.trustees.label(item.owner());
    return item.kind().word() + whose;
  }

  @Override
  public Set<ListMark> marks(int resource) {
    Set<ListMark> marks = EnumSet.noneOf(ListMark.class);
    DatabaseFacts.Item item = facts.items[resource];
    boolean given = item.given().stream().anyMatch(g -> g.trustee() != item.owner());
    if (!item.known()) {
      marks.add(ListMark.UNREAD);
    } else if (given) {
      marks.add(ListMark.EXPLICIT);
    }
    if (item.rows() != DatabaseFacts.Rows.ALL) {
      marks.add(ListMark.ROWS);
    }
    return marks;
  }
}
