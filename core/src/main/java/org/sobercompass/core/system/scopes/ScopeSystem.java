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
import org.sobercompass.core.scope.GroupMeaning;
import org.sobercompass.core.scope.ScopeItem;
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

/** Admin roles over admin scopes as a system. Frozen and thread-safe. */
public final class ScopeSystem implements AccessSystem, AdminRoles {
  /** The kind, as it is registered. */
  public static final String KIND = "admin-roles";

  private final Facts facts;
  private final ActionRights rights;
  private final List<AdminScope> definitions;
  private final List<AdminRole> roles;
  private final List<AdminGrant> grants;
  private final Optional<Admission> admission;
  private final @Nullable Scopes scopes;

  private ScopeSystem(
      Facts facts,
      ActionRights rights,
      List<AdminScope> definitions,
      List<AdminRole> roles,
      List<AdminGrant> grants,
      Optional<Admission> admission,
      @Nullable Scopes scopes) {
    this.facts = facts;
    this.rights = rights;
    this.definitions = definitions;
    this.roles = roles;
    this.grants = List.copyOf(grants);
    this.admission = admission;
    this.scopes = scopes;
  }

  private ScopeSystem with(List<AdminScope> otherScopes, List<AdminGrant> otherGrants) {
    return new ScopeSystem(facts, rights, otherScopes, roles, otherGrants, admission, null);
  }

  /** Of definitions; the scopes are worked out over the memberships of a model. */
  public static AccessSystem of(
      Facts facts,
      ActionRights rights,
      List<AdminScope> definitions,
      List<AdminRole> roles,
      List<AdminGrant> grants) {
    return new ScopeSystem(
        facts,
        rights,
        List.copyOf(definitions),
        List.copyOf(roles),
        grants,
        Optional.empty(),
        null);
  }

  @Override
  public AccessSystem over(Memberships memberships) {
    return new ScopeSystem(
        facts, rights, definitions, roles, grants, admission, new Scopes(memberships, definitions));
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
    return definitions;
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
    return "admin roles";
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
    return roles.stream().map(this::info).toList();
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
        given.scope() == AdminGrant.EVERYTHING ? "" : "/" + definitions.get(given.scope()).id();
    return new Grant(
        roles.get(given.role()).id() + "/" + given.subjectText() + scope + " " + number,
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
    return new ScopeDecider(facts, rights, roles, grants, scopes());
  }

  @Override
  public AccessSystem with(List<Change.OfSystem> changes, Basis basis) {
    List<AdminGrant> left = new ArrayList<>(grants);
    List<AdminScope> scopesLeft = new ArrayList<>(definitions);
    for (Change.OfSystem change : changes) {
      change.<Object>byKind(
          added -> left.add(grant(added)),
          removed -> left.set(removed.grant(), left.get(removed.grant()).off()),
          redefined -> lined(redefined.how(), scopesLeft));
    }
    return with(List.copyOf(scopesLeft), left);
  }

  private AdminGrant grant(Change.AssignmentAdded added) {
    return new AdminGrant(
        added.role(),
        added.subject(),
        facts.label(added.subject()),
        added.node(),
        added.from().map(Instant::getEpochSecond).orElse(Long.MIN_VALUE),
        added.until().map(Instant::getEpochSecond).orElse(Long.MAX_VALUE),
        true,
        Place.of("proposal"));
  }

  @Override
  public AccessSystem redefined(Redefinition how) {
    List<AdminScope> others = new ArrayList<>(definitions);
    lined(how, others);
    return with(List.copyOf(others), grants);
  }

  /** Puts a line into its scope or takes it out. */
  private AdminScope lined(Redefinition how, List<AdminScope> scopes) {
    return how.byKind(
        line -> {
          AdminScope was = scopes.get(line.scope());
          return scopes.set(
              line.scope(),
              line.added()
                  ? was.with(line.excepted(), item(line))
                  : was.without(line.excepted(), line.subject()));
        },
        register -> {
          throw new IllegalArgumentException("admin roles have no register");
        },
        role -> {
          throw new IllegalArgumentException("admin roles are not written otherwise yet");
        },
        item -> {
          throw new IllegalArgumentException("admin roles have no lists");
        });
  }

  private ScopeItem item(Redefinition.ScopeLine line) {
    return new ScopeItem.Listed(
        List.of(line.subject()),
        GroupMeaning.of(line.groups(), false),
        Place.of("proposal"),
        facts.kind(line.subject()).keyKind().word() + " " + facts.title(line.subject()));
  }

  @Override
  public AccessSystem admitting(Admission other) {
    return new ScopeSystem(facts, rights, definitions, roles, grants, Optional.of(other), null);
  }

  @Override
  public RoleChain roleChain(int role, int right) {
    return new RoleChain(List.of(roles.get(role).id()), rights.text(right));
  }
}
