package org.sobercompass.core.findings;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.removal.Wishes;

/**
 * By what is judged: all of it is data of the workspace, with a default for each. Frozen.
 *
 * @param separation what must be kept apart
 * @param thresholds from when on something is told
 * @param broad groups, by number, that count as broad whatever their size
 * @param everyday permissions that everyone may have
 * @param powerful permissions whose holders count as powerful, besides administrators
 * @param services accounts, groups and units, by number, whose accounts are service accounts,
 *     besides those that their source says are
 * @param ofServices permissions that service accounts may hold
 * @param peers the attributes (lower case) by whose values accounts are peers; none for no
 *     comparison
 * @param owners what must have an owner: {@code applications}, {@code groups}, {@code scopes}
 * @param ownerAttributes the attributes (lower case) that name the owner of a group
 * @param bothSides applications whose administrators should have power in the directory, and the
 *     other way
 * @param signInAttributes the attributes (lower case) that say when an account last signed in
 * @param blockingRoles whether roles that only take away are told where they take something away
 * @param fromAnywhere ids of the powers whose holders may not sign in from anywhere
 * @param sensitive places that not everyone should read: the id of a system, a colon, a node
 * @param usage when what was last used
 * @param weights weights of kinds that the workspace sets
 * @param off kinds that are not looked for
 * @param removals what removals may take, and at what price
 * @param routine changes between surveys that need no word
 */
