package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.MembershipPaths;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;

/** Finds the ways in which an account can do something. Not thread-safe, like its asker. */
final class ActWays {
  private final Asker asker;
  private final Facts facts;

  ActWays(Asker asker) {
    this.asker = asker;
    this.facts = asker.model().facts();
  }

  /** The ways by each of what is asked, in their order. */
  List<Powers.Way> of(int account, List<Powers.Part> parts) {
    List<Powers.Way> ways = new ArrayList<>();
    for (Powers.Part one : parts) {
      List<Layer> layers =
          one.view().decider().layers(asker.token(one.view(), account), one.question());
      for (Layer layer : layers) {
        int first = ways.size();
        layer.gives().forEach(grant -> ways.add(way(account, one.view(), grant, true)));
        layer.stops().forEach(grant -> ways.add(way(account, one.view(), grant, false)));
        if (!layer.note().isEmpty() && first < ways.size()) {
          Powers.Way owned = ways.get(first);
          ways.set(
              first,
              new Powers.Way(
                  List.of(account),
                  owned.system(),
                  owned.grant(),
                  layer.note(),
                  true,
                  owned.spot()));
        }
      }
      if (layers.isEmpty()) {
        asker
            .explain(one.view(), account, one.question(), Limits.USUAL)
            .proofs()
            .forEach(proof -> ways.add(way(account, one.view(), proof.grant(), true)));
      }
    }
    return ways;
  }

  private Powers.Way way(int account, SystemView view, int grant, boolean gives) {
    int subject = view.grants().get(grant).counted(facts);
    List<Integer> chain = List.of(account);
    if (subject >= 0 && facts.kind(subject) != SubjectKind.IMPLICIT) {
      List<MembershipPaths.Path> found =
          new MembershipPaths(view.memberships()).find(account, subject, 1).list();
      chain = found.isEmpty() ? chain : found.get(0).subjects();
    }
    return new Powers.Way(chain, view, grant, "", gives, Powers.spot(view, grant));
  }
}
