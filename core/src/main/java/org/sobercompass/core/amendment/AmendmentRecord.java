package org.sobercompass.core.amendment;

import java.util.List;

/**
 * One change at one place of one system, made whole or not at all. What it counts on, what it makes
 * and what undoes it are the same values. Immutable.
 *
 * @param number its place in the order, from 1
 * @param target the name of the directory or system
 * @param place where: an entry's DN, a path, a database, a file
 * @param id what finds the same thing where the place has another name since, in the terms of its
 *     system (an LDAP filter); empty where there is nothing of the kind
 * @param words what it does, for people
 * @param differences what changes there
 */
public record AmendmentRecord(
    int number,
    String target,
    String place,
    String id,
    String words,
    List<Difference> differences) {
  /** Of a place that keeps its name. */
  public AmendmentRecord(
      int number, String target, String place, String words, List<Difference> differences) {
    this(number, target, place, "", words, differences);
  }

  /** Copies. */
  public AmendmentRecord {
    differences = List.copyOf(differences);
  }

  /** The record that takes this one back; it has the same number. */
  public AmendmentRecord inverse() {
    return new AmendmentRecord(
        number, target, place, id, words, differences.stream().map(Difference::inverse).toList());
  }
}
