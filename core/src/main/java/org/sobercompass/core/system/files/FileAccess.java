package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.ListLine;
import org.sobercompass.core.system.ListMark;
import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;

/** Files and folders as an {@link AccessSystem}. Frozen and thread-safe. */
public final class FileAccess implements AccessSystem {
  private final Definition definition;
  private final FileFacts facts;
  private final FileGrants grants;
  private final FileDecider decider;

  /**
   * What a file system is besides its lists.
   *
   * @param id unique in the workspace
   * @param name for people
   * @param sight what it sees of the directory
   * @param admission whom it admits
   * @param files the files the lists were read from
   * @param administrators trustees, by number, who may own things without a remark
   */
  public record Definition(
      String id,
      String name,
      Sight sight,
      Admission admission,
      List<String> files,
      List<Integer> administrators) {}

  /** A file system with its lists. O(paths). */
  public FileAccess(Definition definition, FileFacts facts, Facts subjects) {
    this.definition = definition;
    this.facts = facts;
    this.grants = new FileGrants(facts, subjects);
    this.decider = new FileDecider(facts, grants);
  }

  /** The paths and lists. */
  public FileFacts facts() {
    return facts;
  }

  @Override
  public String kind() {
    return facts.style().kind();
  }

  @Override
  public String id() {
    return definition.id;
  }

  @Override
  public String name() {
    return definition.name;
  }

  @Override
  public String combining() {
    return switch (facts.style()) {
      case SHARED -> "what the lists of share and file both allow; the first entry decides";
      case NFS4 -> "the first entry decides; each folder above must let pass";
      case POSIX -> "one entry must allow all that is asked; each folder above must let pass";
    };
  }

  @Override
  public Sight sight() {
    return definition.sight;
  }

  @Override
  public Rights rights() {
    return facts.style().rights();
  }

  @Override
  public Resources resources() {
    return facts.tree();
  }

  @Override
  public List<RoleInfo> roles() {
    return grants.roles();
  }

  @Override
  public List<Grant> grants(Basis basis) {
    return grants;
  }

  @Override
  public Basis usualBasis() {
    return Basis.ACTUAL;
  }

  @Override
  public boolean hasBothBases() {
    return false;
  }

  @Override
  public Admission admission() {
    return definition.admission;
  }

  @Override
  public Decider decider(Basis basis) {
    return decider;
  }

  @Override
  public AccessSystem with(List<Change> changes, Basis basis) {
    throw new UnsupportedOperationException(
        "changes to lists of files are not previewed; leave " + definition.id + " out of them");
  }

  @Override
  public List<String> files() {
    return definition.files;
  }

  @Override
  public boolean isOfLists() {
    return true;
  }

  @Override
  public List<Remark> remarks(long asOf, IntFunction<SubjectSet> subjectsOf) {
    return new FileRemarks(facts, grants, definition.administrators, subjectsOf).all();
  }

  @Override
  public List<ListLine> list(int resource) {
    List<ListLine> lines = new ArrayList<>();
    new FileLines(facts, grants).of(resource, lines);
    return List.copyOf(lines);
  }

  @Override
  public Set<ListMark> marks(int resource) {
    return new FileLines(facts, grants).marks(resource);
  }

  @Override
  public List<String> made(int resource) {
    return new FileLines(facts, grants).made(resource);
  }

  @Override
  public RoleChain roleChain(int role, int right) {
    return new RoleChain(List.of(grants.roles().get(role).id()), rights().text(right));
  }
}
