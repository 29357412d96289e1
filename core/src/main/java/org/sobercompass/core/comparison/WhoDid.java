package org.sobercompass.core.comparison;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;

/** Who made changes, as far as what is read now says so. Not thread-safe. */
final class WhoDid {
  private final AccessModel now;
  private final Map<String, String> titles = new HashMap<>();

  WhoDid(AccessModel now) {
    this.now = now;
  }

  /**
   * Of an assignment whoever gave it, of a member whoever changed the group last; else empty.
   *
   * @param group the group whose members the step is about
   */
  String did(Step step, Optional<Key> group) {
    if (step instanceof Step.Assign) {
      for (Change change : new Proposal("", List.of(step.inverse())).on(now).changes()) {
        if (change instanceof Change.AssignmentRemoved given) {
          return now.view(given.system()).grants().get(given.grant()).grantedBy();
        }
      }
    }
    return group
        .flatMap(now.facts()::find)
        .flatMap(g -> now.facts().values(g, "modifiersname").stream().findFirst())
        .map(dn -> titles.computeIfAbsent(dn, this::titled))
        .orElse("");
  }

  /** Whom a DN names; the DN when it is nobody who was read. */
  private String titled(String dn) {
    Facts facts = now.facts();
    for (int account = 0; account < facts.accounts(); account++) {
      if (facts.dn(account).equalsIgnoreCase(dn)) {
        return facts.title(account);
      }
    }
    return dn;
  }
}
