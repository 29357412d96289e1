package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.membership.Sight;

/**
 * What systems of access control lists have in common: one basis, what was read; no assignments to
 * compare with what was agreed.
 */
public abstract class ListedSystem implements AccessSystem {
  private final Definition definition;

  /**
   * What such a system is besides its lists.
   *
   * @param id unique in the workspace
   * @param name for people
   * @param sight what it sees of the directory
   * @param admission whom it admits
   * @param files the files its lists were read from
   */
  public record Definition(
      String id, String name, Sight sight, Admission admission, List<String> files) {}

  /** A system with this definition. */
  protected ListedSystem(Definition definition) {
    this.definition = definition;
  }

  @Override
  public final String id() {
    return definition.id;
  }

  @Override
  public final String name() {
    return definition.name;
  }

  @Override
  public final Sight sight() {
    return definition.sight;
  }

  @Override
  public final Admission admission() {
    return definition.admission;
  }

  @Override
  public final List<String> files() {
    return definition.files;
  }

  @Override
  public final Basis usualBasis() {
    return Basis.ACTUAL;
  }

  @Override
  public final boolean hasBothBases() {
    return false;
  }

  /** Whether a grant is an entry; O(1), since all of a list may be asked. */
  @Override
  public abstract boolean isRemovable(int grant, Basis basis);

  /** Entries are many, and nobody gives them one by one. */
  @Override
  public Map<Integer, Integer> carried(Basis basis, long asOf) {
    return Map.of();
  }

  @Override
  public final List<Grant> assigned(Basis basis) {
    return List.of();
  }

  @Override
  public final boolean isOfLists() {
    return true;
  }

  /** Entries can be taken out in a preview; nothing is put in yet. */
  @Override
  public final AccessSystem with(List<Change.OfSystem> changes, Basis basis) {
    List<Integer> taken = new ArrayList<>();
    List<Redefinition> otherwise = new ArrayList<>();
    for (Change.OfSystem change : changes) {
      change.<Boolean>byKind(
          added -> {
            throw new UnsupportedOperationException(
                "new entries are not previewed; leave " + definition.id + " out of them");
          },
          removed -> taken.add(removed.grant()),
          redefined -> otherwise.add(redefined.how()));
    }
    AccessSystem changed = taken.isEmpty() ? this : without(taken);
    for (Redefinition how : otherwise) {
      changed = changed.redefined(how);
    }
    return changed;
  }

  @Override
  public final AccessSystem admitting(Admission other) {
    return defined(
        new Definition(definition.id, definition.name, definition.sight, other, definition.files));
  }

  /** The same lists with another definition. */
  protected abstract AccessSystem defined(Definition other);

  /** The same without several grants at once. */
  protected AccessSystem without(List<Integer> grants) {
    AccessSystem changed = this;
    for (int grant : grants) {
      changed = ((ListedSystem) changed).without(grant);
    }
    return changed;
  }

  /**
   * The same system as if a grant, and what others have from it, were not there; the numbers of the
   * others stay.
   *
   * @throws IllegalArgumentException when it is no entry that could be removed
   */
  protected abstract AccessSystem without(int grant);

  /** What the system is besides its lists. */
  protected final Definition definition() {
    return definition;
  }

  @Override
  public final RoleChain roleChain(int role, int right) {
    return new RoleChain(List.of(roles().get(role).id()), rights().text(right));
  }
}
