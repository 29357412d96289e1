package org.sobercompass.core.findings;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.findings.Side.Permission;
import org.sobercompass.core.findings.Side.RoleHeld;
import org.sobercompass.core.problem.Place;

/**
 * What nobody may hold together: at least one of each of {@code atLeast} sides.
 *
 * @param id unique in the workspace
 * @param name what must be kept apart, for people
 * @param sides each a list of permissions, roles or admin actions
 * @param atLeast how many sides make a conflict; 2 or more
 * @param where how near to each other the sides must be held
 * @param perPerson whether linked accounts of one person count together
 * @param except accounts and groups, by number, who may hold them together
 * @param weight how much it matters
 * @param place where it stands
 */
public record SeparationRule(
    String id,
    String name,
    List<List<Side>> sides,
    int atLeast,
    Where where,
    boolean perPerson,
    List<Integer> except,
    Weight weight,
    Place place) {

  /** How near to each other the sides must be held to be a conflict. */
  public enum Where {
    /** Wherever in the trees. */
    ANYWHERE("anywhere"),
    /** One at a node at, above or below a node of the other. */
    OVERLAPPING("overlapping"),
    /** At one node; in several applications at nodes with the same id. */
    SAME_NODE("same-node");

    private final String word;

    Where(String word) {
      this.word = word;
    }

    /** The word in a workspace. */
    public String word() {
      return word;
    }
  }

  /** Copies. */
  public SeparationRule {
    sides = sides.stream().map(List::copyOf).toList();
    except = List.copyOf(except);
  }

  /** The ids of the systems of whose permissions or roles it speaks. */
  public Set<String> systems() {
    Set<String> ids = new LinkedHashSet<>();
    for (List<Side> side : sides) {
      for (Side one : side) {
        if (one instanceof Permission permission) {
          ids.add(permission.system());
        } else if (one instanceof RoleHeld role) {
          ids.add(role.system());
        }
      }
    }
    return ids;
  }

  /** The same rule with another nearness, per person or per account. */
  public SeparationRule held(Where other, boolean persons) {
    return new SeparationRule(id, name, sides, atLeast, other, persons, except, weight, place);
  }

  /** A rule over permissions, anywhere, per person, without exceptions. */
  public static SeparationRule of(
      String id,
      String name,
      List<List<Permission>> sides,
      int atLeast,
      Weight weight,
      Place place) {
    return new SeparationRule(
        id,
        name,
        sides.stream().map(side -> side.stream().<Side>map(p -> p).toList()).toList(),
        atLeast,
        Where.ANYWHERE,
        true,
        List.of(),
        weight,
        place);
  }
}
