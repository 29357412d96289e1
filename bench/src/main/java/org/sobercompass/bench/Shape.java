package org.sobercompass.bench;

import java.util.Arrays;
import java.util.Locale;
import java.util.stream.Collectors;

/**
 * The shapes of organization that are measured. Speed on one says little about another: each has
 * its own ratio of groups, applications, nodes and rights.
 */
public enum Shape {
  /** Few applications of one node, groups of like size on eight levels. */
  FLAT(40, 1, 30, false, Places.ONE),
  /** The same with trees, grants that do not reach down, windows, deny and nearest. */
  FULL(40, 200, 30, false, Places.TREE),
  /** As flat, but the sizes of groups follow a power law. */
  POPULAR(40, 1, 30, true, Places.ONE),
  /** As popular, but some groups do not show their members, so anybody may be one. */
  HIDDEN(40, 1, 30, true, Places.ONE),
  /** As flat, but every assignment is at one of fifty nodes and does not reach down. */
  SPREAD(40, 50, 30, false, Places.SINGLE),
  /** Many applications, few large roles, power law, single nodes. */
  WIDE(300, 50, 8, true, Places.SINGLE),
  /** Many applications with trees, windows, deny and nearest, power law. */
  FOREST(300, 50, 30, true, Places.TREE);

  /** Where assignments are given. */
  enum Places {
    ONE,
    SINGLE,
    TREE
  }

  final int applications;
  final int nodes;
  final int roles;
  final boolean powerLaw;
  final Places places;

  Shape(int applications, int nodes, int roles, boolean powerLaw, Places places) {
    this.applications = applications;
    this.nodes = nodes;
    this.roles = roles;
    this.powerLaw = powerLaw;
    this.places = places;
  }

  /** How many applications there are. */
  public int applications() {
    return applications;
  }

  /** Whether assignments may end, be denied, be outweighed, or not reach down. */
  boolean weighs() {
    return places == Places.TREE;
  }

  /** Whether the roles are few and large. */
  boolean hasLargeRoles() {
    return roles < 10;
  }

  /** Whether every group lists somebody; a group of names that lists nobody hides its members. */
  boolean showsMembers() {
    return this != HIDDEN;
  }

  /** The shape with a name. */
  static Shape of(String name) {
    for (Shape shape : values()) {
      if (shape.word().equals(name)) {
        return shape;
      }
    }
    throw new IllegalArgumentException(
        "\""
            + name
            + "\" is no shape; shapes: "
            + Arrays.stream(values()).map(Shape::word).collect(Collectors.joining(", ")));
  }

  /** Its name, as typed. */
  String word() {
    return name().toLowerCase(Locale.ROOT);
  }
}
