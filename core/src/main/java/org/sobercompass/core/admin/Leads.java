package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.scope.AdminGrant;

/** The actions by which an account or a group is had, with who is given them. Not thread-safe. */
final class Leads {
  private static final List<String> OF_ACCOUNTS =
      List.of("set-password", "change-permissions", "take-ownership");
  private static final List<String> OF_GROUPS =
      List.of("edit-members", "add-self", "change-permissions", "take-ownership");

  private final Powers powers;
  private final Map<String, List<AdminGrant>> granting = new HashMap<>();
  private final List<Lead> ofAccounts;
  private final List<Lead> ofGroups;

  /**
   * An action by which a subject is had.
   *
   * @param grants of admin roles with the action that are still to be followed; an action on
   *     accounts and on groups shares them
   * @param fits whether it can be done to an account or group that is in no directory's tree
   */
  record Lead(AdminAction action, List<AdminGrant> grants, boolean fits) {}

  Leads(Powers powers) {
    this.powers = powers;
    this.ofAccounts = leads(OF_ACCOUNTS, 0);
    this.ofGroups = leads(OF_GROUPS, powers.model().facts().firstGroup());
  }

  List<Lead> to(SubjectKind kind) {
    return kind == SubjectKind.GROUP ? ofGroups : ofAccounts;
  }

  private List<Lead> leads(List<String> ids, int subject) {
    Administration all = powers.roles().administration();
    Powers.Thing like = new Powers.Thing(subject, Optional.empty());
    return ids.stream()
        .map(all::action)
        .flatMap(Optional::stream)
        .map(
            action ->
                new Lead(
                    action,
                    granting.computeIfAbsent(action.id(), this::granting),
                    powers.fits(action, like)))
        .toList();
  }

  /** The grants of roles with an action. */
  private List<AdminGrant> granting(String action) {
    Administration all = powers.roles().administration();
    long asOf = powers.model().asOf().getEpochSecond();
    List<AdminGrant> found = new ArrayList<>();
    for (AdminGrant grant : all.grants()) {
      if (grant.subject() >= 0
          && grant.activeAt(asOf)
          && all.roles().get(grant.role()).actions().contains(action)) {
        found.add(grant);
      }
    }
    return found;
  }
}
