package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Grant;

/**
 * The difference between what was agreed and what was read from an application: grants of the same
 * role to the same subject at the same node are held against each other.
 */
public final class Drift {
  private Drift() {}

  /** What a difference is. */
  public enum Kind {
    INTENDED_ONLY,
    ACTUAL_ONLY,
    DIFFERENT
  }

  /**
   * One difference.
   *
   * @param kind what it is
   * @param intended the agreed grant, if there is one
   * @param actual the grant as read, if there is one
   */
  public record Difference(Kind kind, Optional<Grant> intended, Optional<Grant> actual) {
    /** The grant to speak of: the agreed one if there is one. */
    public Grant grant() {
      return intended.or(() -> actual).orElseThrow();
    }
  }

  /** All differences of a system, by role, subject and node; none when one basis was not read. */
  public static List<Difference> of(AccessSystem system) {
    if (!system.hasBothBases()) {
      return List.of();
    }
    Map<String, List<Grant>> intended = byIdentity(system, Basis.INTENDED);
    Map<String, List<Grant>> actual = byIdentity(system, Basis.ACTUAL);
    List<Difference> found = new ArrayList<>();
    intended.forEach((id, grants) -> compare(grants, actual.getOrDefault(id, List.of()), found));
    actual.forEach(
        (id, grants) -> {
          if (!intended.containsKey(id)) {
            grants.forEach(g -> found.add(only(Kind.ACTUAL_ONLY, g)));
          }
        });
    found.sort(Comparator.comparing(d -> identity(system, d.grant()), Key::compareUtf8));
    return found;
  }

  private static void compare(List<Grant> intended, List<Grant> actual, List<Difference> found) {
    List<Grant> left = new ArrayList<>(actual);
    List<Grant> open = new ArrayList<>();
    for (Grant grant : intended) {
      Optional<Grant> same = left.stream().filter(other -> same(grant, other)).findFirst();
      same.ifPresentOrElse(left::remove, () -> open.add(grant));
    }
    for (Grant grant : open) {
      found.add(
          left.isEmpty()
              ? only(Kind.INTENDED_ONLY, grant)
              : new Difference(Kind.DIFFERENT, Optional.of(grant), Optional.of(left.remove(0))));
    }
    left.forEach(grant -> found.add(only(Kind.ACTUAL_ONLY, grant)));
  }

  private static boolean same(Grant a, Grant b) {
    return a.descends() == b.descends()
        && a.on() == b.on()
        && a.from() == b.from()
        && a.until() == b.until();
  }

  private static Difference only(Kind kind, Grant grant) {
    return kind == Kind.INTENDED_ONLY
        ? new Difference(kind, Optional.of(grant), Optional.empty())
        : new Difference(kind, Optional.empty(), Optional.of(grant));
  }

  private static Map<String, List<Grant>> byIdentity(AccessSystem system, Basis basis) {
    Map<String, List<Grant>> map = new TreeMap<>(Key::compareUtf8);
    for (Grant grant : system.grants(basis)) {
      if (!grant.declared() && !grant.isWithdrawn()) {
        map.computeIfAbsent(identity(system, grant), id -> new ArrayList<>()).add(grant);
      }
    }
    return map;
  }

  /** Role, subject and node as one text. */
  public static String identity(AccessSystem system, Grant grant) {
    String subject =
        grant.subject() < 0
            ? "?" + grant.subjectText()
            : String.format(java.util.Locale.ROOT, "#%010d", grant.subject());
    return system.roles().get(grant.role()).id()
        + " "
        + subject
        + " "
        + system.resources().id(grant.resource());
  }
}
