package org.sobercompass.core.membership;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.Filter;

/**
 * What one application sees of a directory. What it cannot see does not count.
 *
 * @param directory the name of the directory
 * @param also further directories whose accounts and groups are all seen, such as the accounts that
 *     the application keeps itself
 * @param on whether the connection is switched on
 * @param accountBases canonical DNs below which accounts are seen; none means everywhere
 * @param accountFilter which accounts are seen
 * @param groupBases canonical DNs below which groups are seen; none means everywhere
 * @param groupFilter which groups are seen
 * @param loginAttribute an attribute (lower case) that an account must have to be seen
 * @param profile which memberships it counts
 */
public record Sight(
    String directory,
    List<String> also,
    boolean on,
    List<String> accountBases,
    Optional<Filter> accountFilter,
    List<String> groupBases,
    Optional<Filter> groupFilter,
    Optional<String> loginAttribute,
    MembershipProfile profile)
    implements Counting {

  /** Sees all of a directory, with the widest profile. */
  public static Sight all(String directory) {
    return new Sight(
        directory,
        List.of(),
        true,
        List.of(),
        Optional.empty(),
        List.of(),
        Optional.empty(),
        Optional.empty(),
        MembershipProfile.WIDEST);
  }

  @Override
  public Memberships over(MembershipGraph graph) {
    return new Memberships(graph, profile, Visibility.of(graph.facts(), this));
  }

  @Override
  public Memberships over(MembershipGraph graph, Memberships known) {
    return graph.facts() == known.graph().facts()
        ? new Memberships(graph, profile, known.visibility())
        : over(graph);
  }

  /** The same sight with another profile. */
  public Sight with(MembershipProfile other) {
    return new Sight(
        directory,
        also,
        on,
        accountBases,
        accountFilter,
        groupBases,
        groupFilter,
        loginAttribute,
        other);
  }

  /** The same sight, for which an account must have this attribute (lower case) to be seen. */
  public Sight withLogin(String attribute) {
    return new Sight(
        directory,
        also,
        on,
        accountBases,
        accountFilter,
        groupBases,
        groupFilter,
        Optional.of(attribute),
        profile);
  }

  /** Whether accounts are seen only as far as they sign in as one of the system's own roles. */
  public boolean isByRoles() {
    return profile.counts().contains(Via.SIGNS_IN) && !profile.counts().contains(Via.MEMBER);
  }

  /** Whether it looks into a directory at all. */
  public boolean covers(String source) {
    return source.equals(directory) || also.contains(source);
  }

  /** The attributes (lower case) that must be read for this sight. */
  public Set<String> needs() {
    Set<String> needs = new LinkedHashSet<>();
    accountFilter.ifPresent(filter -> filter.collectAttributes(needs));
    groupFilter.ifPresent(filter -> filter.collectAttributes(needs));
    loginAttribute.ifPresent(needs::add);
    return needs;
  }
}
