package org.sobercompass.sources.delegation;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.ActionRights;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.directory.DirectorySystem;
import org.sobercompass.core.system.scopes.ScopeSystem;

/** Makes the systems of delegated administration: one of the admin roles, one a directory. */
public final class DelegatedSystems {
  private DelegatedSystems() {}

  /**
   * Who can administer what in a model, which is given these systems for it. O(objects).
   *
   * @param administration what the workspace states
   * @param trees the directories' objects with their lists
   */
  public static Powers powers(
      AccessModel model, Administration administration, List<DirectoryTree> trees) {
    Facts facts = model.facts();
    DirectoryTrees directories = new DirectoryTrees(facts, trees);
    ActionRights rights = new ActionRights(administration.actions());
    List<AccessSystem> systems = new ArrayList<>();
    systems.add(
        ScopeSystem.of(
            facts,
            rights,
            administration.scopes(),
            administration.roles(),
            administration.grants(),
            administration.settings()));
    systems.addAll(DirectorySystem.of(directories, rights));
    return new Powers(model.delegating(systems), administration, directories);
  }
}
