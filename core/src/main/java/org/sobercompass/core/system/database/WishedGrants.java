package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Trustees;

/**
 * The grants of the owners that give somebody privileges, and those that take them away: what one
 * has from the same owner stays in one item, as the server keeps it (PostgreSQL 15 documentation,
 * section 5.7). Thread-safe.
 *
 * @param facts the objects and grants
 * @param subjects all subjects
 * @param items the item that is a grant of an object, by number
 */
record WishedGrants(
    DatabaseFacts facts, Facts subjects, BiFunction<DatabaseFacts.Item, Integer, AclItem> items) {

  List<ListWish.Edit> giving(ListWish wish, long asked) {
    // Only what one may do oneself can be passed on.
    long mask = asked | (asked & DatabaseRights.OPTIONS) >>> DatabaseRights.LETTERS.length();
    if ((mask & (DatabaseRights.OWN | DatabaseRights.DROP)) != 0) {
      throw new IllegalArgumentException("no grant gives own or drop: that is for the owner");
    }
    String role = role(wish.subject());
    List<ListWish.Edit> edits = new ArrayList<>();
    List<ListWish.Edit> there = new ArrayList<>();
    for (int resource : places(wish, mask)) {
      DatabaseFacts.Item object = facts.item(resource);
      if (!object.known() || object.owner() < 0) {
        throw new IllegalArgumentException(
            "the grants of " + facts.tree().id(resource) + " were not read");
      }
      String owner = facts.trustees().text(object.owner());
      Optional<AclItem> was = has(object, role, owner);
      AclItem is = new AclItem(role, was.map(AclItem::mask).orElse(0L) | mask, owner);
      change(resource, was, is, edits);
      there.add(new ListWish.Edit(resource, is.text(), true));
    }
    return edits.isEmpty() ? there : edits;
  }

  /** What adds privileges to what somebody has from the same grantor. */
  List<ListWish.Edit> change(int resource, AclItem more) {
    Optional<AclItem> was = has(facts.item(resource), more.grantee(), more.grantor());
    long is = was.map(AclItem::mask).orElse(0L) | more.mask();
    List<ListWish.Edit> edits = new ArrayList<>();
    AclItem then = new AclItem(more.grantee(), is, more.grantor());
    change(resource, was, then, edits);
    return edits.isEmpty() ? List.of(new ListWish.Edit(resource, then.text(), true)) : edits;
  }

  private Optional<AclItem> has(DatabaseFacts.Item object, String grantee, String grantor) {
    return all(object).stream()
        .filter(item -> item.grantee().equals(grantee) && item.grantor().equals(grantor))
        .findFirst();
  }

  List<ListWish.Edit> taking(ListWish wish, long mask) {
    String role = role(wish.subject());
    List<ListWish.Edit> edits = new ArrayList<>();
    for (int resource : places(wish, mask)) {
      for (AclItem item : all(facts.item(resource))) {
        // Whoever may not do a thing may not pass it on either.
        long options = (mask << DatabaseRights.LETTERS.length()) & DatabaseRights.OPTIONS;
        long left = item.mask() & ~mask & ~options;
        if (item.grantee().equals(role) && left != item.mask()) {
          change(resource, Optional.of(item), new AclItem(role, left, item.grantor()), edits);
        }
      }
    }
    if (edits.isEmpty()) {
      throw new IllegalArgumentException(
          "no grant to "
              + (role.isEmpty() ? "everyone" : role)
              + " on "
              + facts.tree().id(wish.resource())
              + " gives it");
    }
    return edits;
  }

  private static void change(
      int resource, Optional<AclItem> was, AclItem is, List<ListWish.Edit> into) {
    if (was.isPresent() && was.get().mask() == is.mask()) {
      return;
    }
    was.ifPresent(item -> into.add(new ListWish.Edit(resource, item.text(), false)));
    if (is.mask() != 0) {
      into.add(new ListWish.Edit(resource, is.text(), true));
    }
  }

  private List<AclItem> all(DatabaseFacts.Item object) {
    List<AclItem> all = new ArrayList<>();
    for (int i = 0; i < object.given().size(); i++) {
      all.add(items.apply(object, i));
    }
    return all;
  }

  /** The object itself, or those below it that there are such rights on: the tables of a schema. */
  private List<Integer> places(ListWish wish, long mask) {
    int top = wish.resource();
    if ((facts.item(top).kind().rights() & mask) == mask) {
      return List.of(top);
    }
    List<Integer> places = new ArrayList<>();
    for (int r = top + 1; wish.below() && r < facts.tree().end(top); r++) {
      DatabaseFacts.Kind kind = facts.item(r).kind();
      if (kind != DatabaseFacts.Kind.COLUMN && (kind.rights() & mask) == mask) {
        places.add(r);
      }
    }
    if (places.isEmpty()) {
      throw new IllegalArgumentException(
          "there is no "
              + DatabaseRights.words(mask)
              + " on "
              + facts.tree().id(top)
              + ", a "
              + facts.item(top).kind().word());
    }
    return places;
  }

  /** The role that somebody is in the database; empty for everyone. */
  String role(int subject) {
    if (subjects.kind(subject) == SubjectKind.IMPLICIT) {
      return "";
    }
    for (int trustee = 1; trustee < facts.trustees().size(); trustee++) {
      if (facts.trustees().subject(trustee) == subject) {
        return facts.trustees().text(trustee);
      }
    }
    if (facts.trustees().find(subjects.login(subject)) > Trustees.EVERYONE) {
      return subjects.login(subject);
    }
    throw new IllegalArgumentException(subjects.title(subject) + " is no role of the database");
  }

  /**
   * A grant on an object, as text.
   *
   * @throws IllegalArgumentException when it is none
   */
  static AclItem item(String text) {
    boolean later = DefaultPrivileges.isMeant(text);
    return AclItem.of(text)
        .filter(item -> !later)
        .orElseThrow(
            () ->
                new IllegalArgumentException(
                    Problem.quote(text)
                        + (later
                            ? " is no default privilege, which is written "
                                + "new-table by \"maker\": role=r/maker"
                            : " is no grant of a database")));
  }
}