public record FindingRules(
    List<SeparationRule> separation,
    Thresholds thresholds,
    Set<Integer> broad,
    List<Permission> everyday,
    List<Permission> powerful,
    Set<Integer> services,
    List<Permission> ofServices,
    List<String> peers,
    Set<String> owners,
    List<String> ownerAttributes,
    Set<String> bothSides,
    List<String> signInAttributes,
    boolean blockingRoles,
    Set<String> fromAnywhere,
    Set<String> sensitive,
    Usage usage,
    Map<FindingKind, Weight> weights,
    Set<FindingKind> off,
    Wishes removals,
    Routine routine) {

  /** The attributes that say when an account last signed in, of the usual directories. */
  public static final List<String> SIGN_IN_ATTRIBUTES =
      List.of("lastlogontimestamp", "authtimestamp", "pwdlastsuccess");

  /** The attributes that name the owner of a group, of the usual directories. */
  public static final List<String> OWNER_ATTRIBUTES = List.of("owner", "managedby");

  /** Copies. */
  public FindingRules {
    separation = List.copyOf(separation);
    broad = Set.copyOf(broad);
    everyday = List.copyOf(everyday);
    powerful = List.copyOf(powerful);
    services = Set.copyOf(services);
    ofServices = List.copyOf(ofServices);
    peers = List.copyOf(peers);
    owners = Set.copyOf(owners);
    ownerAttributes = List.copyOf(ownerAttributes);
    bothSides = Set.copyOf(bothSides);
    signInAttributes = List.copyOf(signInAttributes);
    fromAnywhere = Set.copyOf(fromAnywhere);
    sensitive = Set.copyOf(sensitive);
    weights = Map.copyOf(weights);
    off = Set.copyOf(off);
  }

  /** The usual thresholds, with these separation rules and nothing that must be configured. */
  public static FindingRules of(List<SeparationRule> separation) {
    return new Builder().separation(separation).build();
  }

  /** The same, with other kinds that are not looked for. */
  public FindingRules notLookingFor(Set<FindingKind> others) {
    return toBuilder().off(others).build();
  }

  /** To say some of it otherwise. */
  public Builder toBuilder() {
    return new Builder()
        .separation(separation)
        .thresholds(thresholds)
        .broad(broad)
        .everyday(everyday)
        .powerful(powerful)
        .services(services)
        .ofServices(ofServices)
        .peers(peers)
        .owners(owners)
        .ownerAttributes(ownerAttributes)
        .bothSides(bothSides)
        .signInAttributes(signInAttributes)
        .blockingRoles(blockingRoles)
        .fromAnywhere(fromAnywhere)
        .sensitive(sensitive)
        .usage(usage)
        .weights(weights)
        .off(off)
        .removals(removals)
        .routine(routine);
  }

  /** Says rules one by one; what is not said is as usual. Not thread-safe. */
  public static final class Builder {
    private List<SeparationRule> separation = List.of();
    private Thresholds thresholds = Thresholds.USUAL;
    private Set<Integer> broad = Set.of();
    private List<Permission> everyday = List.of();
    private List<Permission> powerful = List.of();
    private Set<Integer> services = Set.of();
    private List<Permission> ofServices = List.of();
    private List<String> peers = List.of();
    private Set<String> owners = Set.of();
    private List<String> ownerAttributes = OWNER_ATTRIBUTES;
    private Set<String> bothSides = Set.of();
    private List<String> signInAttributes = SIGN_IN_ATTRIBUTES;
    private boolean blockingRoles = false;
    private Set<String> fromAnywhere = Set.of();
    private Set<String> sensitive = Set.of();
    private Usage usage = Usage.NONE;
    private Map<FindingKind, Weight> weights = Map.of();
    private Set<FindingKind> off = Set.of();
    private Wishes removals = Wishes.NONE;
    private Routine routine = Routine.NONE;

    /** See {@link FindingRules#separation()}. */
    public Builder separation(List<SeparationRule> value) {
      separation = value;
      return this;
    }

    /** See {@link FindingRules#thresholds()}. */
    public Builder thresholds(Thresholds value) {
      thresholds = value;
      return this;
    }

    /** See {@link FindingRules#broad()}. */
    public Builder broad(Set<Integer> value) {
      broad = value;
      return this;
    }

    /** See {@link FindingRules#everyday()}. */
    public Builder everyday(List<Permission> value) {
      everyday = value;
      return this;
    }

    /** See {@link FindingRules#powerful()}. */
    public Builder powerful(List<Permission> value) {
      powerful = value;
      return this;
    }

    /** See {@link FindingRules#services()}. */
    public Builder services(Set<Integer> value) {
      services = value;
      return this;
    }

    /** See {@link FindingRules#ofServices()}. */
    public Builder ofServices(List<Permission> value) {
      ofServices = value;
      return this;
    }

    /** See {@link FindingRules#peers()}. */
    public Builder peers(List<String> value) {
      peers = value;
      return this;
    }

    /** See {@link FindingRules#owners()}. */
    public Builder owners(Set<String> value) {
      owners = value;
      return this;
    }

    /** See {@link FindingRules#ownerAttributes()}. */
    public Builder ownerAttributes(List<String> value) {
      ownerAttributes = value;
      return this;
    }

    /** See {@link FindingRules#bothSides()}. */
    public Builder bothSides(Set<String> value) {
      bothSides = value;
      return this;
    }

    /** See {@link FindingRules#signInAttributes()}. */
    public Builder signInAttributes(List<String> value) {
      signInAttributes = value;
      return this;
    }

    /** See {@link FindingRules#blockingRoles()}. */
    public Builder blockingRoles(boolean value) {
      blockingRoles = value;
      return this;
    }

    /** See {@link FindingRules#fromAnywhere()}. */
    public Builder fromAnywhere(Set<String> value) {
      fromAnywhere = value;
      return this;
    }

    /** See {@link FindingRules#sensitive()}. */
    public Builder sensitive(Set<String> value) {
      sensitive = value;
      return this;
    }

    /** See {@link FindingRules#usage()}. */
    public Builder usage(Usage value) {
      usage = value;
      return this;
    }

    /** See {@link FindingRules#weights()}. */
    public Builder weights(Map<FindingKind, Weight> value) {
      weights = value;
      return this;
    }

    /** See {@link FindingRules#off()}. */
    public Builder off(Set<FindingKind> value) {
      off = value;
      return this;
    }

    /** See {@link FindingRules#removals()}. */
    public Builder removals(Wishes value) {
      removals = value;
      return this;
    }

    /** See {@link FindingRules#routine()}. */
    public Builder routine(Routine value) {
      routine = value;
      return this;
    }

    /** The rules. */
    public FindingRules build() {
      return new FindingRules(
          separation,
          thresholds,
          broad,
          everyday,
          powerful,
          services,
          ofServices,
          peers,
          owners,
          ownerAttributes,
          bothSides,
          signInAttributes,
          blockingRoles,
          fromAnywhere,
          sensitive,
          usage,
          weights,
          off,
          removals,
          routine);
    }
  }
}
