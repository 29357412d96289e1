package org.sobercompass.core.removal;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.reference.SmallWorld;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;

/** Removals against plain trying of all sets of removals, on random small organizations. */
class UnpickTest {
  private static final int MOST_ACTIONS = 11;
  private static final Set<Via> LISTED = Set.of(Via.MEMBER, Via.UNIQUE_MEMBER, Via.MEMBER_UID);

  private int proved;
  private int stopped;
  private int tried;

  @Test
  void whatIsFoundEndsItAndNothingCheaperDoes() {
    for (int seed = 0; seed < 900; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      Asker asker = model.asker();
      SystemView view = model.systems().get(0);
      for (int account = 0; account < model.facts().accounts(); account++) {
        for (int right = seed % 3; right < view.rights().size(); right += 5) {
          int node = (seed + right) % view.resources().size();
          boolean held = asker.decide(view, account, Question.of(node, right)) == Verdict.YES;
          if (held) {
            one(model, wishes(model, seed), account, right, node);
          }
        }
      }
    }
    assertThat(tried).isGreaterThan(300);
    assertThat(proved).isGreaterThan(100);
    assertThat(stopped).isGreaterThan(10);
  }

  /** Everything at the usual costs, a group that must stay, or leaving at five times the cost. */
  private static Wishes wishes(AccessModel model, int seed) {
    return switch (seed / 3 % 3) {
      case 0 -> Wishes.NONE;
      case 1 -> new Wishes(Set.of(model.facts().firstGroup()), Set.of(), Map.of());
      default -> new Wishes(Set.of(), Set.of(), Map.of(Wishes.Kind.LEAVE, 5));
    };
  }

  private void one(AccessModel model, Wishes wishes, int account, int right, int node) {
    Removal removal = new Unpick(model, wishes).find(new NotHeld(account, 0, List.of(right), node));
    tried++;
    Map<String, Action> all = actions(model, wishes);
    assertThat(removal.changes()).allMatch(change -> wishes.allow(model, change));
    boolean none = removal.result() == Removal.Result.NONE_ENDS_IT;
    if (none || removal.result() == Removal.Result.NONE_ALLOWED) {
      stopped += none ? 0 : 1;
      assertThat(removal.changes()).isEmpty();
      if (all.size() <= MOST_ACTIONS) {
        assertThat(cheapest(model, all, account, right, node, Integer.MAX_VALUE)).isEmpty();
      }
      return;
    }
    assertThat(isHeld(model.with(removal.changes()), account, right, node)).isFalse();
    int cost = 0;
    for (Action action : all.values()) {
      cost += removal.changes().contains(action.change()) ? action.cost() : 0;
    }
    if (removal.result() == Removal.Result.PROVED_LEAST && all.size() <= MOST_ACTIONS) {
      proved++;
      assertThat(cheapest(model, all, account, right, node, cost)).isEmpty();
    }
  }

  /** A set of removals that ends it and costs less, if there is one. */
  private static List<Change> cheapest(
      AccessModel model, Map<String, Action> all, int account, int right, int node, int limit) {
    List<Action> actions = new ArrayList<>(all.values());
    for (int set = 1; set < 1 << actions.size(); set++) {
      List<Change> changes = new ArrayList<>();
      long cost = 0;
      for (int i = 0; i < actions.size(); i++) {
        if ((set >> i & 1) != 0) {
          changes.add(actions.get(i).change());
          cost += actions.get(i).cost();
        }
      }
      if (cost < limit && !isHeld(model.with(changes), account, right, node)) {
        return changes;
      }
    }
    return List.of();
  }

  private static boolean isHeld(AccessModel model, int account, int right, int node) {
    SystemView view = model.systems().get(0);
    return model.asker().decide(view, account, Question.of(node, right)) != Verdict.NO;
  }

  /** All that could be removed at all, with what it costs. */
  private static Map<String, Action> actions(AccessModel model, Wishes wishes) {
    Actions known = new Actions(model, wishes);
    List<Goal.Part> parts = new ArrayList<>();
    List<int[]> edges = new ArrayList<>();
    SystemView view = model.systems().get(0);
    for (int grant = 0; grant < view.grants().size(); grant++) {
      parts.add(
          new Goal.Part(
              0,
              new org.sobercompass.core.access.Route(
                  List.of(0), List.of(), grant, List.of(), "", 0, List.of())));
    }
    Map<String, Action> all =
        new TreeMap<>(
            known.of(new Goal.Still(parts, edges, List.of(), List.of(), true), model.graph()));
    for (int member = 0; member < model.facts().subjects(); member++) {
      for (int i = 0; i < model.graph().upCount(member); i++) {
        Via via = model.graph().upVia(member, i);
        if (LISTED.contains(via)) {
          var route =
              new org.sobercompass.core.access.Route(
                  List.of(member, model.graph().upGroup(member, i)),
                  List.of(via),
                  0,
                  List.of(),
                  "",
                  0,
                  List.of());
          if (!view.grants().isEmpty()) {
            all.putAll(known.of(Goal.Still.of(List.of(new Goal.Part(0, route))), model.graph()));
          }
        }
      }
    }
    return all;
  }

  @Test
  void effectsAreWhatDiffersBetweenAllAnswersBeforeAndAfter() {
    int gains = 0;
    for (int seed = 0; seed < 300; seed++) {
      AccessModel model = new SmallWorld(seed).model();
      for (Action action : actions(model, Wishes.NONE).values()) {
        Effects effects = Effects.of(model, List.of(action.change()));
        gains += effects.gives().size();
        check(model, model.with(List.of(action.change())), effects);
      }
    }
    assertThat(gains).isGreaterThan(20);
  }

  /** Each difference is told at the top of where it is, and nothing else is. */
  private static void check(AccessModel before, AccessModel after, Effects effects) {
    Asker then = before.asker();
    Asker now = after.asker();
    SystemView view = before.systems().get(0);
    SystemView viewNow = after.systems().get(0);
    Set<Effects.Effect> told = new HashSet<>(effects.ends());
    told.addAll(effects.gives());
    for (int account = 0; account < before.facts().accounts(); account++) {
      for (int right = 0; right < view.rights().size(); right++) {
        for (int node = 0; node < view.resources().size(); node++) {
          Can was = then.can(view, account, right, node);
          Can is = now.can(viewNow, account, right, node);
          boolean differs = was.held() != is.held() || was.verdict() != is.verdict();
          boolean isTold = told.contains(new Effects.Effect(account, 0, right, node));
          if (isTold) {
            assertThat(differs).isTrue();
          }
          if (differs && was.verdict() != is.verdict()) {
            assertThat(isToldAtOrAbove(told, view, account, right, node)).isTrue();
          }
        }
      }
    }
  }

  private static boolean isToldAtOrAbove(
      Set<Effects.Effect> told, SystemView view, int account, int right, int node) {
    for (int at = node; at >= 0; at = view.resources().parent(at)) {
      if (told.contains(new Effects.Effect(account, 0, right, at))) {
        return true;
      }
    }
    return false;
  }
}
