package org.sobercompass.core.system;

import java.util.List;
import org.sobercompass.core.membership.Sight;

/**
 * What systems of access control lists have in common: one basis, what was read; no assignments to
 * compare with what was agreed, and no previews of changes yet.
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

  @Override
  public final boolean isOfLists() {
    return true;
  }

  @Override
  public final AccessSystem with(List<Change> changes, Basis basis) {
    throw new UnsupportedOperationException(
        "changes to lists are not previewed; leave " + definition.id + " out of them");
  }

  @Override
  public final RoleChain roleChain(int role, int right) {
    return new RoleChain(List.of(roles().get(role).id()), rights().text(right));
  }
}
