package org.sobercompass.core.system.roles;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.core.system.WrittenRole;

/** An application with roles as an {@link AccessSystem}. Frozen and thread-safe. */
public final class RoleApplication implements AccessSystem {
  /** The name of this kind of system. */
  public static final String KIND = "roles";

  private final Facts facts;
  private final Definition definition;
  private final Map<Basis, List<Grant>> grants;
  private final Map<Basis, List<Integer>> removed;
  private final Map<Basis, Decider> deciders = new ConcurrentHashMap<>();

  /**
   * What does not change with the grants.
   *
   * @param id unique in the workspace
   * @param name for people
   * @param rights areas, levels, actions
   * @param nodes the tree of nodes
   * @param roles the compiled roles
   * @param compiler knows by which chain a role gives a right
   * @param combining how grants combine
   * @param sight what it sees of the directory
   * @param admission whom it admits
   * @param files what it is described in, as the user names it
   */
  public record Definition(
      String id,
      String name,
      RoleRights rights,
      Resources nodes,
      List<RoleInfo> roles,
      RoleCompiler compiler,
      Combining combining,
      Sight sight,
      Admission admission,
      List<String> files) {

    private Definition with(List<RoleInfo> otherRoles, RoleCompiler otherCompiler) {
      return new Definition(
          id, name, rights, nodes, otherRoles, otherCompiler, combining, sight, admission, files);
    }

    /** The same with another admission. */
    public Definition with(Admission other) {
      return new Definition(
          id, name, rights, nodes, roles, compiler, combining, sight, other, files);
    }
  }

  /** An application with its grants; a basis that was not read is left out. */
  public RoleApplication(Facts facts, Definition definition, Map<Basis, List<Grant>> grants) {
    this(facts, definition, grants, Map.of());
  }

  private RoleApplication(
      Facts facts,
      Definition definition,
      Map<Basis, List<Grant>> grants,
      Map<Basis, List<Integer>> removed) {
    this.facts = facts;
    this.definition = definition;
    this.grants = Map.copyOf(grants);
    this.removed = removed;
  }

  @Override
  public String kind() {
    return KIND;
  }

  @Override
  public String id() {
    return definition.id;
  }

  @Override
  public String name() {
    return definition.name;
  }

  @Override
  public String combining() {
    return definition.combining.words();
  }

  /** How grants combine, as data. */
  public Combining combiningRule() {
    return definition.combining;
  }

  @Override
  public List<String> files() {
    return definition.files;
  }

  @Override
  public Sight sight() {
    return definition.sight;
  }

  @Override
  public Rights rights() {
    return definition.rights;
  }

  @Override
  public Resources resources() {
    return definition.nodes;
  }

  @Override
  public List<RoleInfo> roles() {
    return definition.roles;
  }

  @Override
  public List<Grant> grants(Basis basis) {
    return grants.getOrDefault(basis, List.of());
  }

  @Override
  public Basis usualBasis() {
    return grants.containsKey(Basis.ACTUAL) ? Basis.ACTUAL : Basis.INTENDED;
  }

  @Override
  public boolean hasBothBases() {
    return grants.size() == Basis.values().length;
  }

  @Override
  public Admission admission() {
    return definition.admission;
  }

  @Override
  public Decider decider(Basis basis) {
    return deciders.computeIfAbsent(
        basis,
        b ->
            new RoleDecider(
                new GrantTable(facts, grants(b), removed.getOrDefault(b, List.of())),
                definition.nodes,
                definition.combining,
                definition.roles,
                definition.rights.words()));
  }

  @Override
  public AccessSystem with(List<Change.OfSystem> changes, Basis basis) {
    List<Grant> patched = new ArrayList<>(grants(basis));
    List<Integer> gone = new ArrayList<>(removed.getOrDefault(basis, List.of()));
    List<Redefinition> otherwise = new ArrayList<>();
    Set<String> ids = new HashSet<>();
    patched.forEach(grant -> ids.add(grant.id()));
    for (Change.OfSystem change : changes) {
      change.byKind(
          added -> patched.add(grant(added, ids)),
          taken -> {
            patched.set(taken.grant(), patched.get(taken.grant()).withdrawn());
            return gone.add(taken.grant());
          },
          redefined -> otherwise.add(redefined.how()));
    }
    Map<Basis, List<Grant>> all = new EnumMap<>(Basis.class);
    all.putAll(grants);
    all.put(basis, List.copyOf(patched));
    Map<Basis, List<Integer>> allGone = new EnumMap<>(Basis.class);
    allGone.putAll(removed);
    allGone.put(basis, List.copyOf(gone));
    AccessSystem changed = new RoleApplication(facts, definition, all, allGone);
    for (Redefinition how : otherwise) {
      changed = changed.redefined(how);
    }
    return changed;
  }

  @Override
  public AccessSystem redefined(Redefinition how) {
    return how.byKind(
        scope -> AccessSystem.super.redefined(scope),
        register -> AccessSystem.super.redefined(register),
        role -> {
          RoleDefinition was = definition.compiler.definitions().get(role.role());
          RoleDefinition is =
              role.area().isEmpty()
                  ? was.including(role.words())
                  : was.allowing(role.area(), role.words());
          List<RoleInfo> roles = new ArrayList<>();
          RoleCompiler compiler = definition.compiler.with(is, roles);
          return new RoleApplication(facts, definition.with(roles, compiler), grants, removed);
        },
        item -> AccessSystem.super.redefined(item));
  }

  @Override
  public List<WrittenRole> written() {
    return definition.compiler.definitions().stream()
        .map(role -> new WrittenRole(role.id(), role.includes(), role.allows(), role.place()))
        .toList();
  }

  @Override
  public AccessSystem admitting(Admission other) {
    return new RoleApplication(facts, definition.with(other), grants, removed);
  }

  /** With the id that it would have if it stood in a table, unless another has it. */
  private Grant grant(Change.AssignmentAdded added, Set<String> ids) {
    String usual =
        Grant.usualId(
            definition.roles.get(added.role()).id(),
            facts.key(added.subject()).text(),
            definition.nodes.id(added.node()),
            added.descends(),
            added.from(),
            added.until());
    boolean isNew = ids.add(usual);
    return new Grant(
        isNew ? usual : usual + " added " + ids.size(),
        added.role(),
        added.subject(),
        facts.label(added.subject()),
        added.node(),
        added.descends(),
        added.from().map(java.time.Instant::getEpochSecond).orElse(Long.MIN_VALUE),
        added.until().map(java.time.Instant::getEpochSecond).orElse(Long.MAX_VALUE),
        true,
        "",
        "",
        Place.of("proposal"),
        false);
  }

  @Override
  public RoleChain roleChain(int role, int right) {
    return definition.compiler.chain(definition.roles.get(role).id(), right);
  }
}
