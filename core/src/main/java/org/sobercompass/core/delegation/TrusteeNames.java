package org.sobercompass.core.delegation;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;

/**
 * Who trustees of directories' lists are, and of what sort. Ids that were brought along are looked
 * up once. Not thread-safe.
 */
public final class TrusteeNames {
  private static final String NOBODY = " (nobody)";

  private final DirectoryTrees trees;
  private final Facts facts;
  private final Map<String, String> bearers = new HashMap<>();

  /** Of these directories. O(objects). */
  public TrusteeNames(DirectoryTrees trees) {
    this.trees = trees;
    this.facts = trees.facts();
    for (DirectoryTree tree : trees.all()) {
      for (int object = 0; object < tree.size(); object++) {
        for (String old : tree.history(object)) {
          bearers.putIfAbsent(old, tree.label(object) + " (by a former id)");
        }
      }
    }
  }

  /** A trustee as people know it. */
  public String name(String sid) {
    Optional<Integer> subject = trees.subject(sid);
    if (subject.isPresent()) {
      return facts.title(subject.get());
    }
    Optional<String> known = WellKnown.name(sid);
    return known.or(() -> label(sid)).orElse(sid + NOBODY);
  }

  private Optional<String> label(String sid) {
    for (DirectoryTree tree : trees.all()) {
      int object = tree.bySid(sid);
      if (object >= 0) {
        return Optional.of(tree.label(object));
      }
    }
    return Optional.ofNullable(bearers.get(sid));
  }

  /** What sort of holder it is. */
  public TrusteeKind kind(String sid) {
    if (WellKnown.isBroad(sid)) {
      return TrusteeKind.BROAD;
    }
    Optional<Integer> subject = trees.subject(sid);
    if (subject.isPresent()) {
      return facts.kind(subject.get()) == SubjectKind.ACCOUNT
          ? TrusteeKind.PERSON
          : TrusteeKind.GROUP;
    }
    if (WellKnown.name(sid).isPresent() || sid.startsWith("S-1-5-32-")) {
      return TrusteeKind.SYSTEM;
    }
    return label(sid).isPresent() || isListed(sid) ? TrusteeKind.GROUP : TrusteeKind.NOBODY;
  }

  /** Whether a group lists it: a trustee of elsewhere. */
  private boolean isListed(String sid) {
    return trees.all().stream().anyMatch(tree -> !tree.listing(sid).isEmpty());
  }
}
