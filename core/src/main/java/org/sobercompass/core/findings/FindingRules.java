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
    return new FindingRules(
        separation,
        Thresholds.USUAL,
        Set.of(),
        List.of(),
        List.of(),
        Set.of(),
        List.of(),
        List.of(),
        Set.of(),
        OWNER_ATTRIBUTES,
        Set.of(),
        SIGN_IN_ATTRIBUTES,
        false,
        Set.of(),
        Set.of(),
        Usage.NONE,
        Map.of(),
        Set.of(),
        Wishes.NONE,
        Routine.NONE);
  }

  /** The same, with other kinds that are not looked for. */
  public FindingRules notLookingFor(Set<FindingKind> others) {
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
        others,
        removals,
        routine);
  }
}
