package org.sobercompass.core.system.scopes;

import java.time.Instant;
import java.util.AbstractList;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.Counting;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRole;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.scope.Scopes;
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

/** Admin roles over admin scopes as a system. Frozen and thread-safe. */
public final class ScopeSystem implements AccessSystem, AdminRoles {
  /** The kind, as it is registered. */
  public static final String KIND = "admin-roles";

  /** The id. */
  public static final String ID = "admin roles";

  private final Facts facts;
  private final ActionRights rights;
  private final AdminDefinitions own;
  private final List<AdminGrant> grants;
  private final Optional<Admission> admission;
  private final @Nullable Scopes scopes;
  private final Optional<Settings> settings;
  private final List<Redefinition> written;

  private ScopeSystem(
      Facts facts,
      ActionRights rights,
      AdminDefinitions own,
      List<AdminGrant> grants,
      Optional<Admission> admission,
      @Nullable Scopes scopes,
      Optional<Settings> settings,
      List<Redefinition> written) {
    this.facts = facts;
    this.rights = rights;
    this.own = own;
    this.grants = List.copyOf(grants);
    this.admission = admission;
    this.scopes = scopes;
    this.settings = settings;
    this.written = List.copyOf(written);
  }

  private ScopeSystem with(
      AdminDefinitions otherwise, List<AdminGrant> otherGrants, List<Redefinition> by) {
    return new ScopeSystem(facts, rights, otherwise, otherGrants, admission, null, settings, by);
  }

  /**
   * Of definitions; the scopes are worked out over the memberships of a model.
   *
   * @param settings what of the definitions a proposal can change
   */
  public static AccessSystem of(
      Facts facts,
      ActionRights rights,
      List<AdminScope> definitions,
      List<AdminRole> roles,
      List<AdminGrant> grants,
      Optional<Settings> settings) {
    return new ScopeSystem(
        facts,
        rights,
        new AdminDefinitions(definitions, roles),
        grants,
        Optional.empty(),
        null,
        settings,
        List.of());
  }

  @Override
  public AccessSystem over(Memberships memberships) {
    return new ScopeSystem(
        facts,
        rights,
        own,
        grants,
        admission,
        new Scopes(memberships, own.scopes()),
        settings,
        written);
  }

  @Override
  public Scopes scopes() {
    if (scopes == null) {
      throw new IllegalStateException("the scopes are worked out over memberships");
    }
    return scopes;
  }

  @Override
  public List<AdminScope> defined() {
    return own.scopes();
  }

  @Override
  public List<AdminGrant> given() {
    return grants;
  }

  @Override
  public String kind() {
    return KIND;
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String name() {
    return "the admin roles";
  }

  @Override
  public String combining() {
    return "they only add up";
  }

  @Override
  public Counting counting() {
    return Counting.WIDEST;
  }

  @Override
  public Sight sight() {
    return Sight.all("");
  }

  @Override
  public Rights rights() {
    return rights;
  }

  @Override
  public Resources resources() {
    return new SubjectResources(facts);
  }

  @Override
  public List<RoleInfo> roles() {
    return own.roles().stream().map(this::info).toList();
  }

  private RoleInfo info(AdminRole role) {
    long[] allows = new long[rights.words()];
    for (int right = 0; right < rights.size(); right++) {
      allows[right >> 6] |= role.actions().contains(rights.text(right)) ? 1L << right : 0;
    }
    return new RoleInfo(role.id(), role.name(), allows, new long[allows.length], List.of(), "");
  }

  @Override
  public List<Grant> grants(Basis basis) {
    return new AbstractList<>() {
      @Override
      public Grant get(int number) {
        return grant(number);
      }

      @Override
      public int size() {
        return grants.size();
      }
    };
  }

  private Grant grant(int number) {
    AdminGrant given = grants.get(number);
    String scope =
        given.scope() == AdminGrant.EVERYTHING ? "" : "/" + own.scopes().get(given.scope()).id();
    return new Grant(
        own.roles().get(given.role()).id() + "/" + given.subjectText() + scope + " " + number,
        given.role(),
        given.subject(),
        given.subjectText(),
        0,
        true,
        given.from(),
        given.until(),
        given.on(),
        "",
        "",
        given.place(),
        false);
  }

  @Override
  public Basis usualBasis() {
    return Basis.ACTUAL;
  }

  @Override
  public boolean hasBothBases() {
    return false;
  }

  /** Whom it names decides; what keeps an account out keeps it out of everything. */
  @Override
  public Admission admission() {
    Admission anybody =
        admission.orElseGet(() -> new Admission(facts, false, Set.of(), Optional.empty()));
    boolean unread = grants.stream().anyMatch(grant -> grant.subject() == Grant.UNREAD);
    return unread ? anybody.namingUnread() : anybody;
  }

  @Override
  public Decider decider(Basis basis) {
    return new ScopeDecider(facts, rights, own.roles(), grants, scopes());
  }

  @Override
  public AccessSystem with(List<Change.OfSystem> changes, Basis basis) {
    List<AdminGrant> left = new ArrayList<>(grants);
    List<Redefinition> otherwise = new ArrayList<>();
    for (Change.OfSystem change : changes) {
      change.<Object>byKind(
          added -> left.add(grant(added)),
          removed -> left.set(removed.grant(), left.get(removed.grant()).off()),
          redefined -> otherwise.add(redefined.how()));
    }
    ScopeSystem defined = defined(otherwise);
    return defined.with(defined.own, left, defined.written);
  }

  /** Defined otherwise, by all that was said before and by this; settings first. */
  private ScopeSystem defined(List<Redefinition> more) {
    List<Redefinition> all = new ArrayList<>(written);
    all.addAll(more);
    boolean setting = more.stream().anyMatch(how -> how.settings().findAny().isPresent());
    AdminDefinitions base =
        setting ? own.as(read(all.stream().flatMap(Redefinition::settings).toList())) : own;
    return with(base.lined(setting ? all : more, facts), grants, all);
  }

  /** What its file would define. */
  private AdminDefinitions read(List<Setting> all) {
    Settings file =
        settings.orElseThrow(
            () -> new IllegalArgumentException("the admin roles stand in no file of their own"));
    return ((ScopeSystem) file.with(all)).own;
  }

  @Override
  public AccessSystem expecting(List<Setting> more) {
    try {
      return more.isEmpty() ? this : with(own.expecting(read(more)), grants, written);
    } catch (IllegalArgumentException e) {
      return this;
    }
  }

  @Override
  public Optional<Settings> settings() {
    return settings;
  }

  @Override
  public List<AdminRole> adminRoles() {
    return own.roles();
  }

  private AdminGrant grant(Change.AssignmentAdded added) {
    return new AdminGrant(
        added.role(),
        added.subject(),
        facts.label(added.subject()),
        added.node(),
        added.from().map(Instant::getEpochSecond).orElse(Long.MIN_VALUE),
        added.until().map(Instant::getEpochSecond).orElse(Long.MAX_VALUE),
        added.on(),
        Place.of("proposal"));
  }

  @Override
  public AccessSystem redefined(Redefinition how) {
    return defined(List.of(how));
  }

  @Override
  public AccessSystem admitting(Admission other) {
    return new ScopeSystem(facts, rights, own, grants, Optional.of(other), null, settings, written);
  }

  @Override
  public RoleChain roleChain(int role, int right) {
    return new RoleChain(List.of(own.roles().get(role).id()), rights.text(right));
  }
}
