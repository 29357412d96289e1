package org.sobercompass.core.delegation;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;

/**
 * Who trustees of directories' lists are, and of what sort. Ids that were brought along are looked
 * up once. Not thread-safe.
 */
public final class TrusteeNames {
  private static final String NOBODY = " (nobody)";

  private final Tokens tokens;
  private final Facts facts;
  private final Map<String, String> bearers = new HashMap<>();

  /** Of the directories of these tokens. O(objects). */
  public TrusteeNames(Tokens tokens) {
    this.tokens = tokens;
    this.facts = tokens.facts();
    for (DirectoryTree tree : tokens.trees()) {
      for (int object = 0; object < tree.size(); object++) {
        for (String old : tree.history(object)) {
          bearers.putIfAbsent(old, tree.label(object) + " (by an earlier id)");
        }
      }
    }
  }

  /** A trustee as people know it. */
  public String name(String sid) {
    Optional<Integer> subject = tokens.subject(sid);
    if (subject.isPresent()) {
      return Words.subject(facts, subject.get());
    }
    Optional<String> known = WellKnown.name(sid);
    return known.or(() -> label(sid)).orElse(sid + NOBODY);
  }

  private Optional<String> label(String sid) {
    for (DirectoryTree tree : tokens.trees()) {
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
    Optional<Integer> subject = tokens.subject(sid);
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
    List<DirectoryTree> trees = tokens.trees();
    return trees.stream().anyMatch(tree -> !tree.listing(sid).isEmpty());
  }
}
