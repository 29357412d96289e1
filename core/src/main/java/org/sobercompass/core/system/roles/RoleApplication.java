package org.sobercompass.core.system.roles;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
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
import org.sobercompass.core.system.Setting;
import org.sobercompass.core.system.Settings;
import org.sobercompass.core.system.WrittenRole;

/** An application with roles as an {@link AccessSystem}. Frozen and thread-safe. */
public final class RoleApplication implements AccessSystem {
  /** The name of this kind of system. */
  public static final String KIND = "roles";

  private final Facts facts;
  private final ApplicationDefinition definition;
  private final Map<Basis, List<Grant>> grants;
  private final Map<Basis, List<Integer>> removed;
  private final List<Redefinition> written;
  private final Map<Basis, Decider> deciders = new ConcurrentHashMap<>();

  /** An application with its grants; a basis that was not read is left out. */
  public RoleApplication(
      Facts facts, ApplicationDefinition definition, Map<Basis, List<Grant>> grants) {
    this(facts, definition, grants, Map.of(), List.of());
  }

  private RoleApplication(
      Facts facts,
      ApplicationDefinition definition,
      Map<Basis, List<Grant>> grants,
      Map<Basis, List<Integer>> removed,
      List<Redefinition> written) {
    this.written = written;
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
    return definition.id();
  }

  @Override
  public String name() {
    return definition.name();
  }

  @Override
  public String combining() {
    return definition.combining().words();
  }

  /** How grants combine, as data. */
  public Combining combiningRule() {
    return definition.combining();
  }

  @Override
  public List<String> files() {
    return definition.files();
  }

  @Override
  public Sight sight() {
    return definition.sight();
  }

  @Override
  public Rights rights() {
    return definition.rights();
  }

  @Override
  public Resources resources() {
    return definition.nodes();
  }

  @Override
  public List<RoleInfo> roles() {
    return definition.roles();
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
    return definition.admission();
  }

  @Override
  public Decider decider(Basis basis) {
    return deciders.computeIfAbsent(
        basis,
        b ->
            new RoleDecider(
                new GrantTable(facts, grants(b), removed.getOrDefault(b, List.of())),
                definition.nodes(),
                definition.combining(),
                definition.roles(),
                definition.rights().words()));
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
    AccessSystem changed = new RoleApplication(facts, definition, all, allGone, written);
    // Settings come first: the other steps count on what they define.
    for (boolean setting : new boolean[] {true, false}) {
      for (Redefinition how : otherwise) {
        boolean isSetting = how.settings().findAny().isPresent();
        changed = isSetting == setting ? changed.redefined(how) : changed;
      }
    }
    return changed;
  }

  @Override
  public AccessSystem redefined(Redefinition how) {
    return how.byKind(
        scope -> AccessSystem.super.redefined(scope),
        register -> AccessSystem.super.redefined(register),
        role -> with(writing(definition, role), role),
        item -> AccessSystem.super.redefined(item),
        written -> with(rewritten(written), written));
  }

  private RoleApplication with(ApplicationDefinition otherwise, Redefinition by) {
    List<Redefinition> all = new ArrayList<>(written);
    all.add(by);
    return new RoleApplication(facts, otherwise, grants, removed, List.copyOf(all));
  }

  private static ApplicationDefinition writing(
      ApplicationDefinition definition, Redefinition.RoleText role) {
    RoleDefinition was = definition.compiler().definitions().get(role.role());
    RoleDefinition is =
        role.area().isEmpty()
            ? was.including(role.words())
            : was.allowing(role.area(), role.words());
    return definition.with(is);
  }

  /** What the file defines with all settings so far; roles that were rewritten are so again. */
  private ApplicationDefinition rewritten(Redefinition.SettingText last) {
    List<Setting> all =
        Stream.concat(written.stream(), Stream.of(last)).flatMap(Redefinition::settings).toList();
    ApplicationDefinition read = definition.as(((RoleApplication) own().with(all)).definition);
    for (Redefinition before : written) {
      if (before instanceof Redefinition.RoleText role) {
        read = writing(read, role);
      }
    }
    return read;
  }

  @Override
  public AccessSystem expecting(List<Setting> settings) {
    if (settings.isEmpty()) {
      return this;
    }
    try {
      ApplicationDefinition read = ((RoleApplication) own().with(settings)).definition;
      return new RoleApplication(facts, definition.expecting(read), grants, removed, written);
    } catch (IllegalArgumentException e) {
      return this;
    }
  }

  private Settings own() {
    return definition
        .settings()
        .orElseThrow(
            () -> new IllegalArgumentException("no proposal can change the settings of " + name()));
  }

  @Override
  public Optional<Settings> settings() {
    return definition.settings();
  }

  @Override
  public List<WrittenRole> written() {
    return definition.compiler().definitions().stream()
        .map(
            role ->
                new WrittenRole(
                    role.id(),
                    role.includes(),
                    role.allows(),
                    List.of(role.name(), role.derives(), role.denies()),
                    role.place()))
        .toList();
  }

  @Override
  public AccessSystem admitting(Admission other) {
    return new RoleApplication(facts, definition.with(other), grants, removed, written);
  }

  /** With the id that it would have if it stood in a table, unless another has it. */
  private Grant grant(Change.AssignmentAdded added, Set<String> ids) {
    String usual =
        Grant.usualId(
            definition.roles().get(added.role()).id(),
            facts.key(added.subject()).text(),
            definition.nodes().id(added.node()),
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
        added.on(),
        "",
        "",
        Place.of("proposal"),
        false);
  }

  @Override
  public RoleChain roleChain(int role, int right) {
    return definition.compiler().chain(definition.roles().get(role).id(), right);
  }
}
