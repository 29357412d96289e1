package org.sobercompass.core.comparison;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;

/**
 * Who made changes, as far as what is read now says so: whoever gave an assignment; whoever changed
 * a group, an account or an object last; whoever created an entry. Not thread-safe.
 */
final class WhoDid {
  private static final String CHANGED = "modifiersname";
  private static final String CREATED = "creatorsname";

  private final Assessment before;
  private final AccessModel now;
  private final Map<String, String> titles = new HashMap<>();

  /**
   * @param before what the numbers of changes are of
   */
  WhoDid(Assessment before, AccessModel now) {
    this.before = before;
    this.now = now;
  }

  /** Who made a step, which comes to a change of what was before; empty when it is not said. */
  String did(Step step, Change change) {
    if (step instanceof Step.Assign) {
      for (Change given : new Proposal("", List.of(step.inverse())).on(now).changes()) {
        if (given instanceof Change.AssignmentRemoved there) {
          return now.view(there.system()).grants().get(there.grant()).grantedBy();
        }
      }
    }
    Facts facts = before.model().facts();
    return change
        .<Optional<Key>>fold(
            moved -> Optional.of(facts.key(moved.group())),
            own ->
                own.<Optional<Key>>byKind(
                    added -> Optional.empty(),
                    removed ->
                        object(
                            removed.system(),
                            view(removed.system()).grants().get(removed.grant()).resource()),
                    redefined ->
                        redefined
                            .how()
                            .<Optional<Key>>byKind(
                                scope -> Optional.empty(),
                                register -> Optional.empty(),
                                role -> Optional.empty(),
                                item -> object(redefined.system(), item.resource()),
                                written -> Optional.empty())),
            self -> Optional.of(facts.key(self.subject())))
        .map(key -> said(key, CHANGED))
        .orElse("");
  }

  /** Who created an account or group that is there now; empty when it is not said. */
  String created(Key subject) {
    return said(subject, CREATED);
  }

  private SystemView view(int system) {
    return before.model().view(system);
  }

  /** The account, group or unit whose list is meant; empty for other lists and objects. */
  private Optional<Key> object(int system, int resource) {
    if (!(view(system).system() instanceof DirectoryLists lists)) {
      return Optional.empty();
    }
    int subject = before.powers().trees().subject(lists.tree(), resource);
    return subject < 0 ? Optional.empty() : Optional.of(before.model().facts().key(subject));
  }

  private String said(Key subject, String attribute) {
    return now.facts()
        .find(subject)
        .flatMap(s -> now.facts().values(s, attribute).stream().findFirst())
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
