package org.sobercompass.cli;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.MembershipGraph;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.NameResolver;

/** A group that is to be created, as it is typed. */
final class NewGroup {
  private final Inputs inputs;

  NewGroup(Inputs inputs) {
    this.inputs = inputs;
  }

  /** Of the kind of the group that was said, or of one that the first member is in. */
  Step.Presence named(String name, @Nullable String kind, List<String> members) {
    int like =
        kind != null
            ? inputs.names().group(kind)
            : members.isEmpty() ? -1 : groupOf(inputs.names().account(members.get(0)));
    if (like < 0) {
      throw new UsageException(
          "where the group is to stand is not said; expected --of-kind and a group that is there");
    }
    if (!NameResolver.find(inputs.model().facts(), SubjectKind.GROUP, name).isEmpty()) {
      throw new UsageException("there is a group " + name + " already");
    }
    return inputs.organization().groupLike(name, inputs.model().facts().key(like));
  }

  private int groupOf(int account) {
    MembershipGraph graph = inputs.model().graph();
    for (int i = 0; i < graph.upCount(account); i++) {
      if (graph.upVia(account, i).isListed()) {
        return graph.upGroup(account, i);
      }
    }
    return -1;
  }
}
