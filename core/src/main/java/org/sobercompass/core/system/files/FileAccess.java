package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.IntFunction;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.ListLine;
import org.sobercompass.core.system.ListMark;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;

/** Files and folders as an {@link AccessSystem}. Frozen and thread-safe. */
public final class FileAccess extends ListedSystem {
  private final List<Integer> administrators;
  private final FileFacts facts;
  private final Facts subjects;
  private final FileGrants grants;
  private final FileDecider decider;

  /**
   * A file system with its lists. O(paths).
   *
   * @param administrators trustees, by number, who may own folders without a remark
   */
  public FileAccess(
      Definition definition, List<Integer> administrators, FileFacts facts, Facts subjects) {
    super(definition);
    this.administrators = List.copyOf(administrators);
    this.facts = facts;
    this.subjects = subjects;
    this.grants = new FileGrants(facts, subjects);
    this.decider = new FileDecider(facts, grants);
  }

  @Override
  protected AccessSystem without(int grant) {
    return new FileAccess(definition(), administrators, grants.without(grant), subjects);
  }

  @Override
  protected AccessSystem defined(Definition other) {
    return new FileAccess(other, administrators, facts, subjects);
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
  public String combining() {
    return switch (facts.style()) {
      case SHARED -> "what the lists of share and file both allow; the first entry decides";
      case NFS4 -> "the first entry decides; each folder above must let pass";
      case POSIX -> "one entry must allow all that is asked; each folder above must let pass";
    };
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
  public OptionalInt entry(int grant) {
    return grants.entry(grant);
  }

  @Override
  public Decider decider(Basis basis) {
    return decider;
  }

  @Override
  public List<Remark> remarks(long asOf, IntFunction<SubjectSet> subjectsOf) {
    return new FileRemarks(facts, grants, administrators, subjectsOf).all();
  }

  @Override
  public int unread() {
    return facts.unread();
  }

  @Override
  public List<ListLine> list(int resource) {
    List<ListLine> lines = new ArrayList<>();
    new FileLines(facts, grants).of(resource, lines);
    return List.copyOf(lines);
  }

  @Override
  public String what(int resource) {
    return new FileLines(facts, grants).what(resource);
  }

  @Override
  public Set<ListMark> marks(int resource) {
    return new FileLines(facts, grants).marks(resource);
  }

  @Override
  public List<String> made(int resource) {
    return new FileLines(facts, grants).made(resource);
  }
}
